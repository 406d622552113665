#include "winding/phases.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// The phase, and its sense, that carried what each carries `angle` later; empty where none did.
std::optional<PhaseStep> step_by(const std::vector<double>& lags, double angle,
                                 std::initializer_list<int> signs = {1, -1}) {
    PhaseStep step{angle, {}, {}};
    std::vector<bool> used(lags.size(), false); // axes may coincide
    for (double lag : lags) {
        const std::size_t before = step.from.size();
        for (std::size_t j = 0; j < lags.size() && step.from.size() == before; ++j)
            for (int sign : signs) {
                // cos(theta + angle - lag) = sign cos(theta - lag_j)
                const double apart = lag - angle - lags[j] + (sign < 0 ? pi : 0);
                if (step.from.size() > before || used[j] || std::abs(std::remainder(apart, 2 * pi)) > 1e-6)
                    continue;
                used[j] = true;
                step.from.push_back(int(j));
                step.sign.push_back(sign);
            }
        if (step.from.size() == before) return std::nullopt;
    }
    return step;
}

} // namespace

std::vector<double> phase_lags(int phases, std::optional<double> set_shift) {
    std::vector<double> lags;
    if (phases == 6 && !set_shift) set_shift = pi / 6;
    for (int k = 0; k < phases; ++k) {
        if (set_shift && phases % 3 == 0)
            lags.push_back((k / 3) * *set_shift + (k % 3) * 2 * pi / 3);
        else
            lags.push_back(phases % 2 ? 2 * pi * k / phases : pi * k / phases);
    }
    return lags;
}

PhaseStep stroke_step(const std::vector<double>& lags) {
    const double angle = 2 * pi / double(lags.size());
    if (auto step = step_by(lags, angle, {1})) return *step;
    return *step_by(lags, 2 * pi, {1});
}

PhaseStep phase_step(const std::vector<double>& lags) {
    // Half a turn reverses every current; smaller angles must carry the first phase onto another.
    std::vector<double> angles;
    for (double lag : lags)
        for (double turn : {0.0, pi}) {
            const double angle = std::fmod(std::fmod(lag - lags.front() + turn, 2 * pi) + 2 * pi, 2 * pi);
            if (angle > 1e-6 && angle < pi - 1e-6) angles.push_back(angle);
        }
    std::sort(angles.begin(), angles.end());
    for (double angle : angles)
        if (auto step = step_by(lags, angle)) return *step;
    PhaseStep half{pi, {}, {}};
    for (std::size_t k = 0; k < lags.size(); ++k) {
        half.from.push_back(int(k));
        half.sign.push_back(-1);
    }
    return half;
}

std::string phase_name(int phase, int phases) {
    if (phases == 1 || phases == 2 || phases == 3) return std::string(1, char('U' + phase));
    if (phases % 3 == 0) return std::string(1, char('U' + phase % 3)) + char('1' + phase / 3);
    return std::string(1, char('A' + phase));
}

} // namespace mavlo
