#include "question/discretisation.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// What the adjoint fields leave of a figure by its unit and name; 0 for others.
double least_error(const Figure& figure, const Leftover& left) {
    const auto has = [&](const char* word) { return figure.name.find(word) != std::string::npos; };
    if (figure.unit == "Wb") return left.linkage;
    if (figure.unit != "N.m") return 0;
    const double wave = has("cogging") ? left.cogging : left.ripple;
    return has("peak_to_peak") ? 2 * wave : has("std") || has("cogging") ? wave : left.mean_torque;
}

} // namespace

void estimate_errors(Answer& answer, const Answer& coarser, const Leftover& left) {
    constexpr double order = 4.0 / 3;
    const double gain = std::pow(coarser_mesh, order) - 1;
    for (Figure& figure : answer.figures) {
        const auto rough = coarser.figure(figure.name);
        if (!figure.value || !rough) continue;
        const double difference = std::abs(*figure.value - *rough);
        if (difference > 1e-12 * std::abs(*figure.value))
            figure.error = std::max(difference / gain, least_error(figure, left));
    }
}

} // namespace mavlo
