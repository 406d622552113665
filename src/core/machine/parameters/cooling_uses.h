#pragma once
// What a design has that takes part in its cooling: which parameters of it are used.

#include "machine/axial.h"

namespace mavlo::cooling_uses {

template <typename... Words>
bool is_one(const Design& design, const char* path, Words... words) {
    const std::string text = design.text(path);
    return ((text == words) || ...);
}

/// The rotor, and has a shaft and bearings that the heat takes its way through.
inline bool turns_inside(const Design& design) {
    return !is_one(design, "machine.topology", "outer-rotor");
}
/// Round the stack, with end shields.
inline bool has_shields(const Design& design) {
    return turns_inside(design) && !is_one(design, "housing.kind", "none");
}
/// Or what carries the stator inside a rotor.
inline bool has_plates(const Design& design) {
    return !turns_inside(design) || has_shields(design);
}
inline bool has_ribs(const Design& design) {
    return turns_inside(design) && is_one(design, "housing.kind", "ribbed");
}
inline bool has_jacket(const Design& design) {
    return turns_inside(design) && is_one(design, "housing.kind", "jacket");
}

inline bool is_given(const Design& design) {
    return is_one(design, "cooling.kind", "given");
}
inline bool has_fan(const Design& design) {
    return is_one(design, "cooling.kind", "fan");
}
inline bool has_flow(const Design& design) {
    return is_one(design, "cooling.kind", "flow");
}
inline bool is_wound(const Design& design) {
    return !is_one(design, "stator.slot.kind", "none");
}
inline bool has_magnets(const Design& design) {
    return is_one(design, "rotor.kind", "surface", "inset", "spoke", "bar", "vee", "double-vee", "vee-bar",
                  "barriers");
}
inline bool has_cage(const Design& design) {
    return is_one(design, "rotor.kind", "cage");
}
inline bool has_filled_ends(const Design& design) {
    return is_wound(design) && has_shields(design) && !is_one(design, "thermal.end_filling", "air");
}

} // namespace mavlo::cooling_uses
