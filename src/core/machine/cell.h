#pragma once
// Half a pitch of the stator or the rotor: the smallest piece from which the whole is mirrored and turned.

#include "shape/outline.h"

#include <optional>
#include <string>
#include <vector>

namespace mavlo {

enum class Role { Air, StatorIron, RotorIron, Conductor, Magnet, Shaft };

std::string to_string(Role role);

/// Direction of the remanence of a north pole's magnet in the cell.
enum class Magnetisation { None, Radial, Parallel };

/// A part of a cell, named by a point inside it.
struct Region {
    Point seed;
    Role role = Role::Air;
    int layer = 0; ///< conductors of stacked windings: 0 nearest the gap
    Magnetisation magnetisation = Magnetisation::None;
    /// Of a parallel remanence, against the axis on angle 0, rad; the mirror image has the opposite.
    double direction = 0;
    bool operator==(const Region&) const = default;
};

/// Elements near `at` shall not be larger than `size`, growing with the distance.
struct SizeHint {
    Point at;
    double size = 0;
    bool operator==(const SizeHint&) const = default;
};

/// Angles from 0 (slot centre, or magnet axis) to `half_pitch` (tooth centre, or pole boundary), mirror lines
/// both.
struct Cell {
    double half_pitch = 0;
    double gap_radius = 0;   ///< radius of the circle where the air gap begins
    double other_radius = 0; ///< the far side: stator's outer radius (A = 0), or the rotor's inner hole
    Outline outline;
    std::vector<Region> regions;
    std::vector<SizeHint> hints;
    double gap_size = 0; ///< element size on the gap circle
    double max_size = 0;
    double iron_radius = 0; ///< of the disc of iron that a rotor's regions lie in
    bool operator==(const Cell&) const = default;
};

/// A dimension that stands on the drawing: from `a` to `b`. Moving the handle by a vector v changes the value
/// by dot(v, gradient) in SI.
struct DimensionMark {
    enum class Kind { Length, Diameter, Angle };
    std::string path;
    Kind kind = Kind::Length;
    Point a, b;
    Point handle, gradient;
    bool operator==(const DimensionMark&) const = default;
};

} // namespace mavlo
