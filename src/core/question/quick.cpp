#include "question/quick.h"

#include "field/goal_error.h"
#include "figure/balance.h"
#include "figure/mass.h"
#include "figure/sample.h"
#include "question/period.h"

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
    out.copper_loss = copper_loss_dc(m, m.rating.current, conductor.resistance);
    out.fill = conductor.fill;
}

/// Positions that tell a period: its first part, or all of it where no part does.
std::vector<Position> first_part(const Machine& machine, int points, Dq current) {
    const int parts = machine.symmetry.part ? machine.symmetry.part->parts : 6;
    auto positions = electrical_period(machine, parts * points, current);
    if (machine.symmetry.part) positions.resize(std::size_t(points));
    return positions;
}

/// The whole period from what was solved of it.
std::vector<PositionResult> whole_period(const Machine& machine, const std::vector<PositionResult>& solved) {
    const auto& part = machine.symmetry.part;
    if (!part) return solved;
    return unfolded(solved, electrical_period(machine, part->parts * int(solved.size()), {}), *part);
}

bool losses_known(const Machine& m) {
    const auto known = [&](const char* path) {
        const Substance* steel = m.substance(path);
        return steel && steel->material.loss.known();
    };
    return known("stator.steel") && known("rotor.steel");
}

void add_losses(QuickFigures& out, const MachineModel& model, const std::vector<ElementField>& solved) {
    const Machine& m = model.machine;
    if (!losses_known(m)) return;
    const FieldLosses losses = field_losses(model, make_loci(model, solved, m.symmetry.part));
    const double copper = *out.copper_loss, power = *out.torque * m.rating.speed;
    const Balance balance =
        balance_of(m, losses, m.rating.current, m.rating.speed, *out.torque, power + copper);
    out.loss = balance.total();
    if (balance.shaft() > 0) out.efficiency = balance.efficiency();
}

double line_rms(const std::vector<PositionResult>& solved, const Machine& m) {
    const auto e = induced_voltage(period_series(whole_period(m, solved)), m, m.rating.speed);
    std::vector<double> line = e[0];
    if (m.winding.star)
        for (std::size_t i = 0; i < line.size(); ++i) line[i] -= e[1][i];
    return rms(line);
}

/// Peak to peak of an odd wave from its values at 1 … n of 2n + 2 points.
double odd_peak_to_peak(const std::vector<Result<double>>& torques) {
    std::vector<double> wave{0};
    for (const auto& torque : torques) wave.push_back(*torque);
    wave.push_back(0);
    for (auto torque = torques.rbegin(); torque != torques.rend(); ++torque) wave.push_back(-**torque);
    return peak_to_peak(wave);
}

/// Where the parts of the one sweep begin.
struct Plan {
    std::vector<Position> positions;
    std::size_t cogging = 0, idle = 0; ///< how many of each, in this order; the rest is under load
};

Plan plan_of(const Machine& m) {
    Plan plan;
    // Everything in one sweep, cogging first, so that neighbours stay near each other.
    const double cogging_period = 2 * pi / m.symmetry.cogging_periods;
    for (int i = 1; m.magnet() && i <= cogging_points; ++i)
        plan.positions.push_back({cogging_period * i / (2 * cogging_points + 2), {}});
    plan.cogging = plan.positions.size();
    if (!m.wound()) return plan;
    const auto idle = m.magnet() ? first_part(m, idle_points, {}) : std::vector<Position>{};
    const auto load = first_part(m, load_points, current_vector(m.rating.current, m.rating.advance));
    plan.idle = idle.size();
    plan.positions.insert(plan.positions.end(), idle.begin(), idle.end());
    plan.positions.insert(plan.positions.end(), load.begin(), load.end());
    return plan;
}

/// The torque with what its adjoint field says the mesh takes from it: on the coarse mesh cogging would be
/// wrong by a quarter (adjoint correction: M. Giles, N. Pierce, in Large-Scale Scientific Computing, 2001).
Result<double> corrected_torque(const std::shared_ptr<const MachineModel>& model, const GoalErrors& errors,
                                const FieldSolution& field) {
    FieldSolver solver(model);
    const auto split = errors(solver, field, {{}});
    if (!split) return split.problems();
    double torque = field.torque;
    for (const auto& body : split->front())
        for (double e : body) torque += e;
    return torque;
}

} // namespace

Result<QuickFigures> quick_figures(const std::shared_ptr<const MachineModel>& model, int threads,
                                   const Watch& watch) {
    const Machine& m = model->machine;
    QuickFigures out;
    out.mass = active_mass(*model).total();
    if (m.wound()) add_winding(out, m);
    const Plan plan = plan_of(m);
    const std::size_t before_load = plan.cogging + plan.idle;
    const auto start = std::chrono::steady_clock::now();
    std::vector<ElementField> loaded(plan.positions.size() - before_load);
    std::vector<Result<double>> cogging(plan.cogging, 0.0);
    const GoalErrors errors(model);
    const auto results =
        sweep(model, plan.positions, threads, watch, [&](std::size_t place, const FieldSolution& field) {
            if (place < plan.cogging) cogging[place] = corrected_torque(model, errors, field);
            if (place >= before_load) loaded[place - before_load] = element_field(*model, field);
        });
    if (!results) return results.problems();
    for (const auto& torque : cogging)
        if (!torque) return torque.problems();
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    out.solves = int(plan.positions.size());
    out.seconds_per_solve = seconds * thread_count(threads) / std::max(1, out.solves);
    const auto part = [&](std::size_t from, std::size_t count) {
        const auto begin = results->begin() + std::ptrdiff_t(from);
        return std::vector<PositionResult>(begin, begin + std::ptrdiff_t(count));
    };
    if (plan.cogging) out.cogging = odd_peak_to_peak(cogging);
    if (plan.idle) out.back_emf = line_rms(part(plan.cogging, plan.idle), m);
    if (m.wound()) {
        out.torque = mean(period_series(part(before_load, loaded.size())).torque);
        add_losses(out, *model, loaded);
    }
    // Without magnets nothing magnetises the iron but the current.
    const PortValues current = m.magnet() || !m.wound()
                                   ? PortValues{}
                                   : to_phases(current_vector(m.rating.current, m.rating.advance),
                                               electrical_angle(m, 0), m.winding.phases);
    const auto field = FieldSolver(model).solve(0, current);
    if (!field) return field.problems();
    const IronLevels levels = iron_levels(*model, *field);
    out.tooth = levels.tooth;
    out.yoke = levels.yoke;
    return out;
}

} // namespace mavlo
