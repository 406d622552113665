#include "quantity/bound.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>

namespace mavlo {

double Bound::excess(double v) const {
    const double size = std::max(std::abs(value), 1e-12);
    return (at_least ? value - v : v - value) / size;
}

std::optional<Bound> read_bound(const std::string& text) {
    const auto at = text.find_first_of("<>");
    if (at == std::string::npos) return std::nullopt;
    const std::size_t behind = at + 1 + (at + 1 < text.size() && text[at + 1] == '=');
    const std::string_view whole = text;
    std::string_view rest;
    const auto number = read_number(trim(whole.substr(behind)), rest);
    const std::string expression(trim(whole.substr(0, at)));
    if (!number || expression.empty()) return std::nullopt;
    return Bound{expression, text[at] == '>', *number, std::string(trim(rest))};
}

} // namespace mavlo
