#pragma once
// A solved field ready to be painted: triangles with potential and flux density, and its flux lines.

#include "figure/sample.h"

#include <array>
#include <cmath>
#include <string>
#include <vector>

namespace mavlo {

/// Vertices of one sector (rotor already turned) and the gap's ring. The other sectors are copies turned on the
/// chart by `sector.angle()`, with the potential's sign changed where `sector.sign` is -1.
struct FieldPicture {
    struct Vertex {
        Point at;
        float potential = 0; ///< A_z, Wb/m
        /// Components of B in the frame of their body (T), linear in an element; the colours show its size. Or
        /// what else `shown` says, and 0.
        float x = 0, y = 0;
        double size() const { return std::hypot(double(x), double(y)); }
    };
    static constexpr std::size_t of_element = 6; ///< vertices of each element
    struct Triangle {
        std::array<int, 3> vertex;
    };
    std::vector<Vertex>
        vertices; ///< first six for each element (corners, middles of 0-1, 1-2, 2-0), then the gap's
    std::size_t elements = 0;
    std::vector<Triangle> triangles; ///< four for each element, then the gap's: fine enough for the potential,
                                     ///< which is quadratic in an element
    std::vector<Triangle> coloured;  ///< the same area in fewer, for B, which is linear in an element
    std::vector<std::array<int, 2>> mesh_edges; ///< edges of the elements, without the gap's
    Sector sector;
    Chart chart{};
    /// What the colours stand for; a highest value of 0 leaves the range to the view.
    struct Shown {
        std::string label = "|B|, T";
        std::string symbol = "|B|", unit = "T";
        double low = 0, high = 0;
    } shown{};
    double highest_flux_density = 0; ///< exceeded by 0.5 % of the vertices only
    double highest_potential = 0;    ///< largest |A|
};

/// Replaces |B| by a value of each of the model's elements, in SI, none in the gap. The colours end at what 2 %
/// of those above zero exceed, and begin at zero or, where `from_lowest` is set, where 2 % lie below.
struct ElementScale {
    std::string label, symbol, unit;
    double factor; ///< from SI to `unit`
    bool from_lowest = false;
};
void show_of_elements(FieldPicture& picture, const std::vector<double>& values, const ElementScale& scale);
/// The same of vectors at each element's six nodes; their size is shown.
void show_of_nodes(FieldPicture& picture, const std::vector<Point>& values, const ElementScale& scale);

/// Of a model of one section.
FieldPicture make_picture(const MachineModel& model, const FieldSolution& solution);

/// Of a flat section, rolled up round the axis as its drawing is; others as they are.
FieldPicture rolled(FieldPicture picture, const MachineModel& model, double angle);

struct Segment {
    Point a, b;
};

/// Flux lines of one sector at `count` levels of A between its extremes, placed evenly about zero, so that the
/// same flux per metre runs between two neighbours. In an element A is quadratic: it is followed by pieces no
/// longer than `resolution` (m) where elements are larger, and by halves of the edges at least.
std::vector<Segment> flux_lines(const FieldPicture& picture, int count, double resolution = 1);

} // namespace mavlo
