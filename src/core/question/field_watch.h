#pragma once
// What runs on fields in time lose, step by step, and what conducts in them.

#include "figure/current_wave.h"
#include "figure/stack_losses.h"
#include "question/time_answer.h"
#include "transient/field_transient.h"

namespace mavlo {

/// Looks at every step of the window: steel and strands as they go, eddy losses summed over the time.
class FieldWatch {
  public:
    /// `omega`: of the currents' fundamental, rad/s.
    FieldWatch(const MachineModel& model, const StackStepper& stepper, double omega);
    StepObserver observer() {
        return [this](const FieldStep& step) { look(step); };
    }
    /// The losses of the run, iron where it saw a whole period.
    void fill(TimeRun& time) const;

  private:
    void look(const FieldStep& step);

    const StackStepper& m_stepper;
    const MachineModel& m_model;
    double m_omega;
    StackLosses m_losses;
    std::vector<double> m_eddy;
    double m_rings = 0;      ///< J
    double m_bar_square = 0; ///< of the bars' currents, mean over them, A2 s
    double m_time = 0;
};

/// What conducts, the magnets with what their axial pieces keep of the loss order by order: static fields over
/// a period with these currents say which orders they see.
Result<std::vector<EddyBody>> bodies_with(QuestionContext& context,
                                          const std::shared_ptr<const MachineModel>& model,
                                          const CurrentWave& wave);
int pieces_solves(const Machine& machine); ///< fields that it takes
/// Of magnets that are cut, in a sentence.
std::string pieces_in_words(const Machine& machine);

} // namespace mavlo
