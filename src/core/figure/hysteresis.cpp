#include "figure/hysteresis.h"

#include <cmath>
#include <numbers>
#include <vector>

namespace mavlo {

double component_hysteresis(const IronLossLaw& law, const Eigen::Ref<const Eigen::VectorXd>& b) {
    Eigen::Index top = 0;
    const double reach = b.maxCoeff(&top) - b.minCoeff();
    if (reach < 1e-9) return 0;
    const double noise = 1e-6 * reach;
    std::vector<double> open; // reversals whose loops have not closed
    open.reserve(32);
    double sum = 0;
    for (Eigen::Index i = 0, at = top; i <= b.size(); ++i, at = at + 1 < b.size() ? at + 1 : 0) {
        const double value = b[at];
        const auto n = open.size();
        if (n >= 1 && std::abs(value - open.back()) < noise) continue;
        if (n >= 2 && (value - open[n - 1]) * (open[n - 1] - open[n - 2]) > 0)
            open.back() = value; // goes on in the same direction
        else
            open.push_back(value);
        while (open.size() >= 4) { // a loop within a larger one has closed
            const auto end = open.end();
            const double inner = std::abs(end[-2] - end[-3]);
            if (inner > std::abs(end[-1] - end[-2]) || inner > std::abs(end[-3] - end[-4])) break;
            sum += law.hysteresis_per_cycle(inner / 2);
            open.erase(end - 3, end - 1);
        }
    }
    // Down from the largest value and up again is what is left.
    for (std::size_t i = 0; i + 2 < open.size(); i += 2)
        sum += law.hysteresis_per_cycle(std::abs(open[i + 1] - open[i]) / 2);
    return sum;
}

double mean_cosine_power(double alpha) {
    return std::tgamma((alpha + 1) / 2) / (std::sqrt(std::numbers::pi) * std::tgamma(alpha / 2 + 1));
}

double principal_angle(double xx, double yy, double xy) {
    return 0.5 * std::atan2(2 * xy, xx - yy);
}

} // namespace mavlo
