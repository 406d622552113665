#pragma once
// What a design has in lists, as a project file holds it.

#include "machine/design.h"

#include <nlohmann/json_fwd.hpp>

namespace mavlo {

/// Drawings and coils.
nlohmann::ordered_json lists_json(const Design& design);

} // namespace mavlo
