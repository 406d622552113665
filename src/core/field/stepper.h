#pragma once
// Fields in time: eddy currents in bodies that conduct, with the ports' currents and the rotor's angle given.

#include "field/conductance.h"
#include "field/recorded_solver.h"

namespace mavlo {

/// A field at the end of a step, not yet taken.
struct SteppedField {
    FieldSolution field;
    std::vector<double> eddy_loss{}; ///< of each body, mean over the step, W, whole machine
    double ring_loss = 0;            ///< of the bars' rings, as the bodies'
    Eigen::VectorXd segments{};      ///< currents of the rings' segments at its end, A
    std::vector<double> middle{};    ///< potentials of the first of two stages
};

/// What a field in time remembers: its potentials, and the currents of the rings' segments (A).
struct ConductingState {
    std::vector<double> potential;
    Eigen::VectorXd segments{};
};

/// How a step's conductors are seen to.
enum class Stages {
    /// Two implicit stages of equal matrices, of order two and stable however stiff (SDIRK2 with gamma = 1 -
    /// 1/sqrt(2): R. Alexander, SIAM J. Numer. Anal. 14(6), 1977).
    Two,
    /// One implicit stage, of order one: for conductors whose own field is small against what induces them
    /// (magnets), so that its error is smaller still; the losses are those of potentials that are straight over
    /// the step, of order two.
    One
};

/// Each stage is a convex minimisation as a static field is. What does not conduct has no memory, so that
/// without conductors a step is one static field. A step knows nothing of those before it but for where its
/// iterations begin: it may follow a switching as well as a smooth stretch, and be as long as it likes.
class FieldStepper {
  public:
    /// Where the first stage stands within a step.
    static constexpr double first_stage = 0.29289321881345254;

    static constexpr double taken_tolerance = 1e-10; ///< of every field that is taken

    /// `record`, where there is one, must outlive it.
    FieldStepper(std::shared_ptr<const FieldModel> model, Conductance conductance, Stages stages = Stages::Two,
                 FieldRecord* record = nullptr);

    /// The static field there: no eddy currents yet.
    std::optional<Problem> begin(const Position& at);
    /// The field there whose conductors have kept their flux from this state.
    std::optional<Problem> begin_from(const Position& at, const ConductingState& state);
    /// The field after `dt` seconds, through what holds at `first_stage` of them. The state stays until it is
    /// taken, so that a step can be tried again; `tried` is what came out of it then.
    /// `tolerance`: square of the energy-norm error left, over the field's own; a larger one serves an attempt
    /// that will be tried again.
    Result<SteppedField> step(double dt, const Position& between, const Position& end,
                              const SteppedField* tried = nullptr, double tolerance = taken_tolerance);
    void take(SteppedField step, double dt);
    /// d(flux linkage)/d(current) of a step's end, H, with what the step's conductors answer.
    Result<std::vector<PortValues>> incremental_inductance(const SteppedField& step);

    const FieldSolution& field() const { return m_field; }
    const Eigen::VectorXd& segments() const { return m_segments; } ///< currents of the rings' segments, A
    Stages stages() const { return m_stages; }
    const Conductance& conductance() const { return m_conductance; }
    const FieldModel& model() const { return m_solver.model(); }
    int solves() const { return m_solver.solves(); }
    int newton_steps() const { return m_solver.newton_steps(); }

  private:
    Result<FieldSolution> solved(const Position& at, const FieldSolution& start, const StepTerm* term);
    FieldSolution expected(double dt) const;
    Result<SteppedField> one_stage(double dt, const Position& end, const SteppedField* tried);
    Result<SteppedField> two_stages(double dt, const Position& between, const Position& end,
                                    const SteppedField* tried);
    Eigen::VectorXd add_losses(SteppedField& step, const std::vector<double>& rate, double per_time,
                               const Eigen::VectorXd& before, double share) const;

    RecordedSolver m_solver;
    Conductance m_conductance;
    Stages m_stages;
    FieldSolution m_field;
    Eigen::VectorXd m_segments; ///< of the rings, A
    std::vector<double> m_rate; ///< of the potentials over the last step
    double m_rate_time = 0;     ///< its length, s
};

} // namespace mavlo
