#include "quantity/text.h"

#include <fmt/format.h>

namespace mavlo {
namespace {

/// Bytes of the character at the start of a text (RFC 3629); 0 where there is none.
std::size_t character_at(std::string_view text) {
    const auto byte = [&](std::size_t i) { return i < text.size() ? static_cast<unsigned char>(text[i]) : 0u; };
    const unsigned first = byte(0);
    if (first < 0x80) return 1;
    const std::size_t size = first >= 0xC2 && first < 0xE0   ? 2
                             : first >= 0xE0 && first < 0xF0 ? 3
                             : first >= 0xF0 && first < 0xF5 ? 4
                                                             : 0;
    for (std::size_t i = 1; i < size; ++i)
        if ((byte(i) & 0xC0) != 0x80) return 0;
    const unsigned second = byte(1);
    const bool too_long = (first == 0xE0 && second < 0xA0) || (first == 0xF0 && second < 0x90);
    const bool surrogate = first == 0xED && second >= 0xA0, beyond = first == 0xF4 && second >= 0x90;
    return too_long || surrogate || beyond ? 0 : size;
}

} // namespace

std::string valid_utf8(std::string_view text) {
    bool valid = true;
    for (std::string_view rest = text; valid && !rest.empty();) {
        const std::size_t size = character_at(rest);
        valid = size > 0;
        rest.remove_prefix(size);
    }
    if (valid) return std::string(text);
    std::string out;
    for (const char c : text) {
        const auto byte = static_cast<unsigned char>(c);
        if (byte < 0x80) {
            out += c;
        } else {
            out += char(0xC0 | (byte >> 6));
            out += char(0x80 | (byte & 0x3F));
        }
    }
    return out;
}

std::string for_terminal(std::string_view text) {
    const std::string whole = valid_utf8(text);
    std::string out;
    for (std::size_t i = 0; i < whole.size(); ++i) {
        const auto byte = static_cast<unsigned char>(whole[i]);
        const bool high_control =
            byte == 0xC2 && i + 1 < whole.size() && static_cast<unsigned char>(whole[i + 1]) < 0xA0;
        if ((byte < 0x20 && byte != '\n' && byte != '\t') || byte == 0x7F)
            out += fmt::format("\\x{:02x}", byte);
        else if (high_control)
            out += fmt::format("\\x{:02x}", static_cast<unsigned char>(whole[++i]));
        else
            out += whole[i];
    }
    return out;
}

void replace_all(std::string& text, std::string_view from, std::string_view to) {
    for (std::size_t at = text.find(from); at != std::string::npos; at = text.find(from, at + to.size()))
        text.replace(at, from.size(), to);
}

} // namespace mavlo
