// Cogging torque over one of its periods, without current.

#include "quantity/constants.h"
#include "question/question.h"
#include "question/skew_inputs.h"
#include "question/spectrum_curve.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_cogging {
namespace {

/// Where the section is its own mirror image, cogging is odd about a magnet on a slot's centre, so the
/// positions strictly within the first half of the period tell the whole.
int needed(const Machine& machine, int points) {
    return machine.symmetry.mirrored ? (points - 1) / 2 : points;
}

int solves(const Machine& machine, const Inputs& inputs) {
    return needed(machine, int(inputs.at("points")));
}

Problems run(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const int points = int(c.input("points")), per_turn = c.machine.symmetry.cogging_periods;
    const double period = 2 * pi / per_turn;
    std::vector<Position> positions;
    const bool odd = c.machine.symmetry.mirrored;
    for (int i = 1; i <= needed(c.machine, points); ++i) positions.push_back({period * i / points, {}});
    const auto results = sweep(*model, positions, c.threads, c.watch);
    if (!results) return results.problems();
    Curve torque{"torque", "N.m", "rotor_angle", "deg", {}, {}};
    torque.y.assign(std::size_t(points), 0.0);
    for (int i = 0; i < points; ++i) torque.x.push_back(360.0 / per_turn * i / points);
    for (std::size_t i = 1; i <= results->size(); ++i) {
        const PositionResult& r = (*results)[i - 1];
        torque.y[i % std::size_t(points)] = r.torque;
        if (odd) torque.y[std::size_t(points) - i] = -r.torque;
        c.answer.effort.newton_steps += r.newton_steps;
    }
    torque.y = skewed(torque.y, period, skew_of(c.machine, c.inputs));
    const double swing = peak_to_peak(torque.y);
    c.answer.figures = {{"cogging_peak_to_peak", swing, "N.m"},
                        {"cogging_period", period * 180 / pi, "deg"},
                        {"cogging_per_turn", double(per_turn), "1"},
                        // One period over the stack takes every wave away that the steps can.
                        {"skew_proposed", period * 180 / pi, "deg"}};
    Curve spectrum =
        spectrum_curve("torque", "N.m", torque.y, {"mechanical_order", "1", double(per_turn), 1, 20});
    c.answer.curves = {std::move(torque), std::move(spectrum)};
    c.answer.effort.solves = needed(c.machine, points);
    c.answer.sentence = fmt::format(
        "The rotor cogs by {:.3g} {} from peak to peak, {} times a turn (every {:.3f}° mechanical).",
        swing < 0.5 ? swing * 1e3 : swing, swing < 0.5 ? "mN·m" : "N·m", per_turn, period * 180 / pi);
    return {};
}

const RegisterQuestion registered{
    {"cogging",
     "No current",
     "Cogging torque",
     "How much the rotor's torque wavers without current, over one cogging period.",
     with_skew({{"points", "Positions", "", "60", "Rotor positions over one cogging period.", 4, 2000, true}}),
     solves,
     run,
     10,
     {need_magnets},
     true,
     true}};

} // namespace
} // namespace mavlo::question_cogging
