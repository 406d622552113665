#include "drawing/gap_side.h"

#include "drawing/centre.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr double interrupted = 0.97, much_interrupted = 0.85; ///< share of the turn; a keyway takes little
constexpr double nearer = 0.6;

/// Angles that the iron's edges on a circle span, rad.
double covered(const Arrangement& graph, const PlaneFace& iron, double radius) {
    double sum = 0;
    const auto add = [&](const Walk& walk) {
        for (HalfEdge side : walk) {
            const Piece p = piece_of(graph, side);
            if (is_about(p, {}, 1e-6) && std::abs(norm(p.a) - radius) < 1e-4 * radius)
                sum += std::abs(sweep_of(p));
        }
    };
    add(iron.outer);
    for (const Walk& hole : iron.holes) add(hole);
    return sum;
}

} // namespace

Span span_of(const Polygon& polygon) {
    Span s;
    for (const Point& p : polygon) {
        s.inner = std::min(s.inner, norm(p));
        s.outer = std::max(s.outer, norm(p));
    }
    return s;
}

double edge_share(const Arrangement& graph, const PlaneFace& iron, double radius, double other_radius) {
    const double own = covered(graph, iron, radius), other = covered(graph, iron, other_radius);
    return own > 0 || other > 0 ? own / std::max(own, other) : 0;
}

std::optional<bool> gap_lies_outside(const Arrangement& graph, const PlaneFaces& faces, int iron, double inner,
                                     double outer) {
    const PlaneFace& lamination = faces.faces[std::size_t(iron)];
    const double out = covered(graph, lamination, outer),
                 in = inner > 1e-6 ? covered(graph, lamination, inner) : 0, all = std::max(out, in);
    // What stands on the iron, beyond one of its circles.
    double beyond_out = 0, beyond_in = 0, near_out = 1e300, near_in = 1e300;
    for (std::size_t f = 0; f < faces.faces.size(); ++f) {
        const PlaneFace& face = faces.faces[f];
        if (int(f) == iron || contains(face.polygon, {})) continue;
        const double at = norm(face.centroid);
        if (at > outer) beyond_out += face.area;
        if (at < inner) beyond_in += face.area;
        if (at > outer || at < inner) continue;
        const Span r = span_of(face.polygon);
        near_out = std::min(near_out, outer - r.outer);
        near_in = std::min(near_in, r.inner - inner);
    }
    if (beyond_out > 0 || beyond_in > 0) return beyond_out > beyond_in;
    if (all <= 0) return std::nullopt;
    if (out < interrupted * all && in >= out) return true;
    if (inner > 1e-6 && in < much_interrupted * all) return false;
    if (near_out > 1e299) return std::nullopt;
    if (near_out < nearer * near_in) return true;
    if (near_in < nearer * near_out) return false;
    return std::nullopt;
}

} // namespace mavlo
