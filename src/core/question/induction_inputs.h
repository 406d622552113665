#pragma once
// What the questions about a cage's circuit share: its elements, voltages and frequencies.

#include "circuit/induction_circuit.h"
#include "question/question.h"

namespace mavlo {

inline constexpr Need need_cage{[](const Facts& f) { return f.cage && f.phases == 3; }, "rotor.kind",
                                "This question is about cages on three phases (rotor.kind = cage)."};

/// A question's own inputs behind the elements, without which there is nothing to ask, and before friction and
/// base_frequency.
std::vector<QuestionInput> with_circuit_inputs(std::vector<QuestionInput> own);
/// "R1=0.55 Ohm, X1=1.05 Ohm, Rfe=520 Ohm, Xm=32 Ohm, R2=0.42 Ohm, X2=1.45 Ohm", in any order; Rfe may be left
/// out. `frequency`: of the reactances, Hz.
Result<InductionElements> read_elements(const std::string& text, double frequency);
Result<InductionCircuit> given_circuit(const QuestionContext& context);
/// Hz: what is given, or that of the rated speed without slip.
double base_frequency(const QuestionContext& context);

} // namespace mavlo
