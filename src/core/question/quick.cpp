#include "question/quick.h"

#include "field/goal_error.h"
#include "figure/skew.h"
#include "quantity/constants.h"
#include "question/heat_setup.h"
#include "question/period.h"

#include <chrono>
#include <cmath>
#include <limits>

namespace mavlo {
namespace {

constexpr int cogging_points = 4, idle_points = 4, load_points = 4, stroke_points = 8;

/// Positions that tell a period: its first part, or all of it where no part does.
std::vector<Position> first_part(const Machine& machine, int points, const CurrentWave& current) {
    const int parts = machine.symmetry.part      ? machine.symmetry.part->parts
                      : machine.facts().switched ? machine.winding.phases
                                                 : 6;
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

/// Two points for every stretch along which a skew turns evenly, or one for each packet.
std::vector<Slice> few_slices(const Machine& machine) {
    return machine.skew.slices(2);
}

/// Adds what a slice shows to what the stack does; both at the same positions of the stack.
void add_slice(const Machine& m, const std::vector<PositionResult>& slice, const Slice& at,
               std::vector<PositionResult>& stack) {
    const auto period = whole_period(m, slice);
    const double turn = 2 * pi / m.pole_pairs();
    const auto add = [&](const auto& value) {
        std::vector<double> series;
        series.reserve(period.size());
        for (PositionResult r : period) series.push_back(value(r));
        const auto seen = shifted(series, turn, at.turn);
        for (std::size_t k = 0; k < stack.size(); ++k) value(stack[k]) += at.share * seen[k];
    };
    add([](PositionResult& r) -> double& { return r.torque; });
    for (std::size_t p = 0; p < slice.front().flux_linkage.size(); ++p)
        add([p](PositionResult& r) -> double& { return r.flux_linkage[p]; });
}

/// The stack's results from its slices', one behind the other.
std::vector<PositionResult> of_stack(const Machine& m, const std::vector<PositionResult>& slices) {
    const auto list = few_slices(m);
    if (list.size() == 1) return slices;
    const auto each = std::ptrdiff_t(slices.size() / list.size());
    std::vector<PositionResult> stack(slices.begin(), slices.begin() + each);
    for (PositionResult& r : stack) {
        r.torque = 0;
        std::fill(r.flux_linkage.begin(), r.flux_linkage.end(), 0.0);
    }
    for (std::size_t k = 0; k < list.size(); ++k) {
        const auto begin = slices.begin() + std::ptrdiff_t(k) * each;
        add_slice(m, {begin, begin + each}, list[k], stack);
    }
    return stack;
}

/// A whole period without current.
std::vector<PositionResult> idle_stack(const Machine& m, const std::vector<PositionResult>& solved) {
    auto period = whole_period(m, solved);
    if (m.skew.none()) return period;
    for (std::size_t p = 0; p < period.front().flux_linkage.size(); ++p) {
        std::vector<double> series;
        series.reserve(period.size());
        for (const PositionResult& r : period) series.push_back(r.flux_linkage[p]);
        series = skewed(series, 2 * pi / m.pole_pairs(), m.skew);
        for (std::size_t k = 0; k < period.size(); ++k) period[k].flux_linkage[p] = series[k];
    }
    return period;
}

std::optional<Balance> balance_at_rating(const MachineModel& model,
                                         const std::vector<std::vector<double>>& solved, double torque) {
    const Machine& m = model.machine;
    if (!unknown_losses(m).empty()) return std::nullopt;
    FieldLosses losses;
    const auto slices = few_slices(m);
    const auto each = std::ptrdiff_t(solved.size() / slices.size());
    for (std::size_t k = 0; k < slices.size(); ++k) {
        const auto begin = solved.begin() + std::ptrdiff_t(k) * each;
        losses.add(field_losses(model, make_loci(model, {begin, begin + each}, m.symmetry.part)),
                   slices[k].share);
    }
    const double direct = direct_copper_loss(m, m.rating.current);
    const CopperLoss copper =
        copper_loss(AcResistance(m).at(electrical_frequency(m, m.rating.speed)), direct, losses.strands);
    return balance_of(m, losses, copper, m.rating.speed, torque, torque * m.rating.speed + copper.direct);
}

/// Peak to peak of a wave from its values over a period; of an `odd` one at 1 … n of 2n + 2 points.
double cogging_of(const std::vector<Result<double>>& torques, const Machine& m) {
    const bool odd = m.symmetry.mirrored;
    const double period = 2 * pi / m.symmetry.cogging_periods;
    std::vector<double> wave;
    if (odd) wave.push_back(0);
    for (const auto& torque : torques) wave.push_back(*torque);
    if (odd) {
        wave.push_back(0);
        for (auto torque = torques.rbegin(); torque != torques.rend(); ++torque) wave.push_back(-**torque);
    }
    return peak_to_peak(skewed(wave, period, m.skew));
}

/// A rotor whose own currents give the torque has none from static fields.
bool takes_currents(const Machine& m) {
    return m.wound() && !m.facts().induced;
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
    // Half a period where poles and slots are mirror images of themselves.
    const int whole = 2 * cogging_points + 2, last = m.symmetry.mirrored ? cogging_points : whole;
    for (int i = 1; m.magnet() && i <= last; ++i) plan.positions.push_back({cogging_period * i / whole, {}});
    plan.cogging = plan.positions.size();
    if (!takes_currents(m)) return plan;
    const auto idle = m.magnet() ? first_part(m, idle_points, {}) : std::vector<Position>{};
    plan.idle = idle.size();
    plan.positions.insert(plan.positions.end(), idle.begin(), idle.end());
    for (const Slice& slice : few_slices(m)) { // turned ahead it sees the currents turned back
        const auto load = first_part(m, m.facts().switched ? stroke_points : load_points,
                                     rated_wave(m).advanced(-m.pole_pairs() * slice.turn));
        plan.positions.insert(plan.positions.end(), load.begin(), load.end());
    }
    return plan;
}

/// The torque with what its adjoint field says the mesh takes from it: on the coarse mesh cogging would be
/// wrong by a quarter (adjoint correction: M. Giles, N. Pierce, in Large-Scale Scientific Computing, 2001).
Result<double> corrected_torque(const std::shared_ptr<const MachineModel>& model, const GoalErrors& errors,
                                const FieldSolution& field) {
    FieldSolver solver(model);
    solver.use_two_cores();
    const auto split = errors(solver, field, {{}});
    if (!split) return split.problems();
    double torque = field.torque;
    for (const auto& body : split->front())
        for (double e : body) torque += e;
    return torque;
}

/// Of the first phase where it is aligned, and half a period on.
Problems add_inductances(const std::shared_ptr<const MachineModel>& model, QuickFields& out) {
    const Machine& m = model->machine;
    const double aligned = phase_axis(m.winding.layout), half = pi / m.pole_pairs(),
                 small = std::max(1e-3, 0.05 * m.rating.current);
    PortValues one(std::size_t(m.winding.phases), 0.0);
    one[0] = small;
    FieldSolver solver(model);
    solver.use_two_cores();
    out.aligned = out.unaligned = 0;
    for (const Slice& slice : few_slices(m)) {
        const auto there = solver.solve(aligned + slice.turn, one),
                   away = solver.solve(aligned + half + slice.turn, one);
        if (!there) return there.problems();
        if (!away) return away.problems();
        *out.aligned += slice.share * there->flux_linkage[0] / small;
        *out.unaligned += slice.share * away->flux_linkage[0] / small;
    }
    return {};
}

/// Without magnets nothing magnetises the iron but the current.
Result<IronLevels> iron_levels_at_rest(const std::shared_ptr<const MachineModel>& model) {
    const Machine& m = model->machine;
    constexpr double open = std::numeric_limits<double>::quiet_NaN();
    if (m.facts().induced)
        return IronLevels{open, open, open}; // the mains magnetise it, which nothing here knows
    if (m.facts().switched) {                // aligned it is magnetised most
        PortValues one(std::size_t(m.winding.phases), 0.0);
        one[0] = m.rating.current;
        const auto aligned = FieldSolver(model).solve(phase_axis(m.winding.layout), one);
        if (!aligned) return aligned.problems();
        return iron_levels(*model, *aligned);
    }
    const PortValues current = m.magnet() || !m.wound()
                                   ? PortValues{}
                                   : rated_wave(m).at(electrical_angle(m, 0), m.winding.layout.lags);
    const auto field = FieldSolver(model).solve(0, current);
    if (!field) return field.problems();
    return iron_levels(*model, *field);
}

} // namespace

Result<QuickFields> quick_fields(const std::shared_ptr<const MachineModel>& model, int threads,
                                 const Watch& watch, const QuickStart& start) {
    const Machine& m = model->machine;
    QuickFields out;
    out.model = model;
    if (m.wound()) out.conductor = machine_conductor(m);
    const Plan plan = plan_of(m);
    const std::size_t before_load = plan.cogging + plan.idle;
    std::vector<std::vector<double>> loaded(plan.positions.size() - before_load);
    std::vector<Result<double>> cogging(plan.cogging, 0.0);
    const GoalErrors errors(model);
    if (start.keep) start.keep->resize(plan.positions.size());
    const auto look = [&](std::size_t place, const FieldSolution& field) {
        if (place < plan.cogging) cogging[place] = corrected_torque(model, errors, field);
        if (place >= before_load) loaded[place - before_load] = field.potential;
        if (start.keep) (*start.keep)[place] = field;
    };
    const bool fitting = start.from && start.from->size() == plan.positions.size();
    const auto results = sweep(model, plan.positions, threads, watch, look, fitting ? start.from : nullptr);
    if (!results) return results.problems();
    for (const auto& torque : cogging)
        if (!torque) return torque.problems();
    const auto part = [&](std::size_t from, std::size_t count) {
        const auto begin = results->begin() + std::ptrdiff_t(from);
        return std::vector<PositionResult>(begin, begin + std::ptrdiff_t(count));
    };
    if (plan.cogging) out.cogging = cogging_of(cogging, m);
    if (plan.idle) out.idle = idle_stack(m, part(plan.cogging, plan.idle));
    if (takes_currents(m)) {
        out.loaded = of_stack(m, part(before_load, loaded.size()));
        out.torque = mean(period_series(out.loaded).torque);
        out.balance = balance_at_rating(*model, loaded, *out.torque);
    }
    if (m.facts().switched)
        if (auto problems = add_inductances(model, out); !problems.empty()) return problems;
    const auto levels = iron_levels_at_rest(model);
    if (!levels) return levels.problems();
    out.levels = *levels;
    out.solves = int(plan.positions.size());
    return out;
}

namespace {

void add_figures(QuickFigures& to, const QuickFields& fields, bool slow) {
    const Facts facts = fields.model->machine.facts();
    for (const KeyFigure& figure : registry<KeyFigure>().all())
        if (figure.slow == slow && (!figure.applies || figure.applies(facts)))
            if (const auto value = figure.value(fields)) to.values[figure.name] = *value;
}

/// With the losses at the rating; empty where cooling or losses are not known, or the winding runs away.
std::optional<QuickFields::Heat> heat_at_rating(const QuickFields& fields, const MaterialLibrary& own) {
    const Machine& machine = fields.model->machine;
    if (!fields.balance || !fields.balance->unknown.empty() || !machine.wound()) return std::nullopt;
    auto cooling = cooling_of(machine, own);
    if (!cooling) return std::nullopt;
    const auto model = MachineHeatModel::of(fields.model, std::move(*cooling), machine.rating.speed);
    if (!model) return std::nullopt;
    const KnownLosses losses = losses_of(*fields.balance, machine, (*model)->slot_share());
    const auto found = coupled_heat(**model, losses, machine.winding.conductor_material);
    if (!found || found->runs_away_from > 0) return std::nullopt;
    QuickFields::Heat out{found->heat.winding_highest - zero_celsius, {}};
    if ((*model)->has(HeatPart::Magnets)) out.magnets = found->heat.mean.at(HeatPart::Magnets) - zero_celsius;
    return out;
}

} // namespace

Result<QuickFigures> quick_figures(const std::shared_ptr<const MachineModel>& model, int threads,
                                   const Watch& watch, const QuickStart& from) {
    const auto start = std::chrono::steady_clock::now();
    auto fields = quick_fields(model, threads, watch, from);
    if (!fields) return fields.problems();
    QuickFigures out;
    out.solves = fields->solves;
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    out.seconds_per_solve = seconds * thread_count(threads) / std::max(1, out.solves);
    add_figures(out, *fields, false);
    out.fields = std::make_shared<const QuickFields>(std::move(*fields));
    return out;
}

void add_slow_figures(QuickFigures& figures, const MaterialLibrary& own) {
    if (!figures.fields) return;
    QuickFields fields = *figures.fields;
    fields.heat = heat_at_rating(fields, own);
    add_figures(figures, fields, true);
    figures.fields.reset();
}

} // namespace mavlo
