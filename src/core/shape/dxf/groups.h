#pragma once
// A DXF file as text groups, whichever way it was written, looked over before anything is read from it.

#include "quantity/problem.h"

#include <filesystem>
#include <string>

namespace mavlo {

/// The file's groups as text: code and value in lines of their own, as an ASCII DXF has them; a binary one is
/// turned into that (its layout is in the DXF reference, appendix "Binary DXF files"). Refuses with line or
/// byte what is no DXF, what is cut off before its end, and numbers that are none.
Result<std::string> read_dxf_groups(const std::filesystem::path& file);

} // namespace mavlo
