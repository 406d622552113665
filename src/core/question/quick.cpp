#include "question/quick.h"

#include "figure/mass.h"
#include "figure/sample.h"
#include "question/kinds/periods.h"

#include <chrono>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;
constexpr int cogging_points = 8, period_points = 12, load_points = 8;

void add_winding(QuickFigures& out, const Machine& m) {
    const Conductor conductor = machine_conductor(m);
    out.resistance = conductor.resistance;
    out.copper_loss = 1.5 * m.rating.current * m.rating.current * conductor.resistance;
    out.fill = conductor.fill;
}

double line_rms(const std::vector<PositionResult>& results, const Machine& m) {
    const auto e = induced_voltage(period_series(results), m, m.rating.speed);
    std::vector<double> line = e[0];
    if (m.star)
        for (std::size_t i = 0; i < line.size(); ++i) line[i] -= e[1][i];
    return rms(line);
}

} // namespace

Result<QuickFigures> quick_figures(const std::shared_ptr<const FieldModel>& model, int threads, const Watch& watch) {
    const Machine& m = model->machine;
    QuickFigures out;
    out.mass = active_mass(*model).total();
    if (m.wound) add_winding(out, m);
    // One sweep over everything, cogging first, so that neighbours stay near each other.
    std::vector<Position> positions;
    const double cogging_period = 2 * pi / cogging_periods_per_turn(m);
    for (int i = 0; i < cogging_points; ++i) positions.push_back({cogging_period * i / cogging_points, {}});
    if (m.wound) {
        const auto idle = electrical_period(m, period_points, {});
        const auto load = electrical_period(m, load_points, current_vector(m.rating.current, m.rating.advance));
        positions.insert(positions.end(), idle.begin(), idle.end());
        positions.insert(positions.end(), load.begin(), load.end());
    }
    const auto start = std::chrono::steady_clock::now();
    const auto results = sweep(model, positions, threads, watch);
    if (!results) return results.problems();
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    out.solves = int(positions.size());
    out.seconds_per_solve = seconds * thread_count(threads) / out.solves;
    const auto part = [&](int from, int count) {
        return std::vector<PositionResult>(results->begin() + from, results->begin() + from + count);
    };
    out.cogging = peak_to_peak(period_series(part(0, cogging_points)).torque);
    if (m.wound) {
        out.back_emf = line_rms(part(cogging_points, period_points), m);
        out.torque = mean(period_series(part(cogging_points + period_points, load_points)).torque);
    }
    const auto field = FieldSolver(model).solve(0, {});
    if (!field) return field.problems();
    const IronLevels levels = iron_levels(*model, *field);
    out.tooth = levels.tooth;
    out.yoke = levels.yoke;
    return out;
}

} // namespace mavlo
