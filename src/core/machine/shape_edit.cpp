#include "machine/shape_edit.h"

#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "shape/plane_faces.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double joint = 1e-9; ///< m

/// Where two straight pieces, made as long as need be, meet.
std::optional<Point> meeting_of(const Piece& p, const Piece& q) {
    const Point u = p.b - p.a, v = q.b - q.a;
    const double det = cross(u, v);
    if (std::abs(det) < 1e-9 * norm(u) * norm(v)) return std::nullopt;
    return p.a + (cross(q.a - p.a, v) / det) * u;
}

} // namespace

namespace {

/// The lines between what is kept and what is not, in order; several outlines where it falls apart.
std::vector<std::vector<Piece>> outlines_of(const Arrangement& graph, const std::vector<PlaneFace>& kept) {
    std::vector<int> sides(graph.edges.size(), 0);
    for (const PlaneFace& face : kept) {
        for (const HalfEdge& half : face.outer) ++sides[std::size_t(half.edge)];
        for (const Walk& hole : face.holes)
            for (const HalfEdge& half : hole) ++sides[std::size_t(half.edge)];
    }
    std::vector<Piece> border;
    for (std::size_t i = 0; i < sides.size(); ++i)
        if (sides[i] == 1) border.push_back(graph.piece(graph.edges[i]));
    const Arrangement rim = simplified(arrange(border, joint), joint, true);
    std::vector<std::vector<Piece>> outlines;
    for (const PlaneFace& face : plane_faces(rim).faces) {
        const bool inside = std::any_of(kept.begin(), kept.end(),
                                        [&](const PlaneFace& k) { return holds(graph, k, face.inside); });
        if (!inside) continue;
        std::vector<Piece> pieces;
        for (const HalfEdge& half : face.outer) pieces.push_back(piece_of(rim, half));
        outlines.push_back(pieces);
        if (!face.holes.empty()) outlines.emplace_back(); // a hole is an outline of its own
    }
    return outlines;
}

} // namespace

Result<std::vector<FreeShape::Corner>> trimmed_corners(const ShapeOutline& shape, std::vector<Piece> lines,
                                                       Point off) {
    const std::string path = "drawings.shapes." + shape.name;
    const Arrangement own = arrange(shape.pieces, joint);
    const auto in_shape = [&, faces = plane_faces(own).faces](Point p) {
        return std::any_of(faces.begin(), faces.end(), [&](const PlaneFace& f) { return holds(own, f, p); });
    };
    lines.insert(lines.end(), shape.pieces.begin(), shape.pieces.end());
    const Arrangement graph = arrange(lines, joint);
    std::vector<PlaneFace> kept;
    bool cut = false;
    for (const PlaneFace& face : plane_faces(graph).faces) {
        if (!in_shape(face.inside)) continue;
        if (holds(graph, face, off))
            cut = true;
        else
            kept.push_back(face);
    }
    if (!cut) return Problem{path, "Click inside the shape, on the part that shall go."};
    if (kept.empty())
        return Problem{path, "No line crosses the shape here; draw or move one across it, then trim."};
    const auto outlines = outlines_of(graph, kept);
    if (outlines.size() != 1)
        return Problem{path, "Without this part the shape would fall apart or have a hole; trim from its rim."};
    std::vector<FreeShape::Corner> corners;
    for (const Piece& p : outlines.front()) {
        corners.push_back(corner_at(p.a));
        corners.back().bulge = p.bulge;
    }
    return corners;
}

PitchPlace pitch_at(const Machine& machine, Point p, double rotor_angle) {
    const double middle = machine.middle_of_gap();
    const bool rotor = (norm(p) < middle) == machine.section.bodies.front().turns;
    const Tile& tile = rotor ? machine.section.rotor().tile : machine.section.stator().tile;
    // A pair of shifted poles is one tile; shapes are drawn on one pole.
    const double pitch = rotor ? 2 * pi / machine.poles : tile.pitch;
    const double angle = angle_of(p) - tile.turn - (rotor ? rotor_angle : 0);
    return {rotor ? "rotor" : "stator", tile.turn + std::round(angle / pitch) * pitch};
}

std::string coordinate_text(double metres) {
    const double rounded = std::round(metres * 1e9) / 1e6;
    return number_text(rounded == 0 ? 0 : rounded, 12) + " mm";
}

FreeShape::Corner corner_at(Point p) {
    return {coordinate_text(p.x), coordinate_text(p.y), 0, "0 mm"};
}

std::string free_shape_name(const Design& design, Use use) {
    const std::string word = use == Use::Magnet ? "magnet" : use == Use::Iron ? "rib" : "pocket";
    for (int i = 1;; ++i) {
        std::string name = fmt::format("{} {}", word, i);
        if (std::none_of(design.shapes.begin(), design.shapes.end(),
                         [&](const FreeShape& s) { return s.name == name; }))
            return name;
    }
}

Result<std::vector<FreeShape::Corner>> offset_corners(const ShapeOutline& shape, double distance) {
    std::vector<Piece> pieces;
    for (const Piece& p : shape.pieces)
        if (const auto moved = beside(p, distance)) pieces.push_back(*moved);
    const std::size_t n = pieces.size();
    const Problem nothing{"drawings.shapes." + shape.name,
                          "An offset of this size leaves nothing of the shape."};
    if (n < 2) return nothing;
    for (std::size_t i = 0; i < n; ++i) {
        Piece &p = pieces[i], &q = pieces[(i + 1) % n];
        if (norm(q.a - p.b) < joint || !p.straight() || !q.straight()) continue;
        if (const auto at = meeting_of(p, q)) p.b = q.a = *at;
    }
    std::vector<FreeShape::Corner> corners;
    double area = 0;
    for (std::size_t i = 0; i < n; ++i) {
        const Piece& p = pieces[i];
        const Point old = shape.pieces[i].b - shape.pieces[i].a;
        if (p.straight() && n == shape.pieces.size() && dot(p.b - p.a, old) <= 0) return nothing;
        corners.push_back(corner_at(p.a));
        corners.back().bulge = p.bulge;
        if (norm(pieces[(i + 1) % n].a - p.b) > joint) corners.push_back(corner_at(p.b));
        area += swept_area(p);
    }
    if (area <= 0) return nothing;
    return corners;
}

} // namespace mavlo
