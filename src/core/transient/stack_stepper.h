#pragma once
// Fields in time of a stack whose slices are turned against each other and carry the same currents.

#include "field/stepper.h"
#include "machine/skew.h"

#include <vector>

namespace mavlo {

/// At the end of a step, not yet taken: each slice's field, and means over the stack.
struct SteppedStack {
    std::vector<SteppedField> slices;
    PortValues flux_linkage{};
    double torque = 0;
    std::vector<double> eddy_loss{}; ///< of each body, mean over the step, W, whole machine
    double ring_loss = 0;            ///< of a cage's rings, as the bodies'
};

/// One FieldStepper a slice, whose rotor stands ahead by the slice's turn. Eddy currents close within each
/// slice.
class StackStepper {
  public:
    static constexpr double first_stage = FieldStepper::first_stage,
                            taken_tolerance = FieldStepper::taken_tolerance;

    /// `record`, where there is one, must outlive it.
    StackStepper(const std::shared_ptr<const FieldModel>& model, const Conductance& conductance,
                 std::vector<Slice> slices, Stages stages = Stages::Two, FieldRecord* record = nullptr);

    /// From the static field, or from these states of the slices.
    std::optional<Problem> begin(const Position& at, const std::vector<ConductingState>& states = {});
    Result<SteppedStack> step(double dt, const Position& between, const Position& end,
                              const SteppedStack* tried = nullptr, double tolerance = taken_tolerance);
    void take(SteppedStack step, double dt);
    /// d(flux linkage)/d(current) where it stands, H.
    Result<std::vector<PortValues>> incremental_inductance();

    const PortValues& flux_linkage() const { return m_linkage; }
    double torque() const { return m_torque; }
    const std::vector<Slice>& slices() const { return m_slices; }
    const FieldSolution& field(std::size_t slice) const { return m_steppers[slice].field(); }
    Stages stages() const { return m_steppers.front().stages(); }
    const Conductance& conductance() const { return m_steppers.front().conductance(); }
    int solves() const;
    int newton_steps() const;

  private:
    std::vector<Slice> m_slices;
    std::vector<FieldStepper> m_steppers;
    PortValues m_linkage;
    double m_torque = 0;
};

} // namespace mavlo
