#include "question/cage_range.h"

#include "map/cage_drive.h"
#include "quantity/constants.h"
#include "question/cage_slips.h"
#include "question/drive_inputs.h"
#include "question/supply_inputs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double not_there = std::numeric_limits<double>::quiet_NaN();
constexpr int even_steps = 24;

struct CageColumn {
    const char *name, *unit;
    double (*value)(const CageOperation&);
};
constexpr CageColumn cage_columns[] = {
    {"efficiency", "1", [](const CageOperation& o) { return o.point.efficiency().value_or(not_there); }},
    {"loss_total", "W", [](const CageOperation& o) { return o.loss(); }},
    {"loss_copper", "W", [](const CageOperation& o) { return o.point.copper_stator; }},
    {"loss_cage", "W", [](const CageOperation& o) { return o.point.copper_rotor; }},
    {"loss_iron", "W", [](const CageOperation& o) { return o.point.iron; }},
    {"loss_mechanical", "W", [](const CageOperation& o) { return o.point.friction; }},
    {"current_rms", "A", [](const CageOperation& o) { return o.point.current; }},
    {"voltage_line_rms", "V", [](const CageOperation& o) { return std::sqrt(3.0) * o.voltage; }},
    {"power_factor", "1", [](const CageOperation& o) { return o.point.power_factor; }},
    {"frequency", "Hz", [](const CageOperation& o) { return o.frequency; }},
    {"slip", "1", [](const CageOperation& o) { return o.point.slip; }},
};

using Operation = std::optional<CageOperation>;

/// The circuit of the drawing on the limits' voltage at the rated frequency, and a drive of it.
class CageRange {
  public:
    explicit CageRange(QuestionContext& context)
        : c(context) {}

    Problems prepare() {
        if (auto problems = terminal_problems(c.machine); !problems.empty()) return problems;
        const DriveLimits limits = drive_limits(c.machine, c.inputs);
        const double to_star = is_delta(c.machine) ? std::sqrt(3.0) : 1;
        m_voltage = limits.voltage / std::sqrt(2.0) / to_star;
        m_current = limits.current / std::sqrt(2.0) * to_star;
        m_base = std::max(1.0, c.machine.rating.speed * c.machine.pole_pairs() / (2 * pi));
        if (m_voltage <= 0)
            return {{"--with dc_voltage",
                     "An inverter without a link's voltage makes no torque; give the voltage."}};
        const auto model = prepare_model(c);
        if (!model) return model.problems();
        FieldSlips fields(
            *model, FieldSlips::Circuit{machine_conductor(c.machine).resistance, given_end_inductance(c), 0},
            c);
        auto table = circuit_table(fields, m_voltage, m_base);
        if (!table) return table.problems();
        m_table = *table;
        return {};
    }

    /// f of each index with a drive of its own, on the context's threads.
    Problems each(std::size_t count, const std::function<Problems(const CageDrive&, std::size_t)>& f) const {
        std::vector<Problems> problems(count);
        on_threads(int(count), c.threads, [&](int k) {
            if (c.watch.stop.stop_requested()) return;
            SaturatedCircuit circuit(m_table, c.machine.pole_pairs(), 0);
            const CageDrive drive(circuit, m_voltage, m_current, m_base);
            problems[std::size_t(k)] = f(drive, std::size_t(k));
        });
        if (c.watch.stop.stop_requested()) return {stopped()};
        for (Problems& p : problems)
            if (!p.empty()) return std::move(p);
        return {};
    }

    /// The bearings' torque at every speed beside what the circuit tells.
    Operation with_friction(Operation o) const {
        if (o) o->point.friction = c.machine.friction_torque * o->point.speed;
        return o;
    }

    std::string words() const {
        return fmt::format(" By the circuit that harmonic fields of the drawing make on {:.4g} V and {:.4g} "
                           "Hz, over slip and saturation; sinusoidal "
                           "currents: what a carrier loses, and what the slots' waves add, is left out.",
                           std::sqrt(3.0) * m_voltage, m_base);
    }

    QuestionContext& c;
    CircuitTable m_table;
    double m_voltage = 0, m_current = 0, m_base = 50; ///< of star, rms
};

} // namespace

int cage_range_solves() {
    return harmonic_price * table_fields;
}

Problems cage_speed_range(QuestionContext& c) {
    CageRange range(c);
    if (auto problems = range.prepare(); !problems.empty()) return problems;
    const auto& speeds = c.inputs.list("speeds");
    std::vector<Operation> found(speeds.size());
    auto problems = range.each(speeds.size(), [&](const CageDrive& drive, std::size_t k) -> Problems {
        auto point = drive.strongest(speeds[k]);
        if (!point) return point.problems();
        found[k] = range.with_friction(*point);
        return {};
    });
    if (!problems.empty()) return problems;
    std::vector<CageOperation> points;
    for (const Operation& o : found)
        if (o && o->point.output() >= 0 && o->point.torque > 0) points.push_back(*o);
    if (points.empty())
        return {{"--with dc_voltage", "The voltage makes no torque at any of these speeds; raise it."}};
    const auto add = [&](const char* name, const char* unit, auto value) {
        Curve curve{name, unit, "speed", "rpm", {}, {}};
        for (const CageOperation& o : points) {
            curve.x.push_back(o.point.speed / rpm);
            curve.y.push_back(value(o));
        }
        c.answer.curves.push_back(std::move(curve));
    };
    add("torque", "N.m", [](const CageOperation& o) { return o.point.torque; });
    add("power", "W", [](const CageOperation& o) { return o.point.output(); });
    for (const CageColumn& column : cage_columns) add(column.name, column.unit, column.value);
    double base = points.front().point.speed, most = 0;
    for (const CageOperation& o : points) most = std::max(most, o.point.torque);
    for (const CageOperation& o : points)
        if (o.point.torque > 0.97 * most) base = o.point.speed;
    const auto& power =
        *std::max_element(points.begin(), points.end(), [](const CageOperation& a, const CageOperation& b) {
            return a.point.output() < b.point.output();
        });
    c.answer.figures = {{"base_speed", base / rpm, "rpm"},
                        {"max_speed", points.back().point.speed / rpm, "rpm"},
                        {"max_torque", most, "N.m"},
                        {"max_power", power.point.output(), "W"},
                        {"speed_at_max_power", power.point.speed / rpm, "rpm"},
                        {"torque_at_max_speed", points.back().point.torque, "N.m"},
                        end_inductance_figure(c)};
    c.answer.sentence = fmt::format("{:.4g} N·m are there up to {:.4g} rpm; the most power is {:.4g} kW at "
                                    "{:.4g} rpm, and at {:.4g} rpm {:.4g} "
                                    "N·m are left.",
                                    most, base / rpm, power.point.output() / 1e3, power.point.speed / rpm,
                                    points.back().point.speed / rpm, points.back().point.torque) +
                        range.words();
    return {};
}

Problems cage_efficiency_map(QuestionContext& c) {
    if (aim_of(c.inputs) == Aim::LeastRipple)
        return {{"--with aim", "Least ripple is chosen for phases that are switched by position alone."}};
    CageRange range(c);
    if (auto problems = range.prepare(); !problems.empty()) return problems;
    const auto aim =
        aim_of(c.inputs) == Aim::LeastCurrent ? CageDrive::Aim::LeastCurrent : CageDrive::Aim::LeastLoss;
    const auto& speeds = c.inputs.list("speeds");
    const bool generator = c.inputs.word("quadrants") == "both";
    std::vector<Operation> strongest(speeds.size());
    auto problems = range.each(speeds.size(), [&](const CageDrive& drive, std::size_t k) -> Problems {
        auto point = drive.strongest(speeds[k]);
        if (!point) return point.problems();
        strongest[k] = *point;
        return {};
    });
    if (!problems.empty()) return problems;
    double most = 0;
    for (const Operation& o : strongest)
        if (o) most = std::max(most, o->point.torque);
    std::vector<double> torques = c.inputs.list("torques");
    if (torques.empty())
        for (int k = generator ? -even_steps : 1; k <= even_steps; ++k)
            if (k != 0) torques.push_back(most * k / even_steps);
    std::vector<std::vector<Operation>> points(torques.size(), std::vector<Operation>(speeds.size()));
    problems =
        range.each(torques.size() * speeds.size(), [&](const CageDrive& drive, std::size_t k) -> Problems {
            const std::size_t j = k / speeds.size(), i = k % speeds.size();
            if (torques[j] > 0 && strongest[i] && torques[j] > strongest[i]->point.torque * (1 + 1e-9))
                return {};
            auto point = drive.best(torques[j], speeds[i], aim);
            if (!point) return point.problems();
            points[j][i] = range.with_friction(*point);
            return {};
        });
    if (!problems.empty()) return problems;
    std::vector<double> x;
    for (double speed : speeds) x.push_back(speed / rpm);
    const CageOperation* best = nullptr;
    for (const auto& row : points)
        for (const Operation& o : row)
            if (o && o->point.efficiency() && (!best || *o->point.efficiency() > *best->point.efficiency()))
                best = &*o;
    if (!best) return {{"--with torques", "None of these torques is reached at any of these speeds."}};
    for (const CageColumn& column : cage_columns) {
        Map map{column.name, column.unit, "speed", "rpm", "torque", "N.m", x, torques, {}};
        for (const auto& row : points) {
            map.z.emplace_back();
            for (const Operation& o : row) map.z.back().push_back(o ? column.value(*o) : not_there);
        }
        c.answer.maps.push_back(std::move(map));
    }
    Curve envelope{"envelope", "N.m", "speed", "rpm", {}, {}};
    for (const Operation& o : strongest)
        if (o) {
            envelope.x.push_back(o->point.speed / rpm);
            envelope.y.push_back(o->point.torque);
        }
    c.answer.curves.push_back(std::move(envelope));
    c.answer.figures = {{"best_efficiency", *best->point.efficiency(), "1"},
                        {"speed_at_best_efficiency", best->point.speed / rpm, "rpm"},
                        {"torque_at_best_efficiency", best->point.torque, "N.m"},
                        end_inductance_figure(c)};
    c.answer.sentence =
        fmt::format("The best efficiency is {:.2f} %, at {:.4g} rpm and {:.4g} N·m.",
                    100 * *best->point.efficiency(), best->point.speed / rpm, best->point.torque) +
        range.words() + " A duty's mean is not told of cages.";
    return {};
}

} // namespace mavlo
