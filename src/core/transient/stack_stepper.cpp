#include "transient/stack_stepper.h"

#include <numeric>

namespace mavlo {
namespace {

Position ahead(Position at, double turn) {
    at.angle += turn;
    return at;
}

void add(PortValues& sum, const PortValues& values, double share) {
    sum.resize(values.size(), 0.0);
    for (std::size_t k = 0; k < values.size(); ++k) sum[k] += share * values[k];
}

} // namespace

StackStepper::StackStepper(const std::shared_ptr<const FieldModel>& model, const Conductance& conductance,
                           std::vector<Slice> slices, Stages stages, FieldRecord* record)
    : m_slices(std::move(slices)) {
    m_steppers.reserve(m_slices.size());
    for (std::size_t k = 0; k < m_slices.size(); ++k)
        m_steppers.emplace_back(model, conductance, stages, record);
}

std::optional<Problem> StackStepper::begin(const Position& at, const std::vector<ConductingState>& states) {
    m_linkage.clear();
    m_torque = 0;
    for (std::size_t k = 0; k < m_slices.size(); ++k) {
        const auto [turn, share] = m_slices[k];
        const Position here = ahead(at, turn);
        if (auto problem =
                states.empty() ? m_steppers[k].begin(here) : m_steppers[k].begin_from(here, states[k]))
            return problem;
        add(m_linkage, m_steppers[k].field().flux_linkage, share);
        m_torque += share * m_steppers[k].field().torque;
    }
    return std::nullopt;
}

Result<SteppedStack> StackStepper::step(double dt, const Position& between, const Position& end,
                                        const SteppedStack* tried, double tolerance) {
    SteppedStack out;
    for (std::size_t k = 0; k < m_slices.size(); ++k) {
        const auto [turn, share] = m_slices[k];
        auto slice = m_steppers[k].step(dt, ahead(between, turn), ahead(end, turn),
                                        tried ? &tried->slices[k] : nullptr, tolerance);
        if (!slice) return slice.problems();
        add(out.flux_linkage, slice->field.flux_linkage, share);
        out.torque += share * slice->field.torque;
        add(out.eddy_loss, slice->eddy_loss, share);
        out.ring_loss += share * slice->ring_loss;
        out.slices.push_back(std::move(*slice));
    }
    return out;
}

void StackStepper::take(SteppedStack step, double dt) {
    m_linkage = std::move(step.flux_linkage);
    m_torque = step.torque;
    for (std::size_t k = 0; k < m_slices.size(); ++k) m_steppers[k].take(std::move(step.slices[k]), dt);
}

Result<std::vector<PortValues>> StackStepper::incremental_inductance() {
    std::vector<PortValues> mean;
    for (std::size_t k = 0; k < m_slices.size(); ++k) {
        const auto found = m_steppers[k].incremental_inductance({m_steppers[k].field()});
        if (!found) return found.problems();
        mean.resize(found->size());
        for (std::size_t j = 0; j < mean.size(); ++j) add(mean[j], (*found)[j], m_slices[k].share);
    }
    return mean;
}

int StackStepper::solves() const {
    return std::accumulate(m_steppers.begin(), m_steppers.end(), 0,
                           [](int sum, const FieldStepper& s) { return sum + s.solves(); });
}

int StackStepper::newton_steps() const {
    return std::accumulate(m_steppers.begin(), m_steppers.end(), 0,
                           [](int sum, const FieldStepper& s) { return sum + s.newton_steps(); });
}

} // namespace mavlo
