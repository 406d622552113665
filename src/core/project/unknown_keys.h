#pragma once
// Keys of a project file that this program does not know: kept by where they stand, so that a save loses none.

#include "machine/design.h"

#include <map>
#include <nlohmann/json_fwd.hpp>
#include <string>

namespace mavlo {

inline constexpr int newest_project_version = 1; ///< that this program reads and writes

/// JSON as it is kept and compared: on one line, valid UTF-8.
std::string compact_text(const nlohmann::ordered_json& value);

/// The JSON pointer (RFC 6901) of a key below another's; "" is the root.
std::string pointer_to(const std::string& parent, const std::string& key);
/// As it is shown: "rotor.colour", "coils[3].maker".
std::string shown_path(const std::string& pointer);
/// Adds the keys of objects in `source` that `written`, the same as this program writes it, lacks. Members of
/// lists are told apart by their place and by what is known of them.
void add_unknown(const nlohmann::ordered_json& source, const nlohmann::ordered_json& written,
                 const std::string& pointer, std::map<std::string, std::string>& unknown);
/// Puts unknown keys back where they stood; what stands there already stays. A member of a list is found again
/// wherever it has moved; what was said in one that has been changed goes with it.
void put_back(nlohmann::ordered_json& tree, const std::map<std::string, std::string>& unknown);

/// A whole number within these limits. Throws nlohmann's exception for what is none.
int whole_number(const nlohmann::ordered_json& value, int low, int high);
/// The number of phases as far as the file says it plainly; 1 at least and never more than coils can name.
int plain_phases(const Design& design);

} // namespace mavlo
