#pragma once
// What variants are compared by, row by row: their key figures and the dimensions in which they differ.

#include "question/key_figure.h"
#include "shell/tell_tales.h"

#include <QString>
#include <vector>

namespace mavlo::app {

using BuiltVariants = std::vector<std::shared_ptr<const DrawnMachine>>; ///< null where one cannot be built

/// What one variant says in a row.
struct ComparedCell {
    QString text;
    QString change{}; ///< against the reference
    int verdict = 0;  ///< +1 better, -1 worse, 0 neither
    bool differs = false;
};

struct ComparedRow {
    QString label, unit;
    const KeyFigure* figure = nullptr; ///< null: a dimension
    std::vector<ComparedCell> cells;   ///< one a variant
    bool differs() const;
};

/// Every key figure that says something of one of them: a full answer's where it is kept, else the quick
/// model's with its tilde.
std::vector<ComparedRow> compared_figures(const Document& document, const TellTaleEngine& engine,
                                          const BuiltVariants& built);
/// Every parameter that one of them uses, as it is written.
std::vector<ComparedRow> compared_dimensions(const Project& project);

} // namespace mavlo::app
