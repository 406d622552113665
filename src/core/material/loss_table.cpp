#include "material/loss_table.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <optional>
#include <regex>
#include <set>

namespace mavlo {
namespace {

constexpr std::size_t most_of_a_header = 200; ///< patterns go down a text letter in letter

std::optional<double> frequency_in(const std::string& header) {
    static const std::regex with_unit(R"((\d+(?:\.\d+)?)\s*(k?)Hz)", std::regex::icase);
    std::smatch found;
    const std::string start = header.substr(0, most_of_a_header);
    if (!std::regex_search(start, found, with_unit)) return std::nullopt;
    std::string_view rest;
    const auto number = read_number(found[1].str(), rest);
    if (!number) return std::nullopt;
    return *number * (found[2].length() ? 1000 : 1);
}

bool says(const std::string& header, const char* pattern) {
    return std::regex_search(header.substr(0, most_of_a_header), std::regex(pattern, std::regex::icase));
}

std::size_t distinct(const ColumnTable& table, std::size_t column) {
    std::set<double> values;
    for (const auto& row : table.rows) values.insert(row[column]);
    return values.size();
}

double largest_of(const ColumnTable& table, std::size_t column) {
    double most = 0;
    for (const auto& row : table.rows) most = std::max(most, row[column]);
    return most;
}

/// Columns of frequency, flux density and loss.
std::array<std::size_t, 3> long_columns(const ColumnTable& table) {
    std::array<std::size_t, 3> order{0, 1, 2};
    if (table.headers.size() == 3) {
        for (std::size_t i = 0; i < 3; ++i) {
            if (says(table.headers[i], R"(Hz|freq|(^|\W)f(\W|$))")) order[0] = i;
            if (says(table.headers[i], R"(W/kg|loss|(^|\W)P(\W|$))")) order[2] = i;
        }
        order[1] = 3 - order[0] - order[2];
        if (order[0] != order[2] && order[1] < 3) return order;
        order = {0, 1, 2};
    }
    // Few frequencies, large; flux densities below 2.5 T.
    std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
        const bool frequent_a = largest_of(table, a) >= 10, frequent_b = largest_of(table, b) >= 10;
        if (frequent_a != frequent_b) return frequent_a;
        return distinct(table, a) < distinct(table, b);
    });
    if (largest_of(table, order[1]) > 2.5 && largest_of(table, order[2]) <= 2.5) std::swap(order[1], order[2]);
    return order;
}

} // namespace

Result<std::vector<LossPoint>> loss_points(const ColumnTable& table, std::vector<std::string>& notes) {
    std::vector<std::optional<double>> frequencies;
    for (const std::string& header : table.headers) frequencies.push_back(frequency_in(header));
    const bool wide =
        !frequencies.empty() && frequencies.size() == table.columns() && !frequencies[0] &&
        std::all_of(frequencies.begin() + 1, frequencies.end(), [](const auto& f) { return f.has_value(); });
    std::vector<LossPoint> points;
    if (wide) {
        const double unit = largest_of(table, 0) > 100 ? 1e-3 : 1; // mT
        for (const auto& row : table.rows)
            for (std::size_t k = 1; k < row.size(); ++k)
                if (row[k] > 0 && row[0] > 0) points.push_back({*frequencies[k], row[0] * unit, row[k]});
        notes.push_back(
            fmt::format("Read as a flux density and the losses at {} frequencies.", table.columns() - 1));
    } else if (table.columns() == 3) {
        const auto [f, b, p] = long_columns(table);
        const double unit = largest_of(table, b) > 100 ? 1e-3 : 1;
        for (const auto& row : table.rows) points.push_back({row[f], row[b] * unit, row[p]});
        notes.push_back(
            fmt::format("Column {} was read as the frequency, {} as the flux density, {} as the loss.", f + 1,
                        b + 1, p + 1));
    } else {
        return Problem{"loss",
                       "A table of losses has three columns (Hz, T, W/kg), or a flux density and one column a "
                       "frequency whose header names it (\"50 Hz\")."};
    }
    std::stable_sort(points.begin(), points.end(), [](const LossPoint& a, const LossPoint& b) {
        return std::pair(a.frequency, a.flux_density) < std::pair(b.frequency, b.flux_density);
    });
    return points;
}

} // namespace mavlo
