#include "question/period.h"

#include "quantity/constants.h"

#include <cassert>
#include <cmath>

namespace mavlo {
namespace {}

std::vector<Position> electrical_period(const Machine& machine, int points, const CurrentWave& current) {
    assert(points > 0);
    std::vector<Position> positions;
    for (int i = 0; i < points; ++i) {
        const double angle = 2 * pi / machine.pole_pairs() * i / points;
        positions.push_back({angle, current.at(electrical_angle(machine, angle), machine.winding.layout.lags)});
    }
    return positions;
}

int period_solves(const Machine& machine, int points, bool alike) {
    const auto& part = machine.symmetry.part;
    return alike && part && points % part->parts == 0 ? points / part->parts : points;
}

std::vector<PositionResult> unfolded(const std::vector<PositionResult>& first,
                                     const std::vector<Position>& period, const PeriodPart& part) {
    const std::size_t points = first.size(), all = period.size();
    std::vector<PositionResult> results = first;
    results.resize(all);
    for (std::size_t i = 0; i < all; ++i) {
        results[i].position = period[i];
        if (i < points) continue;
        // As a part of the period before, with the phases in each other's places.
        const PositionResult& before = results[i - points];
        results[i].torque = before.torque;
        for (std::size_t k = 0; k < before.flux_linkage.size(); ++k)
            results[i].flux_linkage.push_back(part.phases.sign[k] *
                                              before.flux_linkage[std::size_t(part.phases.from[k])]);
    }
    return results;
}

Result<std::vector<PositionResult>> sweep_period(const std::shared_ptr<const MachineModel>& model, int points,
                                                 const CurrentWave& current, int threads, const Watch& watch) {
    const auto period = electrical_period(model->machine, points, current);
    const int needed = period_solves(model->machine, points, current.alike(model->machine.facts().switched));
    const auto results = sweep(model, {period.begin(), period.begin() + needed}, threads, watch);
    if (!results || needed == points) return results;
    return unfolded(*results, period, *model->machine.symmetry.part);
}

Result<PeriodWithLoci> sweep_period_with_loci(const std::shared_ptr<const MachineModel>& model, int points,
                                              const CurrentWave& current, int threads, const Watch& watch,
                                              const Observer& also) {
    const Machine& machine = model->machine;
    const auto period = electrical_period(machine, points, current);
    const int needed = period_solves(machine, points, current.alike(machine.facts().switched));
    std::vector<std::vector<double>> potentials{std::size_t(needed)};
    const auto keep = [&](std::size_t place, const FieldSolution& field) {
        potentials[place] = field.potential;
        if (also) also(place, field);
    };
    auto results = sweep(model, {period.begin(), period.begin() + needed}, threads, watch, keep);
    if (!results) return results.problems();
    const auto part = needed < points ? machine.symmetry.part : std::nullopt;
    return PeriodWithLoci{part ? unfolded(*results, period, *part) : std::move(*results),
                          make_loci(*model, potentials, part)};
}

PeriodSeries period_series(const std::vector<PositionResult>& results) {
    assert(!results.empty());
    PeriodSeries s;
    if (results.empty()) return s;
    s.flux_linkage.resize(results.front().flux_linkage.size());
    s.current.resize(s.flux_linkage.size());
    for (const auto& r : results) {
        s.angle_deg.push_back(r.position.angle * 180 / pi);
        s.torque.push_back(r.torque);
        for (std::size_t k = 0; k < s.current.size(); ++k) {
            s.flux_linkage[k].push_back(r.flux_linkage[k]);
            s.current[k].push_back(r.position.current[k]);
        }
        s.newton_steps += r.newton_steps;
    }
    return s;
}

std::vector<std::complex<double>> common_waves(const PeriodSeries& series) {
    std::vector<double> common(series.torque.size(), 0.0);
    for (const auto& phase : series.flux_linkage)
        for (std::size_t i = 0; i < common.size(); ++i)
            common[i] += phase[i] / double(series.flux_linkage.size());
    return harmonics(common);
}

Dq mean_flux_linkage(const Machine& machine, const PeriodSeries& series) {
    Dq sum;
    const double n = double(series.torque.size());
    for (std::size_t i = 0; i < series.torque.size(); ++i) {
        const double theta = electrical_angle(machine, series.angle_deg[i] * pi / 180);
        PortValues linkage;
        for (const auto& phase : series.flux_linkage) linkage.push_back(phase[i]);
        const Dq psi = to_dq(linkage, theta, machine.winding.layout.lags);
        sum.d += psi.d / n;
        sum.q += psi.q / n;
    }
    return sum;
}

std::vector<std::vector<double>> induced_voltage(const PeriodSeries& series, const Machine& machine,
                                                 double speed) {
    std::vector<std::vector<double>> e;
    for (const auto& linkage : series.flux_linkage) {
        e.push_back(derivative(linkage, 2 * pi / machine.pole_pairs()));
        for (double& value : e.back()) value *= speed;
    }
    return e;
}

std::string phase_suffix(std::size_t phase) {
    return std::string(1, "uvwxyzrst"[phase]);
}

Curve over_angle(const std::string& name, const std::string& unit, const PeriodSeries& series,
                 const std::vector<double>& y) {
    return {name, unit, "rotor_angle", "deg", series.angle_deg, y};
}

} // namespace mavlo
