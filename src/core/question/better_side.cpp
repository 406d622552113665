#include "question/better_side.h"

#include "quantity/constants.h"
#include "question/period.h"

#include <array>

namespace mavlo {

double advance_for(int sign, double advance) {
    return sign > 0 ? advance : pi - advance;
}

Result<int> better_side(QuestionContext& c, const std::shared_ptr<const MachineModel>& model, double current,
                        int sign) {
    std::array<double, 2> torque{};
    for (std::size_t k = 0; k < torque.size(); ++k) {
        const double advance = advance_for(sign, (k == 0 ? 1 : -1) * pi / 4);
        const auto results =
            sweep_period(model, rough_points, current_vector(current, advance), c.threads, {{}, c.watch.stop});
        if (!results) return results.problems();
        const int needed = period_solves(c.machine, rough_points);
        for (int i = 0; i < needed; ++i) torque[k] += sign * (*results)[std::size_t(i)].torque / needed;
        c.answer.effort.solves += needed;
    }
    return torque[0] >= torque[1] ? 1 : -1;
}

} // namespace mavlo
