// Efficiency, losses and currents over speed and torque, and the mean over a duty.

#include "quantity/constants.h"
#include "question/best_efficiency.h"
#include "question/cage_range.h"
#include "question/circumstances.h"
#include "question/drive_inputs.h"
#include "question/duty.h"
#include "question/inverter_loss.h"
#include "question/range_columns.h"
#include "question/stroke_range.h"
#include "question/supply_inputs.h"
#include "question/unknown_losses.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_efficiency_map {
namespace {

constexpr RangeColumn<OperatingPoint> further_columns[] = {
    {"loss_magnet", "W",
     [](const OperatingPoint& p) { return p.power.of(LossPart::Magnets).value_or(nothing); }},
    {"loss_mechanical", "W", [](const OperatingPoint& p) { return p.power.mechanical(); }},
    {"id", "A", [](const OperatingPoint& p) { return p.current.d; }},
    {"iq", "A", [](const OperatingPoint& p) { return p.current.q; }},
    {"current", "A", [](const OperatingPoint& p) { return p.amplitude(); }},
    {"voltage", "V", [](const OperatingPoint& p) { return p.voltage; }},
    {"power_factor", "1", [](const OperatingPoint& p) { return p.power_factor; }},
    {"iron_loss_extrapolated", "1", [](const OperatingPoint& p) { return p.extrapolated; }},
};

/// Of an inverter, beside those of sinusoidal currents.
constexpr RangeColumn<OperatingPoint> carrier_columns[] = {
    {"loss_iron_carrier", "W", [](const OperatingPoint& p) { return p.power.known(LossPart::CarrierIron); }},
    {"loss_magnet_carrier", "W",
     [](const OperatingPoint& p) { return p.power.known(LossPart::CarrierMagnets); }},
    {"loss_switches", "W", [](const OperatingPoint& p) { return p.power.known(LossPart::Switches); }},
    {"current_ripple", "A", [](const OperatingPoint& p) { return p.current_ripple; }},
};

constexpr double least_ratio = 9; ///< carriers a period, below which ripple is no small one

int solves(const Machine& machine, const Inputs& inputs) {
    if (machine.facts().switched) return switched_solves(machine, inputs);
    if (machine.facts().cage) return cage_range_solves();
    return drive_solves(machine, inputs) + (has_carrier(inputs) ? RippleLoss::solves : 0);
}

/// 60 torques from the strongest generator (or zero) to the strongest motor.
std::vector<double> even_torques(const Drive& drive, bool generator) {
    const auto most = drive.strongest(0);
    std::vector<double> list;
    if (!most) return list;
    const int steps = 60, from = generator ? -steps / 2 : 1, to = generator ? steps / 2 : steps;
    for (int k = from; k <= to; ++k) list.push_back(most->torque * k / (generator ? steps / 2 : steps));
    return list;
}

using Points = std::vector<std::vector<std::optional<OperatingPoint>>>; ///< [torque][speed]

Result<Points> all_points(QuestionContext& c, const Drive& drive, const std::vector<double>& speeds,
                          const std::vector<double>& torques) {
    Points points(torques.size(), std::vector<std::optional<OperatingPoint>>(speeds.size()));
    for (std::size_t j = 0; j < torques.size(); ++j) {
        if (c.watch.stop.stop_requested()) return stopped();
        const TorqueContour contour = drive.contour(torques[j]);
        for (std::size_t i = 0; i < speeds.size(); ++i) points[j][i] = drive.best(contour, speeds[i]);
    }
    return points;
}

void add_maps(Answer& answer, const Points& points, const std::vector<double>& speeds,
              const std::vector<double>& torques, bool on_carrier) {
    std::vector<double> x;
    x.reserve(speeds.size());
    for (double speed : speeds) x.push_back(speed / rpm);
    const auto add = [&](const RangeColumn<OperatingPoint>& column) {
        Map map{column.name, column.unit, "speed", "rpm", "torque", "N.m", x, torques, {}};
        for (const auto& row : points) {
            map.z.emplace_back();
            for (const auto& p : row) map.z.back().push_back(p ? column.value(*p) : nothing);
        }
        answer.maps.push_back(std::move(map));
    };
    for (const auto& column : loss_columns<OperatingPoint>) add(column);
    for (const auto& column : further_columns) add(column);
    if (!on_carrier) return;
    for (const auto& column : carrier_columns) add(column);
}

void add_envelope(Answer& answer, const Drive& drive, const std::vector<double>& speeds, bool generator) {
    for (int sign : {1, -1}) {
        if (sign < 0 && !generator) continue;
        Curve curve{sign > 0 ? "envelope" : "envelope_generator", "N.m", "speed", "rpm", {}, {}};
        for (double speed : speeds)
            if (const auto p = drive.strongest(speed, sign)) {
                curve.x.push_back(speed / rpm);
                curve.y.push_back(p->torque);
            }
        answer.curves.push_back(std::move(curve));
    }
}

/// What is said of the supply.
std::string supply_in_words(const QuestionContext& c, double fastest) {
    if (!has_carrier(c.inputs))
        return " From the flux map with sinusoidal currents; losses by harmonics of the inverter are left out.";
    const double carrier = c.input("carrier_frequency"),
                 ratio = carrier / electrical_frequency(c.machine, fastest);
    std::string out = fmt::format(
        " From the flux map, with the ripple of a carrier of {:.4g} Hz in copper, sheets and magnets, and the "
        "valves' drops; what valves lose in switching, and the ripple's hysteresis, is left out.",
        carrier);
    if (ratio < least_ratio)
        out += fmt::format(" At {:.4g} rpm a period has only {:.3g} carriers: ripple is rough there.",
                           fastest / rpm, ratio);
    return out;
}

Problems check(const QuestionContext& c) {
    if (!has_carrier(c.inputs)) return {};
    if (c.machine.winding.phases != 3)
        return {{"--with supply", "The carrier's losses are those of three phases; say supply=sine."}};
    if (c.map)
        return {{"--with supply",
                 "A map brought along does not tell what ripple loses in iron and magnets; say "
                 "supply=sine."}};
    return terminal_problems(c.machine);
}

Problems run(QuestionContext& c) {
    if (c.machine.facts().switched) return switched_efficiency_map(c);
    if (c.machine.facts().cage) return cage_efficiency_map(c);
    if (aim_of(c.inputs) == Aim::LeastRipple)
        return {{"--with aim", "Least ripple is chosen for phases that are switched by position alone."}};
    if (auto problems = check(c); !problems.empty()) return problems;
    const auto drive = make_drive(c, drive_limits(c.machine, c.inputs), aim_of(c.inputs));
    if (!drive) return drive.problems();
    std::optional<InverterLoss> inverter;
    if (has_carrier(c.inputs)) {
        auto made = make_inverter_loss(c, *drive);
        if (!made) return made.problems();
        inverter = std::move(*made);
    }
    const auto& speeds = c.inputs.list("speeds");
    const bool generator = c.inputs.word("quadrants") == "both";
    std::vector<double> torques = c.inputs.list("torques");
    if (torques.empty()) torques = even_torques(*drive, generator);
    auto points = all_points(c, *drive, speeds, torques);
    if (!points) return points.problems();
    const auto on_supply = [&](std::optional<OperatingPoint> p) {
        if (p && inverter) p->current_ripple = inverter->add(*p);
        return p;
    };
    for (auto& row : *points)
        for (auto& p : row) p = on_supply(p);
    add_maps(c.answer, *points, speeds, torques, inverter.has_value());
    add_envelope(c.answer, *drive, speeds, generator);
    std::vector<OperatingPoint> reached;
    for (const auto& row : *points)
        for (const auto& p : row)
            if (p) reached.push_back(*p);
    if (auto problems = tell_best_efficiency(c, reached); !problems.empty()) return problems;
    c.answer.figures.push_back(end_inductance_figure(c));
    if (auto problems =
            add_duty(c, [&](double torque, double speed) { return on_supply(drive->best(torque, speed)); });
        !problems.empty())
        return problems;
    c.answer.sentence += supply_in_words(c, speeds.back()) +
                         " Torque is the gap's, before friction and what iron and magnets brake.";
    c.answer.sentence += " " + conditions_in_words(c.machine);
    double extrapolated = 0;
    for (const OperatingPoint& p : reached) extrapolated = std::max(extrapolated, p.extrapolated);
    tell_extrapolated_losses(c, extrapolated);
    tell_unknown_losses(c);
    return {};
}

std::vector<QuestionInput> inputs() {
    QuestionInput quadrants{"quadrants", "Quadrants", "", "both", "Motor alone, or motor and generator."};
    quadrants.kind = InputKind::Choice;
    quadrants.words = {"motor", "both"};
    std::vector<QuestionInput> list{speeds_input(),
                                    auto_list_input("torques", "Torques", "N.m",
                                                    "from:to:step; auto: 60 steps up to the most there is.",
                                                    -1e6, 1e6),
                                    quadrants, aim_input()};
    for (auto& input : drive_inputs()) list.push_back(input);
    for (auto& input : inverter_inputs()) list.push_back(input);
    for (auto& input : linkage_map_inputs()) list.push_back(input);
    for (const QuestionInput& input : duty_inputs()) list.push_back(input);
    return list;
}

const RegisterQuestion registered{{"efficiency-map",
                                   "Whole range",
                                   "Efficiency map",
                                   "Efficiency, losses and currents at every speed and torque; a duty's mean.",
                                   inputs(),
                                   solves,
                                   run,
                                   80,
                                   {need_winding, need_no_shell_or_cage},
                                   false,
                                   true}};

} // namespace
} // namespace mavlo::question_efficiency_map
