#include "storage/json_text.h"

#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace mavlo {
namespace {

std::string line_of(const std::string& text, std::size_t at) {
    const auto end = text.begin() + std::ptrdiff_t(std::min(at, text.size()));
    return fmt::format("line {}", 1 + std::count(text.begin(), end, '\n'));
}

/// Where it first nests deeper than allowed; the text's size where it does not.
std::size_t too_deep_at(const std::string& text) {
    int depth = 0;
    bool in_text = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (in_text) {
            if (c == '\\') ++i;
            in_text = c != '"';
        } else if (c == '"') {
            in_text = true;
        } else if (c == '[' || c == '{') {
            if (++depth > deepest_json) return i;
        } else if (c == ']' || c == '}') {
            --depth;
        }
    }
    return text.size();
}

} // namespace

Result<nlohmann::ordered_json> parse_json(const std::string& text) {
    if (const std::size_t at = too_deep_at(text); at < text.size())
        return Problem{line_of(text, at),
                       fmt::format("Lists and objects stand in one another more than {} deep; nothing that is "
                                   "read here does so.",
                                   deepest_json)};
    try {
        return nlohmann::ordered_json::parse(text);
    } catch (const nlohmann::json::parse_error& error) {
        std::string reason = error.what();
        if (const auto colon = reason.find("syntax error"); colon != std::string::npos)
            reason = reason.substr(colon);
        return Problem{
            line_of(text, error.byte ? error.byte - 1 : 0),
            fmt::format("The file is not readable as JSON: {}. Correct that line or go back to a copy.",
                        reason)};
    } catch (const nlohmann::json::exception& error) {
        return Problem{"", fmt::format("The file holds what cannot be read: {}.", error.what())};
    }
}

} // namespace mavlo
