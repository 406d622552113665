#include "question/quick.h"

#include "figure/copper.h"
#include "figure/loss.h"
#include "figure/mass.h"
#include "figure/sample.h"
#include "question/kinds/periods.h"

#include <chrono>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;
constexpr int cogging_points = 4, idle_points = 4, load_points = 4;

void add_winding(QuickFigures& out, const Machine& m) {
    const Conductor conductor = machine_conductor(m);
    out.resistance = conductor.resistance;
    out.copper_loss = 1.5 * m.rating.current * m.rating.current * conductor.resistance;
    out.fill = conductor.fill;
}

void add_losses(QuickFigures& out, const FieldModel& model, const std::vector<ElementField>& sixth) {
    const Machine& m = model.machine;
    const auto shift = sixth_shift(m);
    if (!shift || !m.stator_steel.loss.known() || !m.rotor_steel.loss.known()) return;
    const FieldLosses losses = field_losses(model, make_loci(model, sixth, shift));
    const double f = electrical_frequency(m, m.rating.speed), power = *out.torque * m.rating.speed;
    const double copper = *out.copper_loss * ac_factor(m, f), stator = losses.stator.at(f);
    const double rotor = losses.rotor.at(f) + losses.magnet(f) + mechanical_loss(m, m.rating.speed).total();
    out.loss = copper + stator + rotor;
    if (power > rotor) out.efficiency = (power - rotor) / (power + copper + stator);
}

/// Positions over the first sixth of an electrical period.
std::vector<Position> sixth(const Machine& machine, int points, Dq current) {
    auto positions = electrical_period(machine, 6 * points, current);
    positions.resize(std::size_t(points));
    return positions;
}

double line_rms(const std::vector<PositionResult>& results, const Machine& m) {
    const auto period = electrical_period(m, 6 * int(results.size()), {});
    std::vector<double> e = induced_voltage(period_series(unfolded(results, period)), m, m.rating.speed)[0],
                        line = e;
    const std::size_t third = e.size() / 3;
    for (std::size_t i = 0; i < e.size(); ++i) {
        const double v = m.star ? e[(i + e.size() - third) % e.size()] : 0;
        line[i] = e[i] - v;
    }
    return rms(line);
}

/// Peak to peak of an odd wave from its values at 1 … n of 2n + 2 points.
double odd_peak_to_peak(const std::vector<PositionResult>& results) {
    std::vector<double> wave{0};
    for (const auto& r : results) wave.push_back(r.torque);
    wave.push_back(0);
    for (auto r = results.rbegin(); r != results.rend(); ++r) wave.push_back(-r->torque);
    return peak_to_peak(wave);
}

} // namespace

Result<QuickFigures> quick_figures(const std::shared_ptr<const FieldModel>& model, int threads,
                                   const Watch& watch) {
    const Machine& m = model->machine;
    QuickFigures out;
    out.mass = active_mass(*model).total();
    if (m.wound) add_winding(out, m);
    // One sweep over everything, cogging first, so that neighbours stay near each other.
    std::vector<Position> positions;
    const double cogging_period = 2 * pi / cogging_periods_per_turn(m);
    for (int i = 1; i <= cogging_points; ++i)
        positions.push_back({cogging_period * i / (2 * cogging_points + 2), {}});
    if (m.wound) {
        const auto idle = sixth(m, idle_points, {}),
                   load = sixth(m, load_points, current_vector(m.rating.current, m.rating.advance));
        positions.insert(positions.end(), idle.begin(), idle.end());
        positions.insert(positions.end(), load.begin(), load.end());
    }
    const auto start = std::chrono::steady_clock::now();
    std::vector<ElementField> loaded{std::size_t(load_points)};
    const auto results =
        sweep(model, positions, threads, watch, [&](std::size_t place, const FieldSolution& field) {
            if (m.wound && place >= std::size_t(cogging_points + idle_points))
                loaded[place - std::size_t(cogging_points + idle_points)] = element_field(*model, field);
        });
    if (!results) return results.problems();
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    out.solves = int(positions.size());
    out.seconds_per_solve = seconds * thread_count(threads) / out.solves;
    const auto part = [&](int from, int count) {
        return std::vector<PositionResult>(results->begin() + from, results->begin() + from + count);
    };
    out.cogging = odd_peak_to_peak(part(0, cogging_points));
    if (m.wound) {
        out.back_emf = line_rms(part(cogging_points, idle_points), m);
        out.torque = mean(period_series(part(cogging_points + idle_points, load_points)).torque);
        add_losses(out, *model, loaded);
    }
    const auto field = FieldSolver(model).solve(0, {});
    if (!field) return field.problems();
    const IronLevels levels = iron_levels(*model, *field);
    out.tooth = levels.tooth;
    out.yoke = levels.yoke;
    return out;
}

} // namespace mavlo
