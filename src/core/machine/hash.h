#pragma once
// Hashes (SHA-256) by which answers are kept.

#include "machine/design.h"
#include "material/material.h"

#include <string>

namespace mavlo {

std::string sha256(const std::string& text); ///< in hex
/// Everything of a material that figures depend on, as a text.
std::string material_text(const Material& material);

/// Names the code that makes the figures: made from the sources of the floors from material/ to question/ when
/// they are compiled, so that an answer of an older engine is never taken for one of this.
std::string engine_id();

/// SHA-256 (hex) of the design's figures: parameters in use, materials, the engine.
std::string design_hash(const Design& design, const MaterialLibrary& own);
/// The same of what the fields depend on alone: not the rating, the winding's resistance, friction or
/// cooling.
std::string field_hash(const Design& design, const MaterialLibrary& own);

} // namespace mavlo
