#pragma once
// The table of every parameter of a design: its path, kind, unit, standard value, words and limits.

#include "material/material.h"
#include "quantity/unit.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace mavlo {

enum class ParameterKind { Quantity, Number, Whole, Choice, MaterialName };

struct Parameter {
    std::string path;
    ParameterKind kind = ParameterKind::Quantity;
    std::string unit;     ///< the unit it is shown in; empty for plain numbers
    std::string standard; ///< text of the standard value
    std::string label;    ///< the trade's word, for the sheet
    std::string symbol;
    std::string help;          ///< one sentence
    double low = 0, high = 0;  ///< limits in `unit`; low > high means none
    bool auto_allowed = false; ///< the text "auto" lets Mavlo choose
    MaterialKind material = MaterialKind::Steel;

    Dimension dimension() const;
    /// Names allowed for a Choice (kinds of slot and rotor come from their registers).
    std::vector<std::string> choices() const;
};

/// All parameters in the order an engineer would dimension the machine; the order of the project file.
const std::vector<Parameter>& parameters();
const Parameter* find_parameter(std::string_view path);
/// Known paths that look like the unknown one, best first ("stator.slot.dept" -> "stator.slot.depth").
std::vector<std::string> similar_paths(std::string_view path);

} // namespace mavlo
