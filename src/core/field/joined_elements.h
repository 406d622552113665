#pragma once
// Which elements are one piece of material.

#include "field/model.h"

namespace mavlo {

struct JoinedElements {
    std::vector<std::size_t> elements;
    std::vector<double> sign; ///< of each: -1 where it belongs to the piece as it goes on in a reversed sector
    /// It goes round the machine through reversed sectors, so that whatever runs in it runs back in the next.
    bool reverses = false;
};

/// Pieces of some elements: those that share an edge, also across the ends of the sector.
std::vector<JoinedElements> joined_elements(const FieldModel& model, const std::vector<std::size_t>& elements);

} // namespace mavlo
