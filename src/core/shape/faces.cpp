#include "shape/faces.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// One direction of an edge: 2 * edge + (1 when it runs from `to` to `from`).
struct RimEdge {
    int start, end;
    double angle; ///< of its tangent where it leaves `start`
};

} // namespace

std::vector<Point> points_along(const Outline& outline, const Edge& edge, double chord) {
    int pieces = 1;
    if (edge.centre) {
        const double radius = distance(outline.points[std::size_t(edge.from)], *edge.centre);
        pieces = std::max(1, int(std::ceil(length_of(outline, edge) / (radius * chord))));
    }
    std::vector<Point> points{outline.points[std::size_t(edge.from)]};
    for (int k = 1; k < pieces; ++k) points.push_back(point_on(outline, edge, double(k) / pieces));
    points.push_back(outline.points[std::size_t(edge.to)]);
    return points;
}

std::vector<Polygon> faces(const Outline& outline, double chord) {
    std::vector<RimEdge> halves;
    for (const Edge& edge : outline.edges) {
        const double step = edge.centre ? 1e-3 : 1;
        const Point out = point_on(outline, edge, step) - outline.points[std::size_t(edge.from)];
        const Point back = point_on(outline, edge, 1 - step) - outline.points[std::size_t(edge.to)];
        halves.push_back({edge.from, edge.to, angle_of(out)});
        halves.push_back({edge.to, edge.from, angle_of(back)});
    }
    std::vector<std::vector<int>> leaving(outline.points.size());
    for (std::size_t h = 0; h < halves.size(); ++h) leaving[std::size_t(halves[h].start)].push_back(int(h));
    for (auto& list : leaving)
        std::sort(list.begin(), list.end(),
                  [&](int a, int b) { return halves[std::size_t(a)].angle < halves[std::size_t(b)].angle; });
    // After arriving by h, the same face goes on with the edge next clockwise from the way back.
    auto next = [&](int h) {
        const int back = h ^ 1;
        const auto& list = leaving[std::size_t(halves[std::size_t(h)].end)];
        const auto at = std::find(list.begin(), list.end(), back) - list.begin();
        return list[(std::size_t(at) + list.size() - 1) % list.size()];
    };
    std::vector<bool> used(halves.size(), false);
    std::vector<Polygon> result;
    for (std::size_t first = 0; first < halves.size(); ++first) {
        if (used[first]) continue;
        Polygon polygon;
        for (int h = int(first); !used[std::size_t(h)]; h = next(h)) {
            used[std::size_t(h)] = true;
            auto points = points_along(outline, outline.edges[std::size_t(h) / 2], chord);
            if (h % 2) std::reverse(points.begin(), points.end());
            polygon.insert(polygon.end(), points.begin(), points.end() - 1);
        }
        if (area(polygon) > 0) result.push_back(std::move(polygon)); // the outer face runs clockwise
    }
    return result;
}

bool contains(const Polygon& polygon, Point p) {
    bool inside = false;
    for (std::size_t i = 0, j = polygon.size() - 1; i < polygon.size(); j = i++) {
        const Point a = polygon[i], b = polygon[j];
        if ((a.y > p.y) != (b.y > p.y) && p.x < a.x + (b.x - a.x) * (p.y - a.y) / (b.y - a.y)) inside = !inside;
    }
    return inside;
}

double area(const Polygon& polygon) {
    double twice = 0;
    for (std::size_t i = 0; i < polygon.size(); ++i)
        twice += cross(polygon[i], polygon[(i + 1) % polygon.size()]);
    return twice / 2;
}

} // namespace mavlo
