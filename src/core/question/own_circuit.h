#pragma once
// A machine on a circuit of the design's own, in time.

#include "circuit/network_window.h"
#include "circuit/port_machine.h"
#include "question/question.h"

namespace mavlo {

/// circuit, inertia, load_torque, load_form.
std::vector<QuestionInput> own_circuit_inputs();

/// The design's circuit that the input names, checked; phases without a resistance of their own take this one.
Result<Network> own_circuit(const QuestionContext& context, double resistance);

/// What is wrong with those inputs together.
Problems own_circuit_problems(const QuestionContext& context);

/// Fields that a run on them solves, about.
int own_field_solves(const Inputs& inputs);

/// Runs the circuit on the fields of the machine, every phase with what the others link in it, at a speed that
/// is held. `map`: what it begins near to, where there is one.
Problems run_own_circuit_on_fields(QuestionContext& context, const Network& network, const PortMachine* map,
                                   double start);

/// Runs the circuit with the machine as given and fills the answer; `start` is where the rotor stands at
/// electrical angle 0, rad. `left_out`: a sentence.
Problems run_own_circuit(QuestionContext& context, const Network& network, const PortMachine& machine,
                         double start, const std::string& left_out);

} // namespace mavlo
