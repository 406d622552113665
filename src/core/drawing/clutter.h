#pragma once
// What a drawing shows besides the machine: construction lines, frames, title blocks.

#include "shape/plane_faces.h"

#include <string>
#include <vector>

namespace mavlo {

struct LeftOut {
    std::vector<std::string> sentences;
    std::vector<Piece> lines; ///< of the drawing's own plane, m about the centre, as far as they were read
};

/// Takes construction lines out: whole layers of them, or single lines and circles, that cross the drawing
/// without closing anything. Adds a sentence for what it took. The centre is the origin.
void drop_construction(std::vector<Piece>& pieces, const std::vector<std::string>& layers, double tolerance,
                       LeftOut& left_out);

/// Takes out what neither is round about the centre nor lies within something that is.
void drop_far_parts(Arrangement& graph, double tolerance, LeftOut& left_out);

} // namespace mavlo
