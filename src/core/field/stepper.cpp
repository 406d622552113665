#include "field/stepper.h"

#include <algorithm>
#include <cassert>

namespace mavlo {
namespace {

/// Conductors take a shorter step as one of this, s: what they do in it is nothing, and their term would drown
/// the field's own digits.
constexpr double shortest = 1e-10;
/// … and keep their flux over this one, s.
constexpr double at_once = 1e-6;
/// What a step says of the next is good for one so many times as long.
constexpr double longest_outlook = 10;

/// (to - from) over a time.
std::vector<double> rate_between(const std::vector<double>& from, const std::vector<double>& to, double time) {
    std::vector<double> rate(from.size());
    for (std::size_t i = 0; i < rate.size(); ++i) rate[i] = (to[i] - from[i]) / time;
    return rate;
}

} // namespace

FieldStepper::FieldStepper(std::shared_ptr<const FieldModel> model, Conductance conductance, Stages stages,
                           FieldRecord* record)
    : m_solver(std::move(model), record)
    , m_conductance(std::move(conductance))
    , m_stages(stages) {}

Result<FieldSolution> FieldStepper::solved(const Position& at, const FieldSolution& start,
                                           const StepTerm* term) {
    return m_solver.solve(at.angle, at.current, start.potential.empty() ? nullptr : &start, term);
}

std::optional<Problem> FieldStepper::begin(const Position& at) {
    m_solver.solver().set_tolerance(taken_tolerance);
    auto field = solved(at, m_field, nullptr);
    if (!field) return field.problems().front();
    m_field = std::move(*field);
    m_segments.setZero(m_conductance.rings.count());
    m_rate.clear();
    return std::nullopt;
}

std::optional<Problem> FieldStepper::begin_from(const Position& at, const ConductingState& state) {
    m_solver.solver().set_tolerance(taken_tolerance);
    m_field.potential = state.potential;
    m_segments = state.segments;
    m_rate.clear();
    auto there = one_stage(at_once, at, nullptr);
    if (!there) return there.problems().front();
    take(std::move(*there), at_once);
    m_rate.clear();
    return std::nullopt;
}

/// Of a stage with these rates of its potentials; returns what its rings' segments then carry.
Eigen::VectorXd FieldStepper::add_losses(SteppedField& step, const std::vector<double>& rate, double per_time,
                                         const Eigen::VectorXd& before, double share) const {
    const ConductingStage::Flow flow = ConductingStage(m_conductance, per_time).flow(rate, before);
    const auto losses = eddy_losses(model(), m_conductance, rate, flow.u);
    const double whole = model().depth * model().sector.count;
    step.eddy_loss.resize(losses.size());
    for (std::size_t k = 0; k < losses.size(); ++k) step.eddy_loss[k] += share * whole * losses[k];
    step.ring_loss += share * model().sector.count * m_conductance.rings.loss(flow.segments);
    return flow.segments;
}

/// The field if its potentials went on as over the last step.
FieldSolution FieldStepper::expected(double dt) const {
    FieldSolution field = m_field;
    if (m_rate.empty() || dt > longest_outlook * m_rate_time) return field;
    for (std::size_t i = 0; i < m_rate.size(); ++i) field.potential[i] += dt * m_rate[i];
    return field;
}

Result<SteppedField> FieldStepper::one_stage(double dt, const Position& end, const SteppedField* tried) {
    SteppedField out;
    const StepTerm term{&m_conductance, 1 / dt, &m_field.potential, &m_segments};
    const bool conducts = !m_conductance.empty();
    auto field = solved(end, tried ? tried->field : expected(dt), conducts ? &term : nullptr);
    if (!field) return field.problems();
    out.field = std::move(*field);
    if (conducts)
        out.segments =
            add_losses(out, rate_between(m_field.potential, out.field.potential, dt), 1 / dt, m_segments, 1);
    return out;
}

Result<SteppedField> FieldStepper::two_stages(double dt, const Position& between, const Position& end,
                                              const SteppedField* tried) {
    SteppedField out;
    const double gamma = first_stage, stage = gamma * dt;
    const std::vector<double>& before = m_field.potential;
    const StepTerm first{&m_conductance, 1 / stage, &before, &m_segments};
    FieldSolution start = tried ? tried->field : expected(stage);
    if (tried) start.potential = tried->middle;
    auto middle = solved(between, start, &first);
    if (!middle) return middle.problems();
    const auto first_rate = rate_between(before, middle->potential, stage);
    std::vector<double> from = before;
    for (std::size_t i = 0; i < from.size(); ++i) from[i] += (1 - gamma) * dt * first_rate[i];
    const Eigen::VectorXd first_segments = add_losses(out, first_rate, 1 / stage, m_segments, 1 - gamma),
                          kept = m_segments + (1 - gamma) / gamma * (first_segments - m_segments);
    const StepTerm second{&m_conductance, 1 / stage, &from, &kept};
    if (tried) {
        start = tried->field;
    } else {
        start = *middle;
        for (std::size_t i = 0; i < from.size(); ++i) start.potential[i] += (1 - gamma) * dt * first_rate[i];
    }
    auto field = solved(end, start, &second);
    if (!field) return field.problems();
    out.field = std::move(*field);
    out.middle = std::move(middle->potential);
    out.segments = add_losses(out, rate_between(from, out.field.potential, stage), 1 / stage, kept, gamma);
    return out;
}

Result<SteppedField> FieldStepper::step(double dt, const Position& between, const Position& end,
                                        const SteppedField* tried, double tolerance) {
    m_solver.solver().set_tolerance(tolerance);
    assert(dt > 0 && !m_field.potential.empty());
    const double time = std::max(dt, shortest);
    return m_stages == Stages::Two && !m_conductance.empty() ? two_stages(time, between, end, tried)
                                                             : one_stage(time, end, tried);
}

void FieldStepper::take(SteppedField step, double dt) {
    m_rate = rate_between(m_field.potential, step.field.potential, dt);
    m_rate_time = dt;
    m_field = std::move(step.field);
    if (step.segments.size() > 0) m_segments = std::move(step.segments);
}

Result<std::vector<PortValues>> FieldStepper::incremental_inductance(const SteppedField& step) {
    return m_solver.incremental_inductance(step.field);
}

} // namespace mavlo
