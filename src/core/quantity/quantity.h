#pragma once
// A number with its dimension, and its text with a unit.

#include "quantity/problem.h"
#include "quantity/unit.h"

#include <optional>
#include <string>
#include <string_view>

namespace mavlo {

struct Quantity {
    double si = 0; ///< value in SI base units and radians; temperatures in kelvin
    Dimension dimension{};
    bool operator==(const Quantity&) const = default;
};

/// Reads "50 mm", "0.5 in", "7.5 deg", "1200rpm", "0.35". The decimal sign is a point.
/// Fails with a sentence (no path) on an empty text, a number that is not finite or an unknown unit.
Result<Quantity> parse_quantity(std::string_view text);

/// Reads a finite number from the start of the text; returns what is left behind it.
std::optional<double> read_number(std::string_view text, std::string_view& rest);

double to_unit(double si, const Unit& unit);
double from_unit(double number, const Unit& unit);

/// The shortest decimal that reads back as the same number to `digits` significant digits ("0.9", "160").
std::string number_text(double number, int digits = 12);
/// The number that this text says; in no locale but that of files.
double rounded_to(double number, int digits);

std::string_view trim(std::string_view text);

/// The text with this unit behind it where it is a bare number; any other as it is.
std::string with_unit(std::string text, const std::string& unit);

std::string lower_case(std::string text); ///< of its ASCII letters

} // namespace mavlo
