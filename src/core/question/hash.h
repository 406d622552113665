#pragma once
#include "material/material.h"

#include <string>

namespace mavlo {

/// SHA-256 (FIPS 180-4) of a text, in hexadecimal.
std::string sha256(const std::string& text);
/// All numbers of a material that a field depends on, as a stable text.
std::string material_text(const Material& material);

} // namespace mavlo
