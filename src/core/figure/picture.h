#pragma once
// A solved field ready to be painted: triangles with potential and flux density, and its flux lines.

#include "figure/sample.h"

#include <array>
#include <vector>

namespace mavlo {

/// Vertices of one sector (rotor already turned) and the gap's ring. The other sectors are copies turned by
/// `sector.angle()`, with the potential's sign changed where `sector.sign` is -1.
struct FieldPicture {
    struct Vertex {
        Point at;
        float potential = 0;    ///< A_z, Wb/m
        float flux_density = 0; ///< |B|, T
    };
    struct Triangle {
        std::array<int, 3> vertex;
    };
    std::vector<Vertex> vertices;
    std::vector<Triangle> triangles; ///< fine enough for the potential, which is quadratic in an element
    std::vector<Triangle> coloured;  ///< the same area in fewer, for |B|, which is linear in an element
    std::vector<std::array<int, 2>> mesh_edges; ///< edges of the elements, without the gap's
    Sector sector;
    double highest_flux_density = 0; ///< exceeded by 0.5 % of the vertices only
    double highest_potential = 0;    ///< largest |A|
};

FieldPicture make_picture(const FieldModel& model, const FieldSolution& solution);

struct Segment {
    Point a, b;
};

/// Flux lines of one sector at `count` levels of A between its extremes, placed evenly about zero, so that the
/// same flux per metre runs between two neighbours.
std::vector<Segment> flux_lines(const FieldPicture& picture, int count);

} // namespace mavlo
