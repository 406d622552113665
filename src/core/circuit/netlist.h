#pragma once
// Networks as text: a subset of SPICE's netlists (L.W. Nagel, D.O. Pederson, Memo ERL-M382, Berkeley, 1973).

#include "circuit/network.h"

namespace mavlo {

/// Reads
///   * a comment; from ";" on, too. A "+" goes on with the line before. Upper and lower case are the same
///   R… L… C… n1 n2 value [ic=value]         K… L1 L2 factor
///   V… I…   n+ n- [dc] value | sin(offset amplitude frequency [delay damping phase])
///           | pulse(low high [delay rise fall width period]) | pwl(t v t v …)
///           | angle(low high from to)       high while the rotor's electrical angle lies between, degrees
///   D…      anode cathode [model]           S… n+ n- control+ control- [model]
///   W…      n+ n- source [model]            X… n1 n2 phase_u [resistance]   of the machine
///   .model name d(vf= ron= roff=) | sw(vt= vh= ron= roff= vf=) | csw(it= ih= ron= roff= vf=)
///   .end and .tran, .options, .title, which say nothing here
/// with values as SPICE writes them (4.7k, 10u, 1meg). `resistance` of a phase: the winding's, where none is
/// given. Fails with the line in words.
Result<Network> read_netlist(const std::string& text, double resistance = 0);

/// The network as text that reads back the same; gates from outside are left out.
std::string write_netlist(const Network& network, const std::string& title);

} // namespace mavlo
