#pragma once
// Straight pockets with a magnet in each: the bars that vee, bar and double-layer rotors are made of.

#include "machine/rotors/face.h"

namespace mavlo {

/// The upper pocket of the north pole: a bar with rounded corners, its face towards the gap on the side of
/// `out`. `s` runs along it from the inner corners' centres, `n` across from its middle line.
struct Pocket {
    std::string layer;   ///< "rotor." or "rotor.second."
    Point along, out;    ///< unit vectors
    double half, corner; ///< half its thickness; radius of the corners
    double bridge, post; ///< iron towards the gap, and to the other pocket of the pole
    Point inner;         ///< middle between the inner corners' centres
    double length;       ///< between the inner and the outer corners' centres; below 0: no room
    double magnet;       ///< width of the magnet
    int pieces;          ///< that the magnet is cut into
    bool joined;         ///< with its mirror image: one magnet across the axis

    Point at(double s, double n) const { return inner + s * along + n * out; }
    Point outer_end() const { return at(length, 0); }
    /// Where the magnet begins; it ends `magnet` (joined: half of it) further on.
    double magnet_from() const { return joined ? 0 : (length - magnet) / 2; }
    double magnet_to() const { return joined ? magnet / 2 : (length + magnet) / 2; }
    std::vector<Point> outline() const; ///< in small steps, for what it might touch
};

/// Read from the layer's parameters; the bar goes on until an outer corner touches the bridge. `angle` between
/// the two pockets of a pole, `post` between them: 0 joins two that lie in one line.
Pocket pocket_of(const TileFrame& frame, const Values& values, const std::string& layer, double angle,
                 double post);

/// What the pockets collide with, each by how much: with the shaft or yoke, the next pole, each other.
Problems pocket_problems(const TileFrame& frame, const std::vector<Pocket>& pockets);

void draw_pocket(TileDrawing& drawing, const TileFrame& frame, const Pocket& pocket);

/// Marks of the dimensions that pockets have; a layer's `MakePocket` finds the pocket again for changed values.
using MakePocket = Pocket (*)(const TileFrame&, const Values&);
/// Of each layer in turn, and then the body's far side.
std::vector<DimensionMark> pocket_rotor_marks(const TileFrame& frame, const Values& values,
                                              std::initializer_list<MakePocket> layers);

/// A rotor of pockets: iron, face, shaft, and the pockets in it.
Result<Tile> pocket_tile(const TileFrame& frame, const Values& values, const std::vector<Pocket>& pockets);

/// Thickness of magnet and clearance together, m.
double pocket_thickness(const Values& values, const std::string& layer);

/// The dimension of the body's far side: shaft, or the outer rotor's outside.
DimensionMark far_side_mark(const TileFrame& frame);

} // namespace mavlo
