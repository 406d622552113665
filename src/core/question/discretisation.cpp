#include "question/discretisation.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// What the adjoint fields leave of a figure by its unit and name; 0 for others. `linkage`: the phase's peak,
/// which back-EMFs go with.
double least_error(const Figure& figure, const Leftover& left, std::optional<double> linkage) {
    const auto has = [&](const char* word) { return figure.name.find(word) != std::string::npos; };
    if (figure.unit == "Wb") return left.linkage;
    if (figure.unit == "V" && has("back_emf"))
        return linkage && *linkage > 0 ? left.linkage / *linkage * std::abs(*figure.value) : 0;
    if (figure.unit != "N.m") return 0;
    const double wave = has("cogging") ? left.cogging : left.ripple;
    return has("peak_to_peak") ? 2 * wave : has("std") || has("cogging") ? wave : left.mean_torque;
}

} // namespace

void estimate_errors(Answer& answer, const Answer& coarser, const Leftover& left) {
    constexpr double order = 4.0 / 3;
    const double gain = std::pow(coarser_mesh, order) - 1;
    const auto linkage = answer.figure("flux_linkage_peak");
    for (Figure& figure : answer.figures) {
        const auto rough = coarser.figure(figure.name);
        if (!figure.value || !rough) continue;
        const double difference = std::abs(*figure.value - *rough);
        if (difference > 1e-12 * std::abs(*figure.value))
            figure.error = std::max(difference / gain, least_error(figure, left, linkage));
    }
}

} // namespace mavlo
