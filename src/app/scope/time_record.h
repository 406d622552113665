#pragma once
// An answer over time, read at an instant.

#include "circuit/bridge.h"
#include "question/answer.h"

#include <array>
#include <optional>
#include <vector>

namespace mavlo::app {

/// What stands at one instant.
struct Moment {
    double time = 0, rotor_angle = 0; ///< s; mechanical, rad
    std::array<double, 3> current{};
    std::optional<Gates> gates; ///< none without a bridge
    double dc_current = 0, torque = 0;
};

/// The curves of one run; holds the answer it reads.
class TimeRecord {
  public:
    /// Empty when the answer has no currents over time.
    static std::optional<TimeRecord> of(const Answer& answer);

    const Answer& answer() const { return m_answer; }
    const std::vector<double>& times() const { return m_answer.curve("torque")->x; }
    double duration() const { return times().back(); }
    Moment at(double time) const;
    /// What feeds the machine, by the question's word.
    const std::string& supply() const { return m_answer.inputs.at("supply"); }
    bool has_bridge() const { return m_answer.curve("gate_u") != nullptr; }

  private:
    explicit TimeRecord(const Answer& answer)
        : m_answer(answer) {}
    Answer m_answer;
};

/// Value of a curve at x, straight between its points; at a jump the later one. Outside: the nearest.
double value_at(const Curve& curve, double x);

} // namespace mavlo::app
