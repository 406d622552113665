#include "mesh/refinement.h"

#include "mesh/size_field.h"

#include <cmath>

namespace mavlo {

std::vector<SizedTriangle> tile_triangles(const Body& body, const BodyMesh& mesh) {
    // The first copy of a mirrored tile is its mirror image.
    const std::size_t count = mesh.elements.size() / std::size_t(mesh.copies);
    const double side = body.tile.mirrored ? -1 : 1;
    std::vector<SizedTriangle> triangles;
    for (std::size_t i = 0; i < count; ++i) {
        SizedTriangle t;
        for (std::size_t k = 0; k < 3; ++k) {
            const Point p = mesh.nodes[std::size_t(mesh.elements[i].node[k])];
            t.corner[k] = {p.x, side * p.y};
        }
        for (std::size_t k = 0; k < 3; ++k)
            t.size = std::max(t.size, distance(t.corner[k], t.corner[(k + 1) % 3]));
        triangles.push_back(t);
    }
    return triangles;
}

std::vector<std::vector<double>> size_factors(const std::vector<std::vector<double>>& errors, double wanted,
                                              double least) {
    constexpr double order = 4, share = order / (order + 2);
    // With factors r = (x/e)^(1/6) the errors left are e r^4 = e^(1/3) x^(2/3).
    double sum = 0;
    for (const auto& body : errors)
        for (double e : body) sum += std::pow(e, 1 - share);
    const double each = std::pow(wanted / sum, 1 / share);
    std::vector<std::vector<double>> factors;
    for (const auto& body : errors) {
        factors.emplace_back();
        for (double e : body)
            factors.back().push_back(e > 0 ? std::clamp(std::pow(each / e, 1 / (order + 2)), least, 1.0) : 1.0);
    }
    return factors;
}

namespace {

/// At corners of the outline the field may be singular, and errors fall so slowly with the size there that it
/// is taken to this power; the mesh then grades from the corner.
constexpr double corner_power = 2;
constexpr double least_at_corner = 0.1;

bool is_corner(const Tile& tile, Point p) {
    return std::any_of(tile.outline.points.begin(), tile.outline.points.end(),
                       [&](Point corner) { return distance(corner, p) < 1e-9; });
}

} // namespace

Tile refined(const Tile& tile, const std::vector<SizedTriangle>& triangles, const std::vector<double>& factors,
             double size_factor) {
    const double scale = size_factor * tile.coarseness; // of the hints
    std::vector<SizeHint> wanted;
    for (std::size_t i = 0; i < triangles.size(); ++i) {
        if (factors[i] > 0.95) continue;
        for (Point p : triangles[i].corner) {
            const double factor =
                is_corner(tile, p) ? std::max(least_at_corner, std::pow(factors[i], corner_power)) : factors[i];
            wanted.push_back({p, factor * triangles[i].size / scale});
        }
    }
    std::stable_sort(wanted.begin(), wanted.end(),
                     [](const SizeHint& a, const SizeHint& b) { return a.size < b.size; });
    Tile finer = tile;
    for (const SizeHint& hint : wanted)
        if (hint.size < 0.85 * SizeField(finer, 1 / finer.coarseness)(hint.at)) finer.hints.push_back(hint);
    return finer;
}

} // namespace mavlo
