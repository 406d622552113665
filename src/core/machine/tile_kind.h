#pragma once
// Kinds of stator slots and rotor poles. A new kind is one file in machine/slots/ or machine/rotors/ that
// defines a TileKind with its parameters and registers it. A kind draws away from the gap, so that it serves
// inside and outside alike.

#include "machine/design.h"
#include "machine/parameter.h"
#include "machine/tile.h"
#include "winding/layout.h"

#include <array>
#include <cmath>
#include <optional>
#include <string>
#include <vector>

namespace mavlo {

/// `Bar`: what a rotor has in its pitches beside them, drawn by the rotor.
enum class Side { Stator, Rotor, Bar };

/// Where a tile is drawn, on its own chart: "depth" counts from the gap into the body.
struct TileFrame {
    Chart chart{};
    double gap_radius = 0; ///< of what is nearest to the other side
    double far_radius = 0; ///< the body's other side: outside, or shaft or hole (0: none)
    int pitches = 0;       ///< slots, poles or bars in a turn
    double gap = 0;        ///< mechanical air gap
    SlotSharing sharing = SlotSharing::Whole;
    int layers = 1;     ///< coil sides that a slot is stacked of
    int pole_pairs = 0; ///< of the field, where the pitches are not its poles; 0: they are

    bool outside() const { return far_radius > gap_radius; }
    double dir() const { return outside() ? 1 : -1; }
    double pitch() const;
    double half_pitch() const { return pitch() / 2; }
    int pairs() const { return pole_pairs > 0 ? pole_pairs : pitches / 2; }
    double radius(double depth) const { return gap_radius + dir() * depth; }
    double depth_of(Point p) const { return dir() * (chart.height(p) - gap_radius); }
    /// `depth` along the axis from where the axis meets the gap, and `y` across.
    Point at(double depth, double y) const { return {gap_radius + dir() * depth, y}; }
    /// On the circle at this depth.
    Point on(double depth, double angle) const { return place(radius(depth), angle); }
    /// At a height, which of round frames is a radius.
    Point place(double height, double angle) const { return chart.place(height, angle); }
    /// Where what stands `y` beside the axis meets the gap.
    Point on_gap(double y) const {
        return {chart.is_flat() ? gap_radius : std::sqrt(gap_radius * gap_radius - y * y), y};
    }
    /// Distance from the axis of what stands on the gap at this angle.
    double half_chord(double angle) const {
        return chart.is_flat() ? chart.flat * angle : gap_radius * std::sin(angle);
    }
    /// The centre of arcs at one height, which on a flat chart are straight.
    std::optional<Point> middle() const { return chart.is_flat() ? std::nullopt : std::optional(Point{}); }
    double thickness() const { return dir() * (far_radius - gap_radius); }
    const char* far_path() const; ///< of the rotor's dimension on the far side
};

struct TileKind {
    Side side = Side::Stator;
    std::string name;
    std::string tells; ///< one sentence: what it looks like
    std::vector<Parameter> parameters;
    /// The tile, or what collides with what and by how much.
    Result<Tile> (*tile)(const TileFrame&, const Values&) = nullptr;
    /// Dimensions of the first pitch for the drawing.
    std::vector<DimensionMark> (*marks)(const TileFrame&, const Values&) = nullptr;
    int order = 0;
    const char* pitches = nullptr; ///< path of the number of its pitches; null: stator.slots or rotor.poles
    bool has_bars = false;         ///< of the shape that rotor.bar.kind names
    bool flat = false;             ///< it can be drawn on a flat chart
    bool round = true;             ///< it can be drawn round an axis

    bool serves(const Chart& chart) const { return chart.is_flat() ? flat : round; }
};

/// A slot and a rotor may share a name.
inline bool is_same_kind(const TileKind& a, const TileKind& b) {
    return a.side == b.side && a.name == b.name;
}

const TileKind* find_kind(Side side, std::string_view name);
std::vector<std::string> kind_names(Side side);
/// The path that names the kind of this side.
const char* kind_path(Side side);
/// The design's slot and rotor, and the rotor's bars; null where the name is not known or there are none.
std::array<const TileKind*, 3> chosen_kinds(const Design& design);

/// A sentence with an amount in mm: "{:.2f} mm".
std::string millimetres(double metres);

} // namespace mavlo
