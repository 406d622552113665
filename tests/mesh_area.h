#pragma once
// Areas of a mesh with curved edges.

#include "field/quadrature.h"
#include "machine/tile.h"
#include "mesh/tile_mesh.h"

#include <functional>

namespace mavlo {

/// Of the triangles whose region is wanted, m2; -1 when one is turned inside out.
inline double area_of(const TileMesh& mesh, const std::function<bool(int region)>& wanted = {}) {
    double area = 0;
    for (const auto& t : mesh.triangles) {
        if (wanted && !wanted(t.region)) continue;
        std::array<Point, 6> nodes;
        for (std::size_t k = 0; k < 6; ++k) nodes[k] = mesh.nodes[std::size_t(t.node[k])];
        for (const auto& rule : curved_rule()) {
            const ShapeAt shape = quadratic_shape(nodes, rule.a, rule.b);
            if (!(shape.jacobian > 0)) return -1;
            area += shape.jacobian * rule.weight;
        }
    }
    return area;
}

} // namespace mavlo
