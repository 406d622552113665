#pragma once
// A machine on its supply in time, on the fields themselves.

#include "circuit/transient.h"
#include "figure/machine_model.h"
#include "transient/local_machine.h"
#include "transient/stack_stepper.h"

namespace mavlo {

/// How the rotor turns: at constant speed from where it stands at time 0.
struct Motion {
    double start = 0, speed = 0; ///< rad mechanical, rad/s
    double at(double t) const { return start + speed * t; }
};

struct FieldTransientOptions {
    TransientOptions circuit{};
    double end_inductance = 0; ///< of a phase beside what the field links, H
    std::vector<Slice> slices{{0, 1}};
    Motion motion{};
    std::function<void(const TransientSample&)> stepped{}; ///< called after every step, with what stands there
    double tolerance = 1e-4; ///< of the linkage that circuit and field may disagree by in a step
};

/// Where a run begins, near its steady state: currents of the terminals and what the slices' conductors hold.
struct FieldStart {
    Currents currents = Currents::Zero();
    std::vector<ConductingState> slices;
};

/// What is told of every step that was taken.
struct FieldStep {
    double from = 0, to = 0; ///< s
    bool begins = false;     ///< the window begins with it; what was told before is void
    const SteppedStack& at;  ///< where it ends
};
using StepObserver = std::function<void(const FieldStep&)>;

/// Circuit and field advance together. Over a step, which ends on every edge of the supply and on every event,
/// the circuit sees the machine as straight about the step's start (LocalMachine) and finds its own events
/// (Transient); the field is then solved for the currents at the step's end. Where the two linkages disagree
/// the step is repeated with the slope that the field asks for, its inductance learning from each attempt (C.G.
/// Broyden, Math. Comp. 19, 1965). What is left of the disagreement goes into the next step, so that no linkage
/// is lost over a run: u - R i = d psi/dt holds at every step's end.
class FieldTransient {
  public:
    FieldTransient(const std::shared_ptr<const MachineModel>& model, const Conductance& conductance,
                   const Clock& clock, std::unique_ptr<Supply> supply, FieldTransientOptions options,
                   Stages stages = Stages::Two, FieldRecord* record = nullptr);

    /// From here on with these currents and their static field; eddy currents are forgotten.
    std::optional<Problem> begin(const Currents& currents) { return begin(FieldStart{currents, {}}); }
    std::optional<Problem> begin(const FieldStart& from);
    /// On to `end`; samples at both ends of every step and on both sides of every event.
    std::optional<Problem> run(double end, std::vector<TransientSample>* samples,
                               const StepObserver& observe = {});
    void feed_by(std::unique_ptr<Supply> supply) { m_run.feed_by(std::move(supply)); }
    /// So many steps a period at least, from here on.
    void take_steps(int steps) { m_options.circuit.steps = steps; }
    /// Fields as exact as settling asks (square of the energy-norm error left 1e-7), or as what is told.
    void be_exact(bool exact) { m_taken = exact ? StackStepper::taken_tolerance : roughly; }

    double time() const { return m_run.time(); }
    const Currents& currents() const { return m_run.currents(); }
    const Transient& circuit() const { return m_run; }
    /// Linkages and inductances here, as the supply sees them.
    PhaseState state() const { return m_local.at(m_clock.angle(m_run.time()), m_run.currents()); }
    /// A: what the tolerance leaves undecided of a current.
    double current_noise() const;
    const StackStepper& stepper() const { return m_stepper; }

  private:
    struct Attempt {
        Transient run;
        Transient::At at;
        SteppedStack step;
        double tolerance; ///< of its field
    };
    Position position(double t, const Currents& currents) const;
    Currents phases_of(const Currents& currents) const;
    Eigen::Vector3d linkage_of(const PortValues& section, const Currents& currents) const;
    void without_common(Eigen::Vector3d& linkage) const;
    std::optional<Problem> measure_inductance();
    void predict(double end);
    Result<SteppedStack> field_of(const Transient& run, const SteppedStack* tried, double tolerance);
    Result<Attempt> attempt(double end, const SteppedStack* tried, double tolerance);
    Eigen::Vector3d disagreement(const Attempt& tried, const Eigen::Vector3d& linkage) const;
    Result<Attempt> agree(double end);
    Result<Attempt> agree_on(double end);
    void learn(const Eigen::Vector3d& current, const Eigen::Vector3d& linkage);
    Eigen::Vector3d slope_over(double width, const Eigen::Vector3d& current,
                               const Eigen::Vector3d& linkage) const;
    void note_slope(double width, const Eigen::Vector3d& slope);
    std::optional<Problem> take(Attempt attempt, bool begins, const StepObserver& observe);

    static constexpr double roughly = 1e-7;

    StackStepper m_stepper;
    double m_taken = StackStepper::taken_tolerance; ///< of the fields that are taken
    Clock m_clock;
    FieldTransientOptions m_options;
    LocalMachine m_local;
    Transient m_run;
    Eigen::Vector3d m_missing = Eigen::Vector3d::Zero();  ///< of the circuit's linkage to the field's
    Eigen::Vector3d m_left_out = Eigen::Vector3d::Zero(); ///< of it, by the step in hand
    Eigen::Vector3d m_slope = Eigen::Vector3d::Zero(), m_slope_before = m_slope;
    double m_width = 0, m_width_before = 0; ///< rad electrical, of the steps those slopes were seen over
    Eigen::Vector3d m_tried_slope = Eigen::Vector3d::Zero();
    double m_tried_width = 0; ///< of the longest attempt at the step in hand, over which that slope was seen
    double m_scale = 0;       ///< largest linkage so far
    int m_since_measured = 0;
    bool m_has_events = false; ///< a diode or a bound has switched
    bool m_disagree = false;   ///< the last step failed because circuit and field did not agree
};

} // namespace mavlo
