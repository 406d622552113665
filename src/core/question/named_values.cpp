#include "question/named_values.h"

#include "quantity/text.h"

#include <algorithm>
#include <fmt/format.h>

namespace mavlo {

std::string plain_name(std::string_view words) {
    std::string name(trim(words));
    std::replace(name.begin(), name.end(), ' ', '_');
    replace_all(name, "primary", "stator");
    replace_all(name, "secondary", "rotor");
    return name;
}

Result<std::vector<std::pair<std::string, Quantity>>>
named_values(const std::string& text, const std::string& path, const std::string& example) {
    std::vector<std::pair<std::string, Quantity>> found;
    for (std::size_t from = 0; from <= text.size();) {
        const std::size_t end = std::min(text.find(',', from), text.size());
        const std::string item(trim(text.substr(from, end - from)));
        from = end + 1;
        const std::size_t equals = item.find('=');
        if (equals == std::string::npos)
            return Problem{path, fmt::format("\"{}\" has no name and value; write {}.", item, example)};
        const std::string name = plain_name(item.substr(0, equals));
        const auto value = parse_quantity(item.substr(equals + 1));
        if (!value) return Problem{path, fmt::format("{}: {}", name, value.problems().front().sentence)};
        found.emplace_back(name, *value);
    }
    return found;
}

} // namespace mavlo
