// Torque, power and losses up to the largest speed, within the inverter's limits.

#include "question/drive_inputs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi, rpm = pi / 30;

/// One quantity of an operating point, as a curve over speed.
struct Column {
    const char *name, *unit;
    double (*value)(const OperatingPoint&);
};

constexpr Column columns[] = {
    {"torque", "N.m", [](const OperatingPoint& p) { return p.torque; }},
    {"power", "W", [](const OperatingPoint& p) { return p.shaft_power(); }},
    {"id", "A", [](const OperatingPoint& p) { return p.current.d; }},
    {"iq", "A", [](const OperatingPoint& p) { return p.current.q; }},
    {"current", "A", [](const OperatingPoint& p) { return p.amplitude(); }},
    {"voltage", "V", [](const OperatingPoint& p) { return p.voltage; }},
    {"power_factor", "1", [](const OperatingPoint& p) { return p.power_factor; }},
    {"efficiency", "1", [](const OperatingPoint& p) { return p.efficiency().value_or(0); }},
    {"loss_total", "W", [](const OperatingPoint& p) { return p.total_loss(); }},
    {"loss_copper", "W", [](const OperatingPoint& p) { return p.copper; }},
    {"loss_iron", "W", [](const OperatingPoint& p) { return p.iron_stator + p.iron_rotor; }},
    {"loss_magnet", "W", [](const OperatingPoint& p) { return p.magnets; }},
    {"loss_mechanical", "W", [](const OperatingPoint& p) { return p.mechanical; }},
};

int solves(const Machine& machine, const Inputs& inputs) {
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
        if (!point) break; // beyond the reach of field weakening
        points.push_back(*point);
    }
    return points;
}

void add_curves(Answer& answer, const std::vector<OperatingPoint>& points) {
    for (const Column& column : columns) {
        Curve curve = over_speed(column.name, column.unit);
        for (const auto& p : points) {
            curve.x.push_back(p.speed / rpm);
            curve.y.push_back(column.value(p));
        }
        answer.curves.push_back(std::move(curve));
    }
}

/// A line in the plane of currents.
struct Locus {
    Curve curve;
    explicit Locus(const std::string& name)
        : curve{"plane_" + name, "A", "id", "A", {}, {}} {}
    void add(Dq i) {
        curve.x.push_back(i.d);
        curve.y.push_back(i.q);
    }
};

/// Where the voltage is at its limit at this speed, inside the map.
Curve voltage_limit_locus(const Drive& drive, double speed) {
    Locus locus(fmt::format("voltage_limit_{:.0f}_rpm", speed / rpm));
    const auto& map = drive.map();
    const double low = map.id().front(), high = map.id().back(), top = map.iq().back();
    for (int k = 0; k <= 120; ++k) {
        const double id = low + (high - low) * k / 120;
        const auto excess = [&](double iq) {
            return drive.at({id, iq}, speed).voltage - drive.limits().voltage;
        };
        if (excess(0) > 0) continue;
        double a = 0, b = top;
        if (excess(top) < 0) continue;
        while (b - a > 1e-4 * top) (excess((a + b) / 2) > 0 ? b : a) = (a + b) / 2;
        locus.add({id, a});
    }
    return locus.curve;
}

void add_plane(Answer& answer, const Drive& drive, const std::vector<OperatingPoint>& points, double base) {
    Locus taken("over_speed"), ampere("torque_per_ampere"), volt("torque_per_volt"), circle("current_limit");
    for (const auto& p : points) taken.add(p.current);
    for (int k = 1; k <= 30; ++k) ampere.add(drive.strongest_vector(drive.limits().current * k / 30));
    const double most = std::hypot(drive.map().flux_linkage({}).d, 0.0);
    for (int k = 1; k <= 40; ++k)
        if (const auto i = drive.strongest_at_flux(most * k / 30)) volt.add(*i);
    for (int k = 0; k <= 90; ++k) circle.add(current_vector(drive.limits().current, k * pi / 180));
    for (Locus* locus : {&circle, &ampere, &volt, &taken})
        if (locus->curve.x.size() > 1) answer.curves.push_back(std::move(locus->curve));
    for (double factor : {1.0, 1.5, 2.0, 3.0}) {
        Curve limit = voltage_limit_locus(drive, factor * base);
        if (limit.x.size() > 2 && factor * base <= points.back().speed * 1.01)
            answer.curves.push_back(std::move(limit));
    }
}

/// The envelope with the magnets at other temperatures, each from a map of its own.
Problems add_temperatures(QuestionContext& c, const DriveLimits& limits) {
    for (double temperature : c.inputs.list("magnet_temperatures")) {
        Machine machine = c.machine;
        machine.values.set_number("rotor.magnet.temperature", temperature);
        machine.remanence = machine.magnet.magnet.remanence_at(temperature);
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

/// The speed up to which the largest torque is there.
double base_speed(const Drive& drive, double fastest) {
    const auto at_standstill = drive.strongest(0);
    const auto full = [&](double speed) {
        const auto point = drive.strongest(speed);
        return point && point->torque > 0.998 * at_standstill->torque;
    };
    if (full(fastest)) return fastest;
    double low = 0, high = fastest;
    while (high - low > 1e-3 * fastest) (full((low + high) / 2) ? low : high) = (low + high) / 2;
    return low;
}

Problems run(QuestionContext& c) {
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
    const double base = base_speed(*drive, points.back().speed);
    add_plane(c.answer, *drive, points, base);
    if (auto problems = add_temperatures(c, limits); !problems.empty()) return problems;
    const auto by_power = [](const OperatingPoint& a, const OperatingPoint& b) {
        return a.shaft_power() < b.shaft_power();
    };
    const OperatingPoint& strongest_power = *std::max_element(points.begin(), points.end(), by_power);
    c.answer.figures = {{"base_speed", base / rpm, "rpm"},
                        {"max_speed", points.back().speed / rpm, "rpm"},
                        {"max_torque", points.front().torque, "N.m"},
                        {"max_power", strongest_power.shaft_power(), "W"},
                        {"speed_at_max_power", strongest_power.speed / rpm, "rpm"},
                        {"torque_at_max_speed", points.back().torque, "N.m"},
                        {"characteristic_current", drive->characteristic_current(), "A"},
                        {"voltage_limit", limits.voltage, "V"}};
    c.answer.sentence = fmt::format(
        "{:.4g} N·m are there up to {:.4g} rpm; the most power is {:.4g} kW at {:.4g} rpm, and at {:.4g} rpm "
        "{:.4g} N·m are left. From the flux map with sinusoidal currents: the harmonics of voltage and current "
        "are "
        "left out.",
        points.front().torque, base / rpm, strongest_power.shaft_power() / 1e3, strongest_power.speed / rpm,
        points.back().speed / rpm, points.back().torque);
    return {};
}

std::vector<QuestionInput> inputs() {
    std::vector<QuestionInput> list{speeds_input()};
    for (auto& input : drive_inputs()) list.push_back(input);
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

const RegisterQuestion registered{{"speed-range", "Whole range", "Speed range",
                                   "The most torque and power at every speed within current and voltage.",
                                   inputs(), solves, run, 70}};

} // namespace
} // namespace mavlo
