#pragma once
// What the questions about a cage's circuit share: its elements, voltages and frequencies.

#include "circuit/induction_circuit.h"
#include "question/cage_slips.h"
#include "question/question.h"

namespace mavlo {

inline constexpr Need need_cage{[](const Facts& f) { return f.cage && f.phases == 3; }, "rotor.kind",
                                "This question is about cages on three phases (rotor.kind = cage)."};

/// A question's own inputs behind the elements, and before the stator's own, friction and base_frequency.
std::vector<QuestionInput> with_circuit_inputs(std::vector<QuestionInput> own);
/// "R1=0.55 Ohm, X1=1.05 Ohm, Rfe=520 Ohm, Xm=32 Ohm, R2=0.42 Ohm, X2=1.45 Ohm", in any order; Rfe may be left
/// out. `frequency`: of the reactances, Hz.
Result<InductionElements> read_elements(const std::string& text, double frequency);
/// Fields of the drawing on the phases' own resistance and end windings, the mesh that of the quality; the
/// context must outlive them. `friction` in W.
Result<std::unique_ptr<FieldSlips>> cage_fields(QuestionContext& context, double friction = 0);

/// What tells the currents: the circuit of the elements that are given; the fields themselves (`by_fields`);
/// or the circuit that they make on this voltage (line, rms) and frequency.
struct CageSource {
    std::unique_ptr<SlipMachine> machine;
    std::string told; ///< how the figures came about and what they leave out
};
Result<CageSource> cage_source(QuestionContext& context, double voltage, double frequency, bool by_fields);
/// Its price.
int fields_of_source(const Inputs& inputs, bool by_fields);
/// Hz: what is given, or that of the rated speed without slip.
double base_frequency(const QuestionContext& context);

/// W: what is given, or the design's friction torque at synchronous speed.
double given_friction(const QuestionContext& context);

} // namespace mavlo
