#pragma once
// Keys of a project file that this program does not know: kept by where they stand, so that a save loses none.

#include "machine/design.h"

#include <nlohmann/json_fwd.hpp>
#include <string>

namespace mavlo {

inline constexpr int newest_project_version = 1; ///< that this program reads and writes

/// The JSON pointer (RFC 6901) of a key below another's; "" is the root.
std::string pointer_to(const std::string& parent, const std::string& key);
/// As it is shown: "rotor.colour".
std::string shown_path(const std::string& pointer);
/// Puts the JSON text of a key back where it stood; what stands there already stays.
void put_back(nlohmann::ordered_json& tree, const std::string& pointer, const std::string& text);

/// A whole number within these limits. Throws nlohmann's exception for what is none.
int whole_number(const nlohmann::ordered_json& value, int low, int high);
/// The number of phases as far as the file says it plainly; 1 at least and never more than coils can name.
int plain_phases(const Design& design);

} // namespace mavlo
