#pragma once
// Texts from elsewhere, made fit to be shown and written.

#include <string>
#include <string_view>

namespace mavlo {

/// The text where it is UTF-8; else each byte beyond ASCII read as Latin 1 (ISO 8859-1), which older drawings
/// are written in.
std::string valid_utf8(std::string_view text);

/// As a terminal may show it: control characters, which could move the cursor or more, as \x1b and the like;
/// ends of line and tabs stay.
std::string for_terminal(std::string_view text);

/// Every `from` in the text becomes `to`, from left to right.
void replace_all(std::string& text, std::string_view from, std::string_view to);

} // namespace mavlo
