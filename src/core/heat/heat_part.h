#pragma once
// The parts of a machine that warm up, and what warms them.

#include "figure/loss_part.h"

#include <map>
#include <string>
#include <vector>

namespace mavlo {

/// Parts whose temperature is told.
enum class HeatPart {
    Winding, ///< in the slots
    Ends,    ///< end windings
    Teeth,
    Yoke,  ///< of the stator
    Rotor, ///< its steel
    Magnets,
    Bars,
    Housing, ///< of an outer rotor: what carries the stator
    Shields,
    Shaft,
    Bearings,
    InnerAir, ///< round the end windings
    Gap,
    Coolant
};
/// The trade's word.
std::string to_string(HeatPart part);

/// W: the winding's own by where it lies, all else by loss. Where iron, magnets and what is added in the slots
/// lose it may come by element of the model (W/m3, any scale).
struct HeatLosses {
    double slots = 0, ends = 0; ///< of the winding by direct current: in the slots, in its ends
    double added = 0;           ///< in the slots beside it
    std::map<LossPart, double> watts;
    std::vector<double> density{};
    double winding() const { return slots + ends + added; }
    double total() const; ///< without a converter's, which stand beside the machine
};

} // namespace mavlo
