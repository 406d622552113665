#pragma once
// Texts in tables of comma-separated values.

#include <string>

namespace mavlo {

/// In double quotes where a comma, a quote or an end of line asks for it (RFC 4180).
inline std::string csv_cell(const std::string& text) {
    if (text.find_first_of(",\"\n") == std::string::npos) return text;
    std::string out = "\"";
    for (char c : text) out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

} // namespace mavlo
