#pragma once
// Formulas over other quantities: "= stator.bore_diameter - 2*gap".

#include "quantity/quantity.h"

#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace mavlo {

/// True when the text is a formula, that is, starts with "=".
bool is_formula(std::string_view text);

/// The paths a formula names, in the order of their first use.
std::vector<std::string> formula_paths(std::string_view text);

using PathLookup = std::function<Result<Quantity>(const std::string& path)>;

/// Evaluates "= expression" in SI. Numbers may carry units ("= gap + 0.5 mm"); a bare number has no unit;
/// sin, cos and tan take an angle. The result must have dimension `wanted`.
///
/// Units are checked by dimensional homogeneity (Buckingham 1914): the expression is evaluated again with each
/// base unit scaled, and a sound formula scales by the power its dimension says. Errors, as a sentence without
/// path: syntax, an unknown path (from `lookup`), kinds that cannot be added, or another kind than wanted.
Result<Quantity> evaluate_formula(std::string_view text, const Dimension& wanted, const PathLookup& lookup);

} // namespace mavlo
