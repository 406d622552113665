#include "project/unknown_keys.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

namespace mavlo {
namespace {

using json = nlohmann::ordered_json;
constexpr double most_phases = 60;

/// The keys that a pointer goes through.
std::vector<std::string> keys_of(const std::string& pointer) {
    std::vector<std::string> keys;
    for (std::size_t i = 0; i < pointer.size(); ++i) {
        if (pointer[i] == '/')
            keys.emplace_back();
        else if (pointer[i] == '~' && i + 1 < pointer.size())
            keys.back() += pointer[++i] == '1' ? '/' : '~';
        else
            keys.back() += pointer[i];
    }
    return keys;
}

} // namespace

std::string pointer_to(const std::string& parent, const std::string& key) {
    std::string out = parent + "/";
    for (char c : key) out += c == '/' ? std::string("~1") : c == '~' ? std::string("~0") : std::string(1, c);
    return out;
}

std::string shown_path(const std::string& pointer) {
    std::string path;
    for (const std::string& key : keys_of(pointer)) path += (path.empty() ? "" : ".") + key;
    return path;
}

void put_back(json& tree, const std::string& pointer, const std::string& text) {
    const auto keys = keys_of(pointer);
    if (keys.empty()) return;
    json* at = &tree;
    for (std::size_t i = 0; i + 1 < keys.size(); ++i) {
        at = &(*at)[keys[i]];
        if (!at->is_null() && !at->is_object()) return;
    }
    if (!at->contains(keys.back())) (*at)[keys.back()] = json::parse(text, nullptr, false);
}

int whole_number(const json& value, int low, int high) {
    const double number = value.get<double>();
    if (!(number >= low && number <= high) || number != std::rint(number))
        throw json::other_error::create(501, "a whole number is out of its limits", &value);
    return int(number);
}

int plain_phases(const Design& design) {
    std::string_view rest;
    const auto number = read_number(design.text("winding.phases"), rest);
    return number ? int(std::clamp(*number, 1.0, most_phases)) : 1;
}

} // namespace mavlo
