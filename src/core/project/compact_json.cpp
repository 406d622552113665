#include "project/compact_json.h"

namespace mavlo {

std::string with_rows_on_lines(const std::string& text) {
    std::string out;
    bool in_string = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        out += c;
        if (in_string && c == '\\' && i + 1 < text.size()) {
            out += text[++i];
            continue;
        }
        if (c == '"') in_string = !in_string;
        if (in_string || c != '[') continue;
        const std::size_t end = text.find_first_not_of("0123456789+-.eE, \n", i + 1);
        if (end == std::string::npos || text[end] != ']') continue;
        bool blank = false;
        for (std::size_t k = i + 1; k < end; ++k) {
            if (text[k] == ' ' || text[k] == '\n') {
                blank = true;
                continue;
            }
            if (blank && out.back() == ',') out += ' ';
            blank = false;
            out += text[k];
        }
        out += ']';
        i = end;
    }
    return out;
}

} // namespace mavlo
