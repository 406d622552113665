#include "machine/rotors/flat_magnets.h"

#include "machine/axial.h"

#include <algorithm>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double least_arc = 1e-4; ///< of the pole pitch: a narrower magnet is none

/// Half of one magnet and what lies about it.
struct Block {
    double edge;  ///< angle
    double back;  ///< height
    bool through; ///< no iron behind it
    bool full;    ///< it touches the next one
    bool none;    ///< the circle meets no magnet

    Block(const TileFrame& frame, const Values& v)
        : edge(std::min(1.0, v.number("rotor.magnet.arc")) * frame.half_pitch())
        , back(frame.radius(v.number("rotor.magnet.thickness")))
        , through(frame.dir() * (frame.far_radius - back) < 1e-6)
        , full(edge > (1 - 1e-9) * frame.half_pitch())
        , none(edge < least_arc * frame.half_pitch()) {
        if (through) back = frame.far_radius;
        if (full) edge = frame.half_pitch();
    }
};

/// Relative to the direction across the gap, which on a flat chart is the same everywhere.
double direction_of(const TileFrame& frame, const Values& v, double middle) {
    if (v.word("rotor.magnet.magnetisation") != "halbach") return 0;
    return (frame.outside() ? 1 : -1) * frame.pairs() * middle;
}

void add_pieces(TileDrawing& drawing, const TileFrame& frame, const Values& v, const Block& b) {
    const int pieces = v.whole("rotor.magnet.pieces");
    const double width = 2 * b.edge / pieces, height = (frame.gap_radius + b.back) / 2;
    for (int k = 0; k < pieces; ++k) {
        const double to = -b.edge + (k + 1) * width, from = to - width;
        if (to < 1e-9) continue;
        const bool across = from < -1e-9;
        const double inside = (std::max(from, 0.0) + to) / 2;
        drawing.magnet(frame.place(height, inside), "rotor.magnet",
                       {direction_of(frame, v, (from + to) / 2), 0}, across ? Spans::Axis : Spans::Nothing, k);
        drawing.line(frame.place(b.back, std::max(from, 0.0)), frame.place(b.back, to));
        drawing.line(frame.place(frame.gap_radius, to), frame.place(b.back, to));
    }
}

} // namespace

Result<Tile> flat_magnets(const TileFrame& frame, const Values& v) {
    const Block b(frame, v);
    const double g = frame.half_pitch(), r = frame.chart.flat;
    if (v.number("rotor.magnet.arc") > 1 + 1e-9)
        return Problem{magnet_outline(v) == "round" ? "rotor.magnet.diameter" : "rotor.magnet.width",
                       fmt::format("At the radius of {} neighbouring magnets overlap by {}.", millimetres(r),
                                   millimetres((v.number("rotor.magnet.arc") - 1) * 2 * g * r))};
    TileDrawing drawing(frame, "rotor");
    if (!b.none) add_pieces(drawing, frame, v, b);
    if (!b.full || b.none)
        drawing.air(frame.place((frame.gap_radius + b.back) / 2, b.none ? g / 2 : (b.edge + g) / 2), "between",
                    "rotor.magnet.between");
    if (!b.through) {
        drawing.line(frame.place(b.back, b.full ? g : b.none ? 0 : b.edge), frame.place(b.back, g));
        drawing.iron(frame.place((b.back + frame.far_radius) / 2, g / 2));
    }
    const double thickness = frame.dir() * (b.back - frame.gap_radius),
                 yoke = frame.dir() * (frame.far_radius - b.back);
    if (!b.none && !b.full) {
        const double fine = std::min({thickness / 4, (g - b.edge) * r / 1.5, b.edge * r / 1.5, g * r / 6});
        drawing.hint(frame.place(frame.gap_radius, b.edge), fine);
        drawing.hint(frame.place(b.back, b.edge), 2 * fine);
    }
    Tile& t = drawing.tile();
    t.iron_radius = b.back;
    t.gap_size = std::min(g * r / 5, thickness / 1.5);
    t.max_size = b.through ? std::min(g * r / 1.5, thickness / 2) : std::min(g * r / 1.5, yoke / 3);
    return drawing.finish();
}

std::vector<DimensionMark> flat_magnet_marks(const TileFrame& frame, const Values& v) {
    using Kind = DimensionMark::Kind;
    const Block b(frame, v);
    const Point back = frame.place(b.back, 0);
    std::vector<DimensionMark> marks{{"rotor.magnet.thickness",
                                      Kind::Length,
                                      back,
                                      frame.place(frame.gap_radius, 0),
                                      back,
                                      {frame.dir(), 0}}};
    const Point left = frame.place((frame.gap_radius + b.back) / 2, -b.edge),
                right = frame.place((frame.gap_radius + b.back) / 2, b.edge);
    const std::string outline = magnet_outline(v);
    if (outline == "sector")
        marks.push_back({"rotor.magnet.arc",
                         Kind::Angle,
                         left,
                         right,
                         right,
                         {0, 1 / (frame.chart.flat * frame.half_pitch())}});
    else if (outline == "rectangle")
        marks.push_back({"rotor.magnet.width", Kind::Length, left, right, right, {0, 2}});
    if (v.has("rotor.back_iron"))
        marks.push_back({"rotor.back_iron",
                         Kind::Length,
                         back,
                         frame.place(frame.far_radius, 0),
                         frame.place(frame.far_radius, 0),
                         {frame.dir(), 0}});
    return marks;
}

} // namespace mavlo
