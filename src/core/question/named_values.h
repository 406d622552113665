#pragma once
// Inputs that are lists of names with values: "R1=0.5 Ohm, X1=1.1 Ohm".

#include "quantity/quantity.h"

#include <string>
#include <utility>
#include <vector>

namespace mavlo {

/// A name as it is spoken ("end windings", of straight machines "iron primary"), as files have it
/// ("end_windings").
std::string plain_name(std::string_view words);

/// In the order given; problems stand at `path`, and `example` says what is wanted.
Result<std::vector<std::pair<std::string, Quantity>>>
named_values(const std::string& text, const std::string& path, const std::string& example);

} // namespace mavlo
