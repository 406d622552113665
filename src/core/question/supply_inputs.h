#pragma once
// Inputs of questions about a machine on a supply.

#include "circuit/supply_kind.h"
#include "circuit/transient.h"
#include "question/question.h"

namespace mavlo {

/// One of some words, the first the standard.
QuestionInput choice_input(const char* key, const char* label, std::vector<std::string> words,
                           const char* help);

/// What supplies and bridges need beside their speed: voltages, angles, carriers, devices.
std::vector<QuestionInput> supply_inputs();
/// Drops and resistances of switches and diodes.
std::vector<QuestionInput> valve_inputs();
/// resistance, end_inductance.
std::vector<QuestionInput> winding_inputs(const char* end_inductance = "auto");
QuestionInput end_inductance_input(const char* standard = "auto");

/// The settings given, at an electrical angular frequency (rad/s); zero where the question has no such input,
/// not a number where it is left open (found_supply.h).
SupplySettings supply_settings(const Inputs& inputs, double omega);

/// Of a phase: what is given, or the winding's where the input says auto. Ohm, H.
double given_resistance(const QuestionContext& context);
double given_end_inductance(const QuestionContext& context);
/// The one that an answer was found with.
Figure end_inductance_figure(const QuestionContext& context);

/// Whether the question has been stopped, for what runs under it.
std::function<bool()> stop_of(const QuestionContext& context);
/// Of a circuit with the resistance given, in so many steps a period.
TransientOptions circuit_options(const QuestionContext& context, int steps);

/// The supply of the input of this name, with what `settings` give for the phases, at the machine's terminals.
Result<std::unique_ptr<Supply>> given_supply(const QuestionContext& context, const SupplySettings& settings);

/// Whether the phases lie between terminals.
bool is_delta(const Machine& machine);
/// Windings whose ends are all led out have no such terminals.
Problems terminal_problems(const Machine& machine);

inline constexpr Need need_three_phases{[](const Facts& f) { return f.phases == 3; }, "winding.phases",
                                        "Supplies feed three phases; this winding has another number."};

} // namespace mavlo
