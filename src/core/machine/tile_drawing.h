#pragma once
// Draws a mirrored tile: a kind adds its own lines; the frame round them is closed by itself.

#include "machine/tile_kind.h"

namespace mavlo {

/// Whatever points lie on the axis, on the boundary to the next pitch, on the gap's circle or on the far side
/// cut those lines where they are, so that a kind need not know what its shapes touch.
class TileDrawing {
  public:
    TileDrawing(const TileFrame& frame, const std::string& side);

    int at(Point p) { return m_tile.outline.add(p); }
    void line(Point a, Point b);
    /// At one height: on the circle about the machine's centre, or straight where the chart is flat.
    void along(Point a, Point b);
    /// About `centre`, the shorter way round.
    void arc(Point a, Point b, Point centre);

    void region(Point seed, Use use, const std::string& name, const std::string& material = {});
    void iron(Point seed) { region(seed, Use::Iron, m_side, m_side + ".steel"); }
    /// `filling`: path of the parameter that says what fills it; none: air.
    void air(Point seed, const std::string& name, const std::string& filling = {}) {
        region(seed, Use::Air, m_side + "." + name, filling);
    }
    void magnet(Point seed, const std::string& name, Remanence remanence, Spans spans, int part = 0);
    void hint(Point at, double size) { m_tile.hints.push_back({at, size}); }
    /// The face is shaped: the exact gap begins `layer` away from what is nearest, and air is meshed up to
    /// there.
    void lift_gap(double layer);

    Tile& tile() { return m_tile; }
    double half_pitch() const { return m_half; }
    /// Closes the frame, adds what lies beyond the far side, and lets sizes follow the pitch where none are
    /// set.
    Tile finish();

  private:
    void cut_line(double angle);
    void cut_ring(double height);
    /// What lies in the middle of a round rotor: shaft, bore, and the hole that is left of them.
    void cut_middle();
    const TileFrame& m_frame;
    std::string m_side;
    double m_half;
    Tile m_tile;
};

/// Where a drawn part does not fit the dimensions of the design it stands in.
std::optional<Problem> misfit(const DrawnPart& part, const TileFrame& frame, const std::string& side);

/// Radius of the hole left in the middle of a shaft or solid rotor, where H_t = 0 is set. A harmonic of order n
/// below it changes the field outside by (r_hole/r)^(2n) of its own small reaction (method of images for the
/// circle).
double hole_radius(double inner_radius, int pole_pairs);

} // namespace mavlo
