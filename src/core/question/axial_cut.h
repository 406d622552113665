#pragma once
// An answer about heat as a drawing: the machine cut along its axis, its parts' temperatures and what flows
// between them.

#include "question/answer.h"

namespace mavlo {

/// The upper half, not to scale; places are shares of the drawing's width and height from its upper left.
struct AxialCut {
    struct Body {
        std::string name;
        double celsius = 0;
        double x = 0, y = 0, width = 0, height = 0;
        bool mirrored = false; ///< it stands at the other end, too
    };
    struct Flow {
        double from_x = 0, from_y = 0, to_x = 0, to_y = 0, watts = 0;
    };
    /// A part with a limit, degC.
    struct Thermometer {
        std::string name;
        double celsius = 0;
        std::optional<double> limit{};
    };
    std::vector<Body> bodies;
    std::vector<Flow> flows;
    std::vector<Thermometer> thermometers;
    double coldest = 0, hottest = 1, most_watts = 1e-9;

    /// 0 to 1 between coldest and hottest.
    double warmth(double celsius) const {
        return hottest > coldest ? (celsius - coldest) / (hottest - coldest) : 0;
    }
};

/// Empty where the answer has no flows between parts.
std::optional<AxialCut> axial_cut(const Answer& answer);
/// Whether a figure is told in the drawing.
bool is_in_axial_cut(const std::string& figure);

} // namespace mavlo
