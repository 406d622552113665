#include "question/discretisation.h"

#include <cmath>

namespace mavlo {

void estimate_errors(Answer& answer, const Answer& coarser) {
    constexpr double order = 4.0 / 3;
    const double gain = std::pow(coarser_mesh, order) - 1;
    for (Figure& figure : answer.figures) {
        const auto rough = coarser.figure(figure.name);
        if (!figure.value || !rough) continue;
        const double difference = std::abs(*figure.value - *rough);
        if (difference > 1e-12 * std::abs(*figure.value)) figure.error = difference / gain;
    }
}

} // namespace mavlo
