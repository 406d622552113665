#pragma once
// A shape that the designer draws on a pole or slot pitch, as it is written: pockets, notches, ribs, magnets.

#include "machine/tile.h"
#include "quantity/problem.h"
#include "shape/piece.h"

#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>
#include <vector>

namespace mavlo {

/// Coordinates are texts, quantities or formulas of parameters ("= gap_diameter / 2 - 4 mm"), about the
/// machine's centre with the pitch's axis (a pole's, a slot's) along x.
struct FreeShape {
    struct Corner {
        std::string x = "0 mm", y = "0 mm";
        double bulge = 0; ///< of the edge to the next corner: tan of a quarter of its sweep; 0: straight
        std::string fillet = "0 mm"; ///< radius of the rounding between its two edges
        bool operator==(const Corner&) const = default;
    };
    std::string name;
    std::string side = "rotor";                          ///< or "stator"
    Use use = Use::Air;                                  ///< Air, Iron or Magnet
    bool mirrored = true;                                ///< its image about the pitch's axis is there too
    std::vector<Corner> corners;                         ///< of a closed outline; empty: a circle
    std::string x = "0 mm", y = "0 mm", radius = "1 mm"; ///< of the circle
    std::string material{};                              ///< empty: the side's steel, the rotor's grade, air
    std::string direction = "0 deg";                     ///< of a magnet's remanence in a north pole
    bool operator==(const FreeShape&) const = default;
};

/// The same with numbers: a closed outline, counter-clockwise, with its roundings.
struct ShapeOutline {
    std::string name, side;
    Use use = Use::Air;
    bool mirrored = true;
    std::vector<Piece> pieces;  ///< m
    std::vector<Point> corners; ///< as they are written, before roundings; of a circle its centre
    double direction = 0;       ///< rad
    std::string material_path;  ///< empty: air
    bool operator==(const ShapeOutline&) const = default;
};

/// A name for the path of a shape's material among a design's values.
std::string shape_material_path(std::size_t number);

nlohmann::ordered_json to_json(const FreeShape& shape);
Result<FreeShape> free_shape_from(const nlohmann::ordered_json& json);

} // namespace mavlo
