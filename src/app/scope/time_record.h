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
    std::vector<double> current,      ///< of the phases, A
        line;                         ///< into the terminals, A: in star the same
    /// Of each leg (see Gates), of half-bridges 1: both switches, 0: the lower one, -1: none; none without a
    /// bridge.
    std::optional<std::vector<int>> gates;
    double dc_current = 0, torque = 0;
};

/// The curves of one run; holds the answer it reads.
class TimeRecord {
  public:
    /// Empty when the answer has no currents over time. What stands over the rotor's
    /// angle (strokes, a period with given currents) is read at its speed.
    static std::optional<TimeRecord> of(const Answer& answer);

    const Answer& answer() const { return m_answer; }
    const std::vector<double>& times() const { return m_answer.curve("torque")->x; }
    double duration() const { return times().back(); }
    Moment at(double time) const;
    /// What feeds the machine, by the question's word.
    const std::string& supply() const { return m_answer.inputs.at("supply"); }
    std::size_t phases() const { return m_phases; }
    /// Whether its phases lie between terminals.
    bool is_delta() const { return m_answer.curve("line_current_u") != nullptr; }
    bool has_bridge() const { return m_answer.curve("gate_u") != nullptr; }

  private:
    explicit TimeRecord(Answer answer);
    Answer m_answer;
    std::size_t m_phases = 0;
};

/// Value of a curve at x, straight between its points; at a jump the later one. Outside: the nearest.
double value_at(const Curve& curve, double x);

/// The words that records over the rotor's angle have for their supply.
inline constexpr const char *half_bridge_supply = "half-bridges", *given_currents = "currents";

} // namespace mavlo::app
