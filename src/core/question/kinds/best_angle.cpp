// Torque over the advance angle for several currents, and where it is best.

#include "quantity/constants.h"
#include "question/better_side.h"
#include "question/period.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_best_angle {
namespace {

constexpr int steps = 10; ///< of the advances that are chosen by themselves
constexpr double step = 7.5 * degree;

int solves(const Machine& machine, const Inputs& inputs) {
    const auto &currents = inputs.list("currents"), &advances = inputs.list("advances");
    const int each = period_solves(machine, int(inputs.at("points"))) * int(machine.skew.slices().size());
    if (!advances.empty()) return int(currents.size() * advances.size()) * each;
    return int(currents.size()) * (steps + 1) * each + 2 * period_solves(machine, rough_points);
}

/// As they were given; else from +q towards the side of d on which the torque is the larger.
Result<std::vector<double>> advances_of(QuestionContext& c, const std::shared_ptr<const MachineModel>& model) {
    if (const auto& given = c.inputs.list("advances"); !given.empty()) return given;
    const auto side = better_side(c, model, c.inputs.list("currents").back());
    if (!side) return side.problems();
    std::vector<double> advances;
    for (int k = 0; k <= steps; ++k) advances.push_back(*side * k * step);
    std::sort(advances.begin(), advances.end());
    return advances;
}

/// Mean torque of every current (rows) at every advance, in one sweep.
Result<std::vector<std::vector<double>>> torques(QuestionContext& c,
                                                 const std::shared_ptr<const MachineModel>& model,
                                                 const std::vector<double>& advances) {
    const auto& currents = c.inputs.list("currents");
    const int points = int(c.input("points")), needed = period_solves(c.machine, points);
    const auto slices = c.machine.skew.slices();
    std::vector<Position> positions;
    for (double current : currents)
        for (double advance : advances)
            for (const Slice& slice : slices) {
                const CurrentWave wave = CurrentWave(current_vector(current, advance))
                                             .advanced(-c.machine.pole_pairs() * slice.turn);
                const auto period = electrical_period(c.machine, points, wave);
                positions.insert(positions.end(), period.begin(), period.begin() + needed);
            }
    const auto results = sweep(model, positions, c.threads, c.watch);
    if (!results) return results.problems();
    std::vector<std::vector<double>> table(currents.size(), std::vector<double>(advances.size(), 0.0));
    for (std::size_t k = 0; k < results->size(); ++k) {
        const std::size_t run = k / std::size_t(needed), point = run / slices.size();
        table[point / advances.size()][point % advances.size()] +=
            slices[run % slices.size()].share * (*results)[k].torque / needed;
        c.answer.effort.newton_steps += (*results)[k].newton_steps;
    }
    c.answer.effort.solves += int(positions.size());
    return table;
}

struct Best {
    double advance, torque;
};

/// The top of the parabola through the largest value and its neighbours.
Best best_of(const std::vector<double>& x, const std::vector<double>& y) {
    const auto k = std::size_t(std::max_element(y.begin(), y.end()) - y.begin());
    if (k == 0 || k + 1 == y.size()) return {x[k], y[k]};
    const double a = (y[k] - y[k - 1]) / (x[k] - x[k - 1]), b = (y[k + 1] - y[k]) / (x[k + 1] - x[k]);
    const double bend = (b - a) / (x[k + 1] - x[k - 1]);
    const double top = bend < 0 ? (x[k - 1] + x[k]) / 2 - a / (2 * bend) : x[k];
    return {top, y[k - 1] + a * (top - x[k - 1]) + bend * (top - x[k - 1]) * (top - x[k])};
}

Problems run(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const auto advances = advances_of(c, *model);
    if (!advances) return advances.problems();
    const auto table = torques(c, *model, *advances);
    if (!table) return table.problems();
    const auto& currents = c.inputs.list("currents");
    std::vector<double> degrees;
    for (double a : *advances) degrees.push_back(a * 180 / pi);
    Curve locus{"best_torque", "N.m", "advance", "deg", {}, {}},
        angle{"best_advance", "deg", "current", "A", {}, {}};
    Best best{};
    for (std::size_t k = 0; k < currents.size(); ++k) {
        c.answer.curves.push_back(
            {fmt::format("torque_at_{:.4g}_A", currents[k]), "N.m", "advance", "deg", degrees, (*table)[k]});
        best = best_of(degrees, (*table)[k]);
        locus.x.push_back(best.advance);
        locus.y.push_back(best.torque);
        angle.x.push_back(currents[k]);
        angle.y.push_back(best.advance);
    }
    c.answer.curves.push_back(std::move(locus));
    if (currents.size() > 1) c.answer.curves.push_back(std::move(angle));
    c.answer.figures = {{"best_advance", best.advance, "deg"}, {"torque_best", best.torque, "N.m"}};
    c.answer.sentence =
        fmt::format("With {:.4g} A peak the torque is largest, {:.4g} N·m, at {:.3g}° electrical advance.",
                    currents.back(), best.torque, best.advance);
    return {};
}

std::vector<QuestionInput> inputs() {
    QuestionInput currents = list_input("currents", "Currents (phase, peak)", "A", "25:100:25 %",
                                        "from:to:step in A, or % of the largest current.", 0, 1e6);
    currents.percent_of = "rating.max_current";
    return {
        currents,
        auto_list_input("advances", "Advances (electrical)", "deg",
                        "from:to:step; from +q towards -d. auto: 75° in steps of 7.5° to the side of d that "
                        "gives more torque.",
                        -180, 180),
        {"points", "Positions", "", "36", "Rotor positions over one electrical period.", 6, 2000, true}};
}

const RegisterQuestion registered{
    {"best-angle",
     "With current",
     "Best angle",
     "Torque over the advance angle for several currents, and the line of the best.",
     inputs(),
     solves,
     run,
     32,
     {need_winding, need_no_shell, need_dq_frame},
     false,
     true}};

} // namespace
} // namespace mavlo::question_best_angle
