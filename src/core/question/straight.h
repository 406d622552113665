#pragma once
// A straight machine is computed like a disc of one radius whose circumference is its length; what is asked and
// answered of it counts along the line.

#include "question/answer.h"
#include "question/inputs.h"

#include <optional>
#include <vector>

namespace mavlo {

/// The inputs of a question as they are read of a straight machine: speeds in m/s, thrusts in N, masses in kg,
/// places along the gap in mm.
std::vector<QuestionInput> straight_inputs(std::vector<QuestionInput> inputs);
/// What was read in those units, for a machine that turns at this radius (m); and the other way round.
void to_turning(const std::vector<QuestionInput>& inputs, double radius, Inputs& values);
void to_straight(const std::vector<QuestionInput>& inputs, double radius, Inputs& values);

/// The answer of a machine that turns at this radius in the words and units of a straight one: torque becomes
/// thrust, speeds are in m/s, places in mm, what pulls along the shaft is a normal force.
void make_straight(Answer& answer, double radius);
/// The same of words alone: "2.5 N·m of torque at 300 rpm" -> "50 N of thrust at 1.57 m/s".
std::string straight_words(const std::string& text, double radius);
/// Of a figure's or a curve's name: "torque_mean" -> "thrust_mean".
std::string straight_name(std::string name);
std::string turning_name(std::string name); ///< … and back, but for those of places

struct KeyFigure;
struct Machine;
/// A key figure as it is shown of this machine: of a straight one along the line. Its name stays.
KeyFigure shown_key_figure(KeyFigure figure, const Machine& machine);
/// The full answer's value of a key figure in the unit that quick ones have, SI of what turns; empty: not in
/// it.
std::optional<double> full_value(const Answer& answer, const std::string& name, const Machine& machine);

} // namespace mavlo
