#pragma once
// From what is wanted of a winding to its conductor: the strand that gives it, and the standard sizes nearby.

#include "machine/machine.h"
#include "quantity/problem.h"

#include <string>
#include <vector>

namespace mavlo {

enum class Wanted { PhaseResistance, SlotFill, CurrentDensity };

/// What a conductor gives: at the winding's temperature and the rated current.
struct ConductorOption {
    std::string name;      ///< "0.500 mm", "AWG 24"; empty: the exact size
    double diameter = 0;   ///< bare, of a strand, m; of flat wire its height
    double width = 0;      ///< of flat wire, m
    double resistance = 0; ///< of a phase, Ohm
    double fill = 0;       ///< copper over slot
    double density = 0;    ///< rms current density of a strand, A/m2
    bool fits = false;     ///< all conductors of the fullest slot lie in it
};

ConductorOption judge_conductor(const Machine& machine);

/// The exact size first, then the next standard ones (round wire only). `value` in Ohm, 1, or A/m2; the fill
/// and the resistance go with the copper's area, so that no search is needed. Fails where the copper would not
/// fit.
Result<std::vector<ConductorOption>> find_conductor(const Machine& machine, Wanted wanted, double value);

/// The design with the option's size: a strand diameter, or a flat wire's height.
Design with_conductor(Design design, const ConductorOption& option);

} // namespace mavlo
