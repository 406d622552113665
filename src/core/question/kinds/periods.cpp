#include "question/kinds/periods.h"

#include <cmath>
#include <numbers>

namespace mavlo {
namespace {
constexpr double pi = std::numbers::pi;
}

std::vector<Position> electrical_period(const Machine& machine, int points, Dq current) {
    std::vector<Position> positions;
    for (int i = 0; i < points; ++i) {
        const double angle = 2 * pi / machine.pole_pairs() * i / points;
        positions.push_back({angle, to_phases(current, electrical_angle(machine, angle))});
    }
    return positions;
}

int period_solves(const Machine& machine, int points) {
    return points % 6 == 0 && sixth_shift(machine) ? points / 6 : points;
}

std::vector<PositionResult> unfolded(const std::vector<PositionResult>& sixth,
                                     const std::vector<Position>& period) {
    const std::size_t points = sixth.size(), all = period.size();
    // V and W lag phase U by a third and two thirds of the period, and half a period reverses the sign: the
    // three phases over the sixth are phase U over the whole.
    std::vector<double> u(all);
    for (std::size_t j = 0; j < points; ++j)
        for (std::size_t k = 0; k < 3; ++k) {
            const std::size_t at = (j + all - 2 * k * points) % all;
            u[at] = sixth[j].flux_linkage[k];
            u[(at + all / 2) % all] = -u[at];
        }
    std::vector<PositionResult> results(all);
    for (std::size_t i = 0; i < all; ++i) {
        if (i < points) results[i] = sixth[i];
        results[i].position = period[i];
        results[i].torque = sixth[i % points].torque;
        for (std::size_t k = 0; k < 3; ++k) results[i].flux_linkage[k] = u[(i + all - 2 * k * points) % all];
    }
    return results;
}

Result<std::vector<PositionResult>> sweep_period(const std::shared_ptr<const FieldModel>& model, int points,
                                                 Dq current, int threads, const Watch& watch) {
    const auto period = electrical_period(model->machine, points, current);
    const int needed = period_solves(model->machine, points);
    const auto results = sweep(model, {period.begin(), period.begin() + needed}, threads, watch);
    if (!results || needed == points) return results;
    return unfolded(*results, period);
}

Result<PeriodWithLoci> sweep_period_with_loci(const std::shared_ptr<const FieldModel>& model, int points,
                                              Dq current, int threads, const Watch& watch) {
    const Machine& machine = model->machine;
    const auto period = electrical_period(machine, points, current);
    const int needed = period_solves(machine, points);
    std::vector<ElementField> fields{std::size_t(needed)};
    const auto keep = [&](std::size_t place, const FieldSolution& field) {
        fields[place] = element_field(*model, field);
    };
    auto results = sweep(model, {period.begin(), period.begin() + needed}, threads, watch, keep);
    if (!results) return results.problems();
    const auto shift = needed < points ? sixth_shift(machine) : std::nullopt;
    return PeriodWithLoci{shift ? unfolded(*results, period) : std::move(*results),
                          make_loci(*model, fields, shift)};
}

double electrical_frequency(const Machine& machine, double speed) {
    return machine.pole_pairs() * std::abs(speed) / (2 * pi);
}

PeriodSeries period_series(const std::vector<PositionResult>& results) {
    PeriodSeries s;
    for (const auto& r : results) {
        s.angle_deg.push_back(r.position.angle * 180 / pi);
        s.torque.push_back(r.torque);
        for (std::size_t k = 0; k < 3; ++k) {
            s.flux_linkage[k].push_back(r.flux_linkage[k]);
            s.current[k].push_back(r.position.current[k]);
        }
        s.newton_steps += r.newton_steps;
    }
    return s;
}

Dq mean_flux_linkage(const Machine& machine, const PeriodSeries& series) {
    Dq sum;
    const double n = double(series.torque.size());
    for (std::size_t i = 0; i < series.torque.size(); ++i) {
        const double theta = electrical_angle(machine, series.angle_deg[i] * pi / 180);
        const Dq psi =
            to_dq({series.flux_linkage[0][i], series.flux_linkage[1][i], series.flux_linkage[2][i]}, theta);
        sum.d += psi.d / n;
        sum.q += psi.q / n;
    }
    return sum;
}

std::array<std::vector<double>, 3> induced_voltage(const PeriodSeries& series, const Machine& machine,
                                                   double speed) {
    std::array<std::vector<double>, 3> e;
    for (std::size_t k = 0; k < 3; ++k) {
        e[k] = derivative(series.flux_linkage[k], 2 * pi / machine.pole_pairs());
        for (double& value : e[k]) value *= speed;
    }
    return e;
}

Curve over_angle(const std::string& name, const std::string& unit, const PeriodSeries& series,
                 const std::vector<double>& y) {
    return {name, unit, "rotor_angle", "deg", series.angle_deg, y};
}

} // namespace mavlo
