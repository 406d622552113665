#pragma once
// Where a network's nodes and elements stand on paper: nodes as level lines, elements upright between two of
// them, one a column, in the order of the netlist.

#include "circuit/network.h"

namespace mavlo::app {

struct SchematicLayout {
    struct Line {
        int row = 0;             ///< from the top
        int first = 0, last = 0; ///< columns it spans
    };
    std::vector<Line> nodes; ///< one a node of the network; each element has the column of its own number
    int rows = 0, columns = 0;
};

/// The first node of an element stands above its second one where that is free of contradictions; the ground is
/// the lowest line. Nodes of one level share a row where their spans let them.
SchematicLayout layout_of(const Network& network);

} // namespace mavlo::app
