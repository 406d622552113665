#pragma once

#include "question/axial_cut.h"

namespace mavlo {

/// The cut along the axis with its parts in the colours of their temperatures and what flows between them.
std::string axial_cut_svg(const AxialCut& cut);

} // namespace mavlo
