#include "quantity/quantity.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {

std::string_view trim(std::string_view text) {
    const auto first = text.find_first_not_of(" \t\r\n");
    if (first == std::string_view::npos) return {};
    return text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1);
}

std::optional<double> read_number(std::string_view text, std::string_view& rest) {
    text = trim(text);
    if (!text.empty() && text.front() == '+') text.remove_prefix(1);
    double number = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (error != std::errc{} || !std::isfinite(number)) return std::nullopt;
    rest = trim(text.substr(std::size_t(end - text.data())));
    return number;
}

Result<Quantity> parse_quantity(std::string_view text) {
    std::string_view rest;
    const auto number = read_number(text, rest);
    if (!number)
        return Problem{{}, fmt::format("\"{}\" is not a number with a unit such as \"50 mm\".", trim(text))};
    if (rest.empty()) return Quantity{*number, dimension::none};
    const Unit* unit = find_unit(rest);
    if (!unit)
        return Problem{{}, fmt::format("\"{}\" is not a unit known here (mm, in, deg, rpm, A, T …).", rest)};
    return Quantity{from_unit(*number, *unit), unit->dimension};
}

double to_unit(double si, const Unit& unit) {
    return (si - unit.offset) / unit.factor;
}

double from_unit(double number, const Unit& unit) {
    return number * unit.factor + unit.offset;
}

std::string number_text(double number, int digits) {
    if (number == 0) return "0";
    return fmt::format("{:.{}g}", number, digits);
}

double rounded_to(double number, int digits) {
    std::string_view rest;
    return std::isfinite(number) ? read_number(number_text(number, digits), rest).value_or(0) : number;
}

std::string with_unit(std::string text, const std::string& unit) {
    std::string_view rest;
    const bool bare = read_number(text, rest) && rest.empty();
    return bare && !unit.empty() ? text + " " + unit : text;
}

std::string lower_case(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(),
                   [](unsigned char c) { return char(std::tolower(c)); });
    return text;
}

} // namespace mavlo
