#pragma once
// A parameter of a design: its path, kind, unit, standard value, words and limits. Parameters are owned: those
// that every design has by the files in machine/parameters/, the others by the kinds that use them.

#include "material/material.h"
#include "quantity/registry.h"
#include "quantity/unit.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace mavlo {

struct Design;

enum class ParameterKind { Quantity, Number, Whole, Choice, MaterialName };

struct Parameter {
    std::string path;
    ParameterKind kind = ParameterKind::Quantity;
    std::string unit;     ///< the unit it is shown in; empty for plain numbers
    std::string standard; ///< text of the standard value, often a formula
    std::string label;    ///< the trade's word, for the sheet
    std::string symbol;
    std::string help;          ///< one sentence
    double low = 0, high = 0;  ///< limits in `unit`; low > high means none
    bool auto_allowed = false; ///< the text "auto" lets Mavlo choose
    MaterialKind material = MaterialKind::Steel;
    std::vector<std::string> words{};                   ///< of a Choice
    std::vector<std::string> (*more_words)() = nullptr; ///< of a Choice whose words a registry holds
    bool (*used)(const Design&) = nullptr; ///< whether the design uses it, beside its owner's being chosen
    std::string page{}, group{};           ///< where the sheet shows it
    int order = 0;                         ///< in the sheet, the file and the documents

    Dimension dimension() const;
    bool is_word() const { return kind == ParameterKind::Choice || kind == ParameterKind::MaterialName; }
    /// Names allowed for a Choice.
    std::vector<std::string> choices() const;
};

/// Parameters that every design has. One file in machine/parameters/ each.
struct ParameterSet {
    std::string name;
    std::vector<Parameter> parameters;
    int order = 0;
    bool (*used)(const Design&) = nullptr; ///< whether the design uses any of it
};

/// All parameters that are known, of every kind, each path once, in the order an engineer would dimension the
/// machine. Where kinds share a path the first kind's is taken.
const std::vector<Parameter>& parameters();
/// Of the common ones and the kinds'; the design's own kinds come first where one is given.
const Parameter* find_parameter(std::string_view path);
const Parameter* find_parameter(std::string_view path, const Design& design);
/// Those the design uses, in order.
std::vector<const Parameter*> used_parameters(const Design& design);
/// Known paths that look like the unknown one, best first ("stator.slot.dept" -> "stator.slot.depth").
std::vector<std::string> similar_paths(std::string_view path);

/// A quantity that follows from the design and that formulas may name: no parameter, but as good as one.
struct DerivedQuantity {
    std::string path, unit, help;
};
const std::vector<DerivedQuantity>& derived_quantities();

// What the owners write their lists with.
namespace parameter {
Parameter length(std::string path, const char* standard, const char* label, const char* symbol,
                 const char* help, double low, double high);
Parameter quantity(std::string path, const char* unit, const char* standard, const char* label,
                   const char* symbol, const char* help, double low, double high);
Parameter number(std::string path, const char* standard, const char* label, const char* symbol,
                 const char* help, double low, double high);
Parameter whole(std::string path, const char* standard, const char* label, const char* symbol, const char* help,
                double low, double high);
Parameter choice(std::string path, std::vector<std::string> words, const char* label, const char* help);
/// What fills a room that is otherwise air.
Parameter filling(std::string path, const char* label, const char* help);
Parameter material(std::string path, const char* standard, const char* label, const char* help,
                   MaterialKind kind);
Parameter or_auto(Parameter p);
Parameter when(bool (*used)(const Design&), Parameter p);
/// In this place of the sheet, in the order given.
std::vector<Parameter> in_group(const char* page, const char* group, int order, std::vector<Parameter> list);
std::vector<Parameter> joined(std::initializer_list<std::vector<Parameter>> lists);
} // namespace parameter

} // namespace mavlo
