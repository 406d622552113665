#pragma once
// What a value must keep: "torque_mean >= 250".

#include "quantity/problem.h"

#include <optional>
#include <string>

namespace mavlo {

struct Bound {
    std::string expression; ///< what stands before the sign
    bool at_least = false;
    double value = 0;
    std::string unit{}; ///< what stands behind the number
    /// How far a value is beyond it, as a share of the bound; 0 or less within.
    double excess(double v) const;
};

/// "EXPRESSION >= NUMBER" or "<=", with or without the equals sign; empty where it is none.
std::optional<Bound> read_bound(const std::string& text);

} // namespace mavlo
