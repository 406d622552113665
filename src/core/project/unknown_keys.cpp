#include "project/unknown_keys.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <optional>

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

/// Of a member of a list: "3 {...}", its place and what is known of it.
std::string member_key(std::size_t place, const json& known) {
    return fmt::format("{} {}", place, compact_text(known));
}

/// Keys that are known and not written where they say what goes without saying.
bool goes_without_saying(const std::string& key) {
    constexpr std::array keys{"direction", "bulge", "fillet", "mirrored", "material", "value", "return"};
    return std::find(keys.begin(), keys.end(), key) != keys.end();
}

/// The place of the member that a key of `member_key` means: its own, or the first that is the same; none when
/// there is no such one any more.
std::optional<std::size_t> place_of(const json& list, const std::string& key) {
    const auto blank = key.find(' ');
    if (blank == std::string::npos) return std::nullopt;
    const auto place = std::size_t(std::strtoull(key.c_str(), nullptr, 10));
    const std::string known = key.substr(blank + 1);
    const auto is = [&](const json& member) { return compact_text(member) == known; };
    if (place < list.size() && is(list[place])) return place;
    const auto found = std::find_if(list.begin(), list.end(), is);
    if (found == list.end()) return std::nullopt;
    return std::size_t(found - list.begin());
}

/// One step down the tree, beside it in the tree as it was written; none where the way is lost.
json* step_down(json& at, const json*& written, const std::string& key) {
    if (at.is_array()) {
        if (!written || !written->is_array()) return nullptr;
        const auto place = place_of(*written, key);
        if (!place) return nullptr;
        written = &(*written)[*place];
        return &at[*place];
    }
    if (!at.is_null() && !at.is_object()) return nullptr;
    written = written && written->is_object() && written->contains(key) ? &(*written)[key] : nullptr;
    return &at[key];
}

void put_back(json& tree, const json& written, const std::vector<std::string>& keys, const std::string& text) {
    json* at = &tree;
    const json* beside = &written;
    for (std::size_t i = 0; i + 1 < keys.size(); ++i)
        if (at = step_down(*at, beside, keys[i]); !at) return;
    if ((at->is_null() || at->is_object()) && !at->contains(keys.back()))
        (*at)[keys.back()] = json::parse(text, nullptr, false);
}

} // namespace

std::string compact_text(const json& value) {
    return value.dump(-1, ' ', false, json::error_handler_t::replace);
}

void add_unknown(const json& source, const json& written, const std::string& pointer,
                 std::map<std::string, std::string>& unknown) {
    if (source.is_array() && written.is_array() && source.size() == written.size())
        for (std::size_t i = 0; i < source.size(); ++i)
            if (source[i].is_object())
                add_unknown(source[i], written[i], pointer_to(pointer, member_key(i, written[i])), unknown);
    if (!source.is_object() || !written.is_object()) return;
    for (const auto& [key, value] : source.items())
        if (written.contains(key))
            add_unknown(value, written[key], pointer_to(pointer, key), unknown);
        else if (!goes_without_saying(key))
            unknown[pointer_to(pointer, key)] = compact_text(value);
}

std::string pointer_to(const std::string& parent, const std::string& key) {
    std::string out = parent + "/";
    for (char c : key) out += c == '/' ? std::string("~1") : c == '~' ? std::string("~0") : std::string(1, c);
    return out;
}

std::string shown_path(const std::string& pointer) {
    std::string path;
    for (const std::string& key : keys_of(pointer)) {
        const auto blank = key.find(" {");
        const bool member = blank != std::string::npos && key.find_first_not_of("0123456789") == blank;
        path += member ? "[" + key.substr(0, blank) + "]" : (path.empty() ? "" : ".") + key;
    }
    return path;
}

void put_back(json& tree, const std::map<std::string, std::string>& unknown) {
    if (unknown.empty()) return;
    const json written = tree;
    for (const auto& [pointer, text] : unknown)
        if (const auto keys = keys_of(pointer); !keys.empty()) put_back(tree, written, keys, text);
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
