#pragma once
// What a figure of an answer is called in the trade, its symbol, and where it stands among the others.

#include "question/answer.h"

#include <optional>

namespace mavlo {

struct FigureName {
    std::string label;  ///< "Mean torque"
    std::string symbol; ///< "T"; may be empty
    std::string group;  ///< "Torque"; figures without one stand under "More"
};
/// Of a figure that has one, with what is told of key figures over many machines.
std::optional<FigureName> known_figure_name(const std::string& name);
std::vector<FigureName> all_figure_names(); ///< of those that have one
/// The same; one that is not known wears its own words.
FigureName figure_name(const std::string& name);

/// The figures that answer a question, by their names; empty: not told apart.
std::vector<std::string> answering_figures(const std::string& question);
/// Those of an answer, the two or three that it has, in order.
std::vector<std::string> headline_figures(const Answer& answer);

struct FigureGroup {
    std::string title;
    std::vector<Figure> figures;
};
/// The others by groups, in the order the trade reads them.
std::vector<FigureGroup> figure_groups(const Answer& answer);

/// How input becomes output: what is lost on the way, largest first. Empty where an answer has no power.
struct LossBar {
    double input = 0, output = 0; ///< W
    struct Loss {
        std::string label;
        double watts;
    };
    std::vector<Loss> losses;
};
std::optional<LossBar> loss_bar(const Answer& answer);

} // namespace mavlo
