#pragma once
// Pieces of a drawing made into a plane graph: what lies twice kept once, crossings split, small gaps closed.

#include "shape/piece.h"

#include <string>
#include <vector>

namespace mavlo {

/// What was mended, for one kind of fault.
struct Healing {
    enum class Kind { Twice, Overlap, Gap, Overshoot } kind;
    int count = 0;
    double largest = 0; ///< m: of gaps and overshoots
    Point first;        ///< where the first of them was
};

/// An end that nothing meets.
struct OpenEnd {
    Point at;
    int vertex, piece;
};

struct Arrangement {
    struct Edge {
        int from, to;
        double bulge;
        int layer;
        int also = -1; ///< a second layer that it was drawn on
    };
    std::vector<Point> vertices;
    std::vector<Edge> edges;
    std::vector<Healing> healed;

    Piece piece(const Edge& edge) const;
    /// Ends of chains that close nothing.
    std::vector<OpenEnd> open_ends() const;
};

/// Splits pieces where they cross or touch and joins ends that lie within `tolerance` (m) of each other or of
/// another piece. Pieces shorter than that vanish; stubs of that length past a crossing are cut off.
Arrangement arrange(std::vector<Piece> pieces, double tolerance);

/// The same with straight neighbours in one line, and arcs of one circle, joined into one edge where nothing
/// else meets them; of different layers too where shape alone counts.
Arrangement simplified(const Arrangement& arrangement, double tolerance, bool across_layers = false);

} // namespace mavlo
