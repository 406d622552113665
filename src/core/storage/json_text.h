#pragma once
// JSON from a stranger: bounded before anything is built from it.

#include "quantity/problem.h"

#include <nlohmann/json_fwd.hpp>
#include <string>

namespace mavlo {

constexpr int deepest_json =
    64; ///< levels of objects and lists; what comes later goes down them one in another

/// Parses a text; a problem names line and reason where it is no JSON, or nests deeper than `deepest_json`.
Result<nlohmann::ordered_json> parse_json(const std::string& text);

} // namespace mavlo
