#include "question/counterpart.h"

#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

std::string input_of(const Answer& answer, const std::string& key) {
    const auto found = answer.inputs.find(key);
    return found == answer.inputs.end() ? "" : found->second;
}

Counterpart otherwise(const Answer& answer, std::string label,
                      const std::map<std::string, std::string>& changes) {
    Counterpart other{std::move(label), answer.inputs};
    for (const auto& [key, value] : changes) other.inputs[key] = value;
    return other;
}

/// The current vector of a voltage-fed run, as peak and advance from +q towards -d.
std::optional<Counterpart> with_its_current(const Answer& answer) {
    const auto d = answer.figure("id"), q = answer.figure("iq");
    if (!d || !q) return std::nullopt;
    return otherwise(answer, "its fundamental as given current",
                     {{"supply", "currents"},
                      {"method", "field"},
                      {"current", fmt::format("{:.9g} A", std::hypot(*d, *q))},
                      {"advance", fmt::format("{:.9g} deg", std::atan2(-*d, *q) * 180 / std::numbers::pi)}});
}

} // namespace

std::vector<Counterpart> counterparts(const Answer& answer) {
    std::vector<Counterpart> list;
    const std::string method = input_of(answer, "method"), supply = input_of(answer, "supply");
    const bool given = answer.question == "in-time" && supply == "currents";
    if (method == "map") list.push_back(otherwise(answer, "on the fields", {{"method", "field"}}));
    if (method == "field" && !given) list.push_back(otherwise(answer, "by the map", {{"method", "map"}}));
    if (answer.question == "in-time" && !given && supply != "own")
        if (auto current = with_its_current(answer)) list.push_back(std::move(*current));
    return list;
}

} // namespace mavlo
