#include "material/bh_table.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <regex>

namespace mavlo {
namespace {

/// The first of these units that stands in the text as a word of its own.
std::string unit_in(const std::string& text, const std::initializer_list<const char*>& names) {
    for (const char* name : names) {
        const std::regex word("(^|[^A-Za-z/])" + std::string(name) + "($|[^A-Za-z/])", std::regex::icase);
        if (std::regex_search(text.substr(0, 200), word)) return name;
    }
    return {};
}

std::string field_unit(const std::string& header) {
    return unit_in(header, {"kA/m", "A/m", "kOe", "Oe"});
}

std::string density_unit(const std::string& header) {
    return unit_in(header, {"mT", "kG", "T", "G"});
}

bool names(const std::string& header, const char* pattern) {
    return std::regex_search(header.substr(0, 200), std::regex(pattern, std::regex::icase));
}

double largest(const ColumnTable& table, std::size_t column) {
    double most = 0;
    for (const auto& row : table.rows) most = std::max(most, std::abs(row[column]));
    return most;
}

/// By the saturation of steels, 1 to 2.6 T.
std::string density_unit_by_size(double most) {
    if (most > 4000) return "G";
    if (most > 40) return "mT";
    if (most > 4) return "kG";
    return "T";
}

} // namespace

double polarisation(const BhPoint& point) {
    return point.b - mu0 * point.h;
}

BhColumns guess_bh_columns(const ColumnTable& table) {
    BhColumns guess;
    if (table.columns() < 2) return guess;
    const auto header = [&](std::size_t i) {
        return i < table.headers.size() ? table.headers[i] : std::string();
    };
    const auto is_field = [&](std::size_t i) {
        return !field_unit(header(i)).empty() || names(header(i), R"((^|\W)H(\W|$)|field)");
    };
    const auto is_density = [&](std::size_t i) {
        return !is_field(i) &&
               (!density_unit(header(i)).empty() || names(header(i), R"((^|\W)[BJ](\W|$)|density|polari)"));
    };
    if (is_field(1) && !is_field(0))
        std::swap(guess.h, guess.b);
    else if (!is_field(0) && !is_density(1) && (is_density(0) || largest(table, 0) < largest(table, 1)))
        std::swap(guess.h, guess.b);
    if (const auto unit = field_unit(header(guess.h)); !unit.empty()) guess.h_unit = unit;
    const auto unit = density_unit(header(guess.b));
    guess.b_unit = unit.empty() ? density_unit_by_size(largest(table, guess.b)) : unit;
    guess.polarisation = names(header(guess.b), R"((^|\W)J(\W|$)|polari|4.?pi.?M)");
    return guess;
}

Result<std::vector<BhPoint>> bh_points(const ColumnTable& table, const BhColumns& columns) {
    const Unit *h = find_unit(columns.h_unit), *b = find_unit(columns.b_unit);
    if (!h || h->dimension != dimension::field_strength)
        return Problem{
            "bh", fmt::format("\"{}\" is no unit of a field strength (A/m, kA/m, Oe, kOe).", columns.h_unit)};
    if (!b || b->dimension != dimension::flux_density)
        return Problem{"bh",
                       fmt::format("\"{}\" is no unit of a flux density (T, mT, G, kG).", columns.b_unit)};
    if (std::max(columns.h, columns.b) >= table.columns())
        return Problem{"bh", fmt::format("The table has {} columns; choose among them.", table.columns())};
    std::vector<BhPoint> points;
    for (const auto& row : table.rows) {
        BhPoint p{from_unit(row[columns.h], *h), from_unit(row[columns.b], *b)};
        if (columns.polarisation) p.b += mu0 * p.h;
        points.push_back(p);
    }
    return points;
}

} // namespace mavlo
