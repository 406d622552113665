#pragma once
// A key figure: one number of a design that the tell-tales show and variants are compared by. Each registers
// itself, one file of key_figures/ each.

#include "figure/balance.h"
#include "figure/machine_model.h"
#include "figure/sample.h"
#include "quantity/registry.h"
#include "question/sweep.h"

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace mavlo {

/// What the quick fields of a design gave, on a coarse mesh (see quick_figures()). Empty where it does not
/// apply: no magnets, no winding, a steel without loss data.
struct QuickFields {
    std::shared_ptr<const MachineModel> model;
    std::optional<double> cogging;      ///< peak to peak, N.m
    std::vector<PositionResult> idle;   ///< a whole electrical period without current
    std::vector<PositionResult> loaded; ///< positions whose torque has the mean of the rated current's
    std::optional<Conductor> conductor;
    std::optional<double> torque; ///< mean at the rated current and advance, N.m
    /// Of a switched phase at a small current, H.
    std::optional<double> aligned, unaligned;
    std::optional<Balance> balance; ///< at the rating
    IronLevels levels;              ///< at no load (without magnets: at the rated current)
    int solves = 0;
    /// For good at the rating, degC; found after the others.
    struct Heat {
        double winding_highest = 0;
        std::optional<double> magnets;
    };
    std::optional<Heat> heat;
};

struct KeyFigure {
    std::string name; ///< the one that answers give it, where a question answers it in full
    int order = 0;
    std::string label;         ///< in a table of variants
    std::string unit{};        ///< as shown
    double factor = 1;         ///< from SI to `unit`
    int better = 0;            ///< +1: more is better, -1: less is better, 0: neither
    bool slow = false;         ///< it takes longer than a blink and comes after the others
    bool from_field = false;   ///< wears a tilde until a full answer replaces it
    std::string answered_by{}; ///< the question whose answer at the rating is the full one
    std::string joins{};       ///< the figure in whose cell it stands second, if any
    /// Whether it says anything of a machine of these facts; empty: of every one.
    std::function<bool(const Facts&)> applies{};
    /// A shorter title for the strip, perhaps with the rating; empty: the label.
    std::function<std::string(const Machine&)> title{};
    /// In SI; empty where it does not apply.
    std::function<std::optional<double>(const QuickFields&)> value{};
};

/// Key figures of one design by their names; those that do not apply are left out.
struct QuickFigures {
    std::map<std::string, double, std::less<>> values;
    int solves = 0;
    double seconds_per_solve = 0;                ///< of one thread
    std::shared_ptr<const QuickFields> fields{}; ///< what the slow ones are made from

    std::optional<double> operator[](std::string_view name) const {
        const auto found = values.find(name);
        return found == values.end() ? std::nullopt : std::optional(found->second);
    }
};

} // namespace mavlo
