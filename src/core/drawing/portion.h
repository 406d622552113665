#pragma once
// How much of a turn a drawing shows, and what repeats in it.

#include "shape/plane_faces.h"

namespace mavlo {

struct Portion {
    double from = 0, covers = 1; ///< where it begins (rad), and what share of a turn it is
    int pitches = 1;             ///< poles or slots in a whole turn
    bool mirrored = false;       ///< a pitch is its own mirror image
    double axis = 0;             ///< rad: a line of symmetry, or the middle of a pitch
    bool half = false;           ///< the drawing is half a pitch, from `axis` to the next boundary
    bool round = false;          ///< nothing but circles about the centre: it may be cut into any number
    bool whole() const { return covers > 1 - 1e-6; }
    double pitch() const; ///< rad
};

/// Of what lies between two radii (m), about the origin. `graph` without needless cuts (simplified()). Counts
/// of a whole turn or of several pitches are found by turning the drawing onto itself, so that as many of
/// its edges, by length, meet their like as ever do, three in five at least. Of `poles` there is an even
/// number.
Portion find_portion(const Arrangement& graph, double inner, double outer, double tolerance, bool poles);

/// The same taken for another number of pitches; empty where it cannot show them: a whole turn repeats a
/// multiple of them, a sector holds a whole number of them or half of one.
std::optional<Portion> taken_for(const Portion& found, int pitches);

} // namespace mavlo
