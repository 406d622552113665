#pragma once
// Under what temperatures and limits a figure holds, in words.

#include "machine/machine.h"

#include <string>

namespace mavlo {

/// "Winding at 100 °C, magnets at 60 °C."; of a machine without magnets the winding alone. And where poles
/// stand out, that the windage is a round rotor's.
std::string conditions_in_words(const Machine& machine);

/// Of axial machines, on what slices they are computed and what those leave out; empty for others.
std::string slices_in_words(const Machine& machine);

/// Peak of the phase voltage's fundamental that the rated link gives with space-vector modulation and a reserve
/// of a twentieth for control, V; 0 where no link is rated.
double rated_voltage_limit(const Machine& machine);

/// A sentence where a phase needs more than that (V, peak of the fundamental) at a speed (rad/s): what would
/// allow it.
std::string beyond_link_in_words(const Machine& machine, double voltage, double speed);

} // namespace mavlo
