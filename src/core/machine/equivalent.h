#pragma once
// Dimensions that data sheets give instead of a design's own: each follows from parameters, and writes one.

#include "machine/design.h"
#include "quantity/quantity.h"
#include "quantity/registry.h"

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace mavlo {

struct Equivalent {
    std::string name;
    int order = 0;
    std::string label;               ///< the trade's word
    std::string unit;                ///< as shown; empty: a plain number
    std::string path;                ///< of the parameter that it writes, and stands beside
    std::vector<std::string> also{}; ///< other words that data sheets use
    /// In SI; empty where the design has no such dimension.
    std::function<std::optional<double>(const Values&)> value{};
    /// The text that gives the parameter this value, often a formula, so that the dimension stays what it is.
    /// `text` is a quantity with its unit.
    std::function<std::string(const Values&, const std::string& text)> write{};
};

/// In SI; empty where the design has no such dimension, as axial machines have none of them.
std::optional<double> value_of(const Equivalent& equivalent, const Values& values);

/// Those that the design has.
std::vector<const Equivalent*> equivalents_of(const Values& values);

/// A text as this dimension; a bare number has its unit.
Result<Quantity> quantity_of(const Equivalent& equivalent, const std::string& text);

/// Sets the parameter behind it. Fails when the text is no quantity of this kind, or where the design has no
/// such dimension.
Result<Design> with_equivalent(const Design& design, const Equivalent& equivalent, const std::string& text);

} // namespace mavlo
