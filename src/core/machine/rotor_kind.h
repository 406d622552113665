#pragma once
// Kinds of rotor. A new kind is one file in machine/rotors/ that defines a RotorKind and registers it.

#include "machine/cell.h"
#include "machine/design.h"

#include <string>
#include <vector>

namespace mavlo {

/// What the rotor must fit: its outermost radius and its poles.
struct RotorFrame {
    double outer_radius = 0;
    int poles = 0;
    double half_pitch() const;
};

struct RotorKind {
    std::string name;
    std::vector<std::string> paths; ///< parameters under rotor. that it uses beside poles, kind and steel
    Result<Cell> (*cell)(const RotorFrame&, const Values&) = nullptr; ///< north pole centred on angle 0
    std::vector<DimensionMark> (*marks)(const RotorFrame&, const Values&) = nullptr;
};

struct RegisterRotorKind {
    explicit RegisterRotorKind(RotorKind kind);
};

const RotorKind* find_rotor_kind(const std::string& name);
std::vector<std::string> rotor_kind_names();

/// Radius of the hole left in the middle of a shaft or solid rotor, where H_t = 0 is set. A harmonic of order n
/// below it changes the field outside by (r_hole/r)^(2n) of its own small reaction (method of images for the
/// circle).
double hole_radius(double inner_radius, int pole_pairs);

} // namespace mavlo
