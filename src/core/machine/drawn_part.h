#pragma once
// A pole or slot pitch that was drawn instead of being made from parameters: part of a design, kept with it.

#include "machine/tile.h"
#include "quantity/problem.h"
#include "shape/arrangement.h"

#include <algorithm>
#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>
#include <vector>

namespace mavlo {

struct DrawnPart {
    /// What a face is, named by a point inside it. `direction`: of a north pole's remanence, rad.
    struct Region {
        Point inside;
        Use use = Use::Air;
        std::optional<double> direction{};
        bool operator==(const Region&) const = default;
    };
    int pitches = 0;                       ///< poles or slots in a turn
    bool mirrored = true;                  ///< the drawing is half a pitch, from its axis at angle 0 on
    bool gap_outside = true;               ///< the gap lies round it
    double gap_radius = 0, far_radius = 0; ///< of what is nearest to the gap, and of its other side; m
    std::vector<Piece> pieces;             ///< m, about the machine's centre, the pitch's axis at angle 0
    std::vector<Region> regions;
    int conductors() const {
        return int(std::count_if(regions.begin(), regions.end(),
                                 [](const Region& r) { return r.use == Use::Conductor; }));
    }
    bool operator==(const DrawnPart&) const = default;
};

/// As the project file has it: lengths in mm, angles in degrees.
nlohmann::ordered_json to_json(const DrawnPart& part);
Result<DrawnPart> drawn_part_from(const nlohmann::ordered_json& json);

/// Its lines closed by the pitch's edges, the gap's circle and the far side's.
Arrangement drawn_lines(const DrawnPart& part);

/// The tile of a drawn part: its pieces closed by the pitch's edges, the gap's circle and the shaft's. Faces
/// that no region names are air. `side` is "rotor" or "stator". `radial`: a magnet's remanence turns with the
/// radius, out or in as its direction points.
Result<Tile> drawn_tile(const DrawnPart& part, const std::string& side, bool radial = false);

/// What a drawn slot pitch has for conductors: area of one slot (m2), and the depths that they span from the
/// gap.
struct DrawnSlot {
    double area = 0, from = 0, to = 0;
};
DrawnSlot drawn_slot_of(const DrawnPart& stator);

/// A text of everything in it, for hashing.
std::string canonical_text(const DrawnPart& part);

} // namespace mavlo
