#include "question/best_efficiency.h"

#include "quantity/constants.h"

#include <fmt/format.h>

namespace mavlo {
namespace {

/// Better than the other, or the only one.
bool is_better(const OperatingPoint& point, const OperatingPoint* best) {
    const auto efficiency = point.power.efficiency();
    return point.torque > 0 && efficiency && (!best || *efficiency > *best->power.efficiency());
}

} // namespace

Problems tell_best_efficiency(QuestionContext& c, const std::vector<OperatingPoint>& points) {
    const OperatingPoint* best = nullptr;
    bool motor = false, open = false;
    for (const OperatingPoint& p : points) {
        motor = motor || p.torque > 0;
        open = open || !p.power.unknown.empty();
        if (is_better(p, best)) best = &p;
    }
    if (!motor || (!best && !open))
        return {{"--with torques",
                 "None of these torques can be reached as a motor; widen the list or the limits."}};
    const auto of_best = [&](auto value) -> std::optional<double> {
        return best ? std::optional<double>(value(*best)) : std::nullopt;
    };
    c.answer.figures = {
        {"best_efficiency", of_best([](const auto& p) { return *p.power.efficiency(); }), "1"},
        {"speed_at_best_efficiency", of_best([](const auto& p) { return p.speed / rpm; }), "rpm"},
        {"torque_at_best_efficiency", of_best([](const auto& p) { return p.torque; }), "N.m"},
        {"power_at_best_efficiency", of_best([](const auto& p) { return p.power.known_shaft(); }), "W"}};
    c.answer.sentence = best ? fmt::format("Best is {:.2f} % at {:.4g} rpm and {:.4g} N·m.",
                                           100 * *best->power.efficiency(), best->speed / rpm, best->torque)
                             : "The efficiency is not known.";
    return {};
}

} // namespace mavlo
