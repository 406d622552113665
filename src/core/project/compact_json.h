#pragma once
// JSON text as people read it: a row of a table on one line.

#include <string>

namespace mavlo {

/// Puts every array that holds numbers alone on one line; the rest stays as it is.
std::string with_rows_on_lines(const std::string& json_text);

} // namespace mavlo
