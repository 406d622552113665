// Torque, power and losses up to the largest speed, within the inverter's limits.

#include "quantity/constants.h"
#include "question/cage_range.h"
#include "question/circumstances.h"
#include "question/drive_inputs.h"
#include "question/plane_curves.h"
#include "question/range_columns.h"
#include "question/stroke_range.h"
#include "question/supply_inputs.h"
#include "question/unknown_losses.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_speed_range {
namespace {

/// Each a curve over speed.
constexpr RangeColumn<OperatingPoint> columns[] = {
    {"torque", "N.m", [](const OperatingPoint& p) { return p.torque; }},
    {"power", "W", [](const OperatingPoint& p) { return p.power.shaft().value_or(nothing); }},
    {"id", "A", [](const OperatingPoint& p) { return p.current.d; }},
    {"iq", "A", [](const OperatingPoint& p) { return p.current.q; }},
    {"current", "A", [](const OperatingPoint& p) { return p.amplitude(); }},
    {"voltage", "V", [](const OperatingPoint& p) { return p.voltage; }},
    {"power_factor", "1", [](const OperatingPoint& p) { return p.power_factor; }},
    {"efficiency", "1", [](const OperatingPoint& p) { return p.power.efficiency().value_or(nothing); }},
    {"loss_total", "W", [](const OperatingPoint& p) { return p.power.total().value_or(nothing); }},
    {"loss_copper", "W", [](const OperatingPoint& p) { return p.power.known(LossPart::Copper); }},
    {"loss_winding_stray", "W", [](const OperatingPoint& p) { return p.power.known(LossPart::WindingStray); }},
    {"loss_iron", "W", [](const OperatingPoint& p) { return p.power.iron().value_or(nothing); }},
    {"loss_magnet", "W",
     [](const OperatingPoint& p) { return p.power.of(LossPart::Magnets).value_or(nothing); }},
    {"loss_mechanical", "W", [](const OperatingPoint& p) { return p.power.mechanical(); }},
    {"iron_loss_extrapolated", "1", [](const OperatingPoint& p) { return p.extrapolated; }},
};

int solves(const Machine& machine, const Inputs& inputs) {
    if (machine.facts().switched) return switched_solves(machine, inputs);
    if (machine.facts().cage) return cage_range_solves();
    const int temperatures = int(inputs.list("magnet_temperatures").size());
    return drive_solves(machine, inputs) * (1 + temperatures);
}

Curve over_speed(const std::string& name, const std::string& unit) {
    return {name, unit, "speed", "rpm", {}, {}};
}

std::vector<OperatingPoint> envelope(const Drive& drive, const std::vector<double>& speeds) {
    std::vector<OperatingPoint> points;
    for (double speed : speeds) {
        const auto point = drive.strongest(speed);
        // Beyond the reach of field weakening, or where drag takes it all.
        if (!point || (speed > 0 && point->power.known_shaft() <= 0)) break;
        points.push_back(*point);
    }
    return points;
}

void add_curves(Answer& answer, const std::vector<OperatingPoint>& points) {
    for (const auto& column : columns) {
        Curve curve = over_speed(column.name, column.unit);
        for (const auto& p : points) {
            curve.x.push_back(p.speed / rpm);
            curve.y.push_back(column.value(p));
        }
        answer.curves.push_back(std::move(curve));
    }
}

void add_plane(Answer& answer, const Drive& drive, const std::vector<OperatingPoint>& points, double base) {
    Curve taken = plane_curve("over_speed"), ampere = plane_curve("torque_per_ampere"),
          volt = plane_curve("torque_per_volt");
    for (const auto& p : points) add_point(taken, p.current);
    for (int k = 1; k <= 30; ++k) add_point(ampere, drive.strongest_vector(drive.limits().current * k / 30));
    const double idle = std::abs(drive.map().flux_linkage({}).d);
    for (int k = 1; k <= 40; ++k)
        if (const auto i = drive.strongest_at_flux(idle * k / 30)) add_point(volt, *i);
    std::vector<Curve> curves{current_limit_curve(drive), std::move(ampere), std::move(volt), std::move(taken)};
    for (double factor : {1.0, 1.5, 2.0, 3.0})
        if (factor * base <= points.back().speed * 1.01)
            curves.push_back(voltage_limit_curve(drive, factor * base));
    for (Curve& curve : curves)
        if (curve.x.size() > 2) answer.curves.push_back(std::move(curve));
}

/// The envelope with the magnets at other temperatures, each from a map of its own.
Problems add_temperatures(QuestionContext& c, const DriveLimits& limits) {
    for (double temperature : c.inputs.list("magnet_temperatures")) {
        const Machine machine = at_temperatures(c.machine, {temperature, {}});
        const PointStore store = c.points.of(fmt::format("magnets at {:.6f} K", temperature));
        const auto drive = make_drive(c, machine, store, limits, Aim::LeastLoss);
        if (!drive) return drive.problems();
        Curve torque = over_speed(fmt::format("torque_magnets_{:.0f}_degC", temperature - 273.15), "N.m");
        for (const auto& p : envelope(*drive, c.inputs.list("speeds"))) {
            torque.x.push_back(p.speed / rpm);
            torque.y.push_back(p.torque);
        }
        c.answer.curves.push_back(std::move(torque));
    }
    return {};
}

Problems run(QuestionContext& c) {
    if (c.machine.facts().switched) return switched_speed_range(c);
    if (c.machine.facts().cage) return cage_speed_range(c);
    const DriveLimits limits = drive_limits(c.machine, c.inputs);
    const auto drive = make_drive(c, limits, Aim::LeastLoss);
    if (!drive) return drive.problems();
    const auto& speeds = c.inputs.list("speeds");
    const auto points = envelope(*drive, speeds);
    if (points.empty())
        return {{"--with dc_voltage",
                 "Even at the lowest speed the voltage does not suffice; raise the voltage or "
                 "lower the speeds."}};
    add_curves(c.answer, points);
    const double standstill = drive->strongest(0)->torque,
                 base = base_speed(*drive, standstill, points.back().speed);
    add_plane(c.answer, *drive, points, base);
    if (auto problems = add_temperatures(c, limits); !problems.empty()) return problems;
    const auto by_power = [](const OperatingPoint& a, const OperatingPoint& b) {
        return a.power.known_shaft() < b.power.known_shaft();
    };
    const OperatingPoint& strongest_power = *std::max_element(points.begin(), points.end(), by_power);
    c.answer.figures = {{"base_speed", base / rpm, "rpm"},
                        {"max_speed", points.back().speed / rpm, "rpm"},
                        {"max_torque", standstill, "N.m"},
                        {"max_power", strongest_power.power.shaft(), "W"},
                        {"speed_at_max_power", strongest_power.speed / rpm, "rpm"},
                        {"torque_at_max_speed", points.back().torque, "N.m"},
                        {"characteristic_current", drive->characteristic_current(), "A"},
                        {"voltage_limit", limits.voltage, "V"},
                        end_inductance_figure(c)};
    c.answer.sentence = fmt::format(
        "{:.4g} N·m are there up to {:.4g} rpm; the most power is {}{:.4g} kW at {:.4g} rpm, and at {:.4g} rpm "
        "{:.4g} N·m are left. From the flux map with sinusoidal currents: the harmonics of voltage and current "
        "are "
        "left out.",
        standstill, base / rpm, drive->unknown().empty() ? "" : "at most ",
        strongest_power.power.known_shaft() / 1e3, strongest_power.speed / rpm, points.back().speed / rpm,
        points.back().torque);
    c.answer.sentence += " " + conditions_in_words(c.machine);
    double extrapolated = 0;
    for (const OperatingPoint& p : points) extrapolated = std::max(extrapolated, p.extrapolated);
    tell_extrapolated_losses(c, extrapolated);
    tell_unknown_losses(c);
    return {};
}

std::vector<QuestionInput> inputs() {
    std::vector<QuestionInput> list{speeds_input()};
    for (auto& input : drive_inputs()) list.push_back(input);
    for (auto& input : linkage_map_inputs()) list.push_back(input);
    QuestionInput temperatures{
        "magnet_temperatures",
        "Magnets also at",
        "degC",
        "auto",
        "Further temperatures of the magnets to compare, e.g. 20, 120; auto: none. Each needs "
        "a map of its own.",
        -200,
        400};
    temperatures.kind = InputKind::List;
    temperatures.auto_allowed = true;
    list.push_back(temperatures);
    return list;
}

const RegisterQuestion registered{{"speed-range",
                                   "Whole range",
                                   "Speed range",
                                   "The most torque and power at every speed within current and voltage.",
                                   inputs(),
                                   solves,
                                   run,
                                   70,
                                   {need_winding, need_no_shell_or_cage},
                                   false,
                                   true}};

} // namespace
} // namespace mavlo::question_speed_range
