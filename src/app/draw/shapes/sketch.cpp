#include "draw/shapes/sketch.h"

#include "machine/shape_edit.h"

#include <cmath>
#include <numbers>

namespace mavlo::app {
namespace {

constexpr double same = 1e-8; // m

std::vector<Point> rectangle(Point a, Point b) {
    return {a, {b.x, a.y}, b, {a.x, b.y}};
}

} // namespace

std::optional<Point> Sketch::last() const {
    return m_points.empty() ? std::nullopt : std::optional(m_points.back().at);
}

std::optional<Point> Sketch::first() const {
    return m_points.empty() ? std::nullopt : std::optional(m_points.front().at);
}

bool Sketch::can_close() const {
    if (m_kind != SketchKind::Polygon) return false;
    return m_points.size() >= 3 || (m_points.size() == 2 && m_points[0].bulge != 0);
}

bool Sketch::add(Point p) {
    if (!m_points.empty() && distance(p, m_points.back().at) < same) return false;
    if (m_kind != SketchKind::Polygon) {
        m_points.push_back({p});
        return m_points.size() == 2;
    }
    if (m_arc == Arc::Wanted && !m_points.empty()) {
        m_through = p;
        m_arc = Arc::Through;
        return false;
    }
    const bool closes = !m_points.empty() && distance(p, m_points.front().at) < same;
    if (m_arc == Arc::Through) m_points.back().bulge = bulge_through(m_points.back().at, m_through, p);
    m_arc = Arc::None;
    if (closes) return can_close();
    m_points.push_back({p});
    return false;
}

void Sketch::undo_point() {
    if (m_arc == Arc::Through)
        m_arc = Arc::Wanted;
    else if (!m_points.empty())
        m_points.pop_back();
    if (!m_points.empty()) m_points.back().bulge = 0;
}

std::vector<Piece> Sketch::preview(Point next) const {
    std::vector<Piece> pieces;
    if (m_points.empty()) return pieces;
    const Point from = m_points.back().at;
    if (distance(from, next) < same && m_points.size() == 1) return pieces;
    if (m_kind == SketchKind::Circle) {
        add_arc(pieces, {m_points[0].at, distance(m_points[0].at, next)}, 0, 2 * std::numbers::pi, 0);
        return pieces;
    }
    if (m_kind == SketchKind::Rectangle) {
        const auto corners = rectangle(m_points[0].at, next);
        for (std::size_t i = 0; i < 4; ++i) pieces.push_back({corners[i], corners[(i + 1) % 4]});
        return pieces;
    }
    // The line of a dimension is an outline's first edge.
    for (std::size_t i = 0; i + 1 < m_points.size(); ++i)
        pieces.push_back({m_points[i].at, m_points[i + 1].at, m_points[i].bulge});
    if (m_arc == Arc::Through && distance(from, next) > same)
        pieces.push_back({from, next, bulge_through(from, m_through, next)});
    else
        pieces.push_back({from, next});
    return pieces;
}

FreeShape Sketch::shape() const {
    FreeShape shape;
    if (m_kind == SketchKind::Circle) {
        shape.x = coordinate_text(m_points[0].at.x);
        shape.y = coordinate_text(m_points[0].at.y);
        shape.radius = coordinate_text(distance(m_points[0].at, m_points[1].at));
    } else if (m_kind == SketchKind::Rectangle) {
        for (Point p : rectangle(m_points[0].at, m_points[1].at)) shape.corners.push_back(corner_at(p));
    } else {
        for (const Corner& c : m_points) {
            shape.corners.push_back(corner_at(c.at));
            shape.corners.back().bulge = c.bulge;
        }
    }
    return shape;
}

} // namespace mavlo::app
