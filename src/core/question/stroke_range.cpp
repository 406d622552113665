#include "question/stroke_range.h"

#include "map/stroke_planner.h"
#include "quantity/constants.h"
#include "question/best_efficiency.h"
#include "question/drive_inputs.h"
#include "question/duty.h"
#include "question/period.h"
#include "question/range_columns.h"
#include "question/stroke_setup.h"
#include "question/supply_inputs.h"
#include "question/unknown_losses.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int iron_points = 48, torque_steps = 20;

constexpr RangeColumn<StrokePoint> further_columns[] = {
    {"loss_mechanical", "W", [](const StrokePoint& p) { return p.power.mechanical(); }},
    {"turn_on", "deg", [](const StrokePoint& p) { return p.turn_on * 180 / pi; }},
    {"turn_off", "deg", [](const StrokePoint& p) { return p.turn_off * 180 / pi; }},
    {"chop_current", "A", [](const StrokePoint& p) { return p.chop; }},
    {"current_rms", "A", [](const StrokePoint& p) { return p.current_rms; }},
    {"current_peak", "A", [](const StrokePoint& p) { return p.current_peak; }},
    {"torque_ripple", "N.m", [](const StrokePoint& p) { return p.ripple; }},
};

/// What plans need: the machine's map up to the largest current, and its iron by the rated stroke's fields.
struct Planning {
    LinkageMap map;
    StrokeDrive drive;
    StrokeIron iron;
};

Result<Planning> prepare(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const Machine& m = c.machine;
    StrokeDrive drive;
    drive.bridge.dc = c.input("dc_voltage");
    drive.phases = m.winding.phases;
    drive.periods = m.pole_pairs();
    drive.resistance = machine_conductor(m).resistance;
    drive.inductance = given_end_inductance(c);
    drive.speed = std::max(m.rating.speed, 1e-2 * m.rating.max_speed);
    drive.stroke.turn_on = m.rating.turn_on;
    drive.stroke.turn_off = m.rating.turn_off;
    drive.stroke.chopping = Chopping::Soft;
    const double most = c.input("max_current"), rated = std::min(most, std::max(m.rating.current, 0.1 * most));
    drive.stroke.low = 0.96 * rated;
    drive.stroke.high = 1.04 * rated;
    drive.stop = [stop = c.watch.stop] { return stop.stop_requested(); };
    auto map = linkage_map(c, *model, most);
    if (!map) return map.problems();
    const auto period = run_strokes(*map, drive);
    if (c.watch.stop.stop_requested()) return stopped();
    if (!period) return period.problems();
    const auto fields = stroke_fields(c, *model, *period, iron_points);
    if (!fields) return fields.problems();
    return Planning{std::move(*map), drive, StrokeIron(*period, fields->losses)};
}

StrokePlanner planner_of(const QuestionContext& c, const Planning& planning, Aim aim) {
    return {c.machine, planning.map, planning.drive, planning.iron, c.input("max_current"), aim};
}

/// f(k) for each of `count` on the context's threads, unless it is stopped.
template <typename F>
Problems each(const QuestionContext& c, std::size_t count, const F& f) {
    on_threads(int(count), c.threads, [&](int k) {
        if (!c.watch.stop.stop_requested()) f(std::size_t(k));
    });
    if (c.watch.stop.stop_requested()) return {stopped()};
    return {};
}

/// A rotor that stands has no strokes in time: the slowest is a hundredth of the rated speed.
double moving(const Machine& machine, double speed) {
    return std::max(speed, 0.01 * std::max(machine.rating.speed, 1.0));
}

Curve over_speed(const std::string& name, const std::string& unit) {
    return {name, unit, "speed", "rpm", {}, {}};
}

constexpr const char* left_out =
    " By the map of one phase, currents held without ripple: what phases link of each "
    "other is left out; iron loss in proportion to the rated stroke's fields.";

class EfficiencyMap {
  public:
    EfficiencyMap(QuestionContext& context, const StrokePlanner& planner)
        : c(context)
        , m_planner(planner)
        , m_speeds(c.inputs.list("speeds"))
        , m_torques(c.inputs.list("torques"))
        , m_generator(c.inputs.word("quadrants") == "both") {}

    Problems run() {
        m_plans.resize(2 * m_speeds.size());
        if (auto problems = each(c, m_plans.size(), [&](std::size_t k) { plan(k); }); !problems.empty())
            return problems;
        if (m_torques.empty()) even_torques();
        m_points.assign(m_torques.size(), std::vector<std::optional<StrokePoint>>(m_speeds.size()));
        auto problems = each(c, m_torques.size() * m_speeds.size(), [&](std::size_t k) {
            const std::size_t j = k / m_speeds.size(), i = k % m_speeds.size();
            m_points[j][i] = best(m_torques[j], i);
        });
        if (!problems.empty()) return problems;
        maps();
        envelopes();
        return figures();
    }

  private:
    void plan(std::size_t k) {
        const int sign = k < m_speeds.size() ? 1 : -1;
        if (sign < 0 && !m_generator) return;
        m_plans[k] = m_planner.plan(moving(c.machine, m_speeds[k % m_speeds.size()]), sign);
    }
    std::optional<StrokePoint> best(double torque, std::size_t speed) const {
        if (torque == 0) return std::nullopt;
        return m_planner.best(m_plans[torque > 0 ? speed : m_speeds.size() + speed], torque);
    }
    void even_torques() {
        double most = 0;
        for (std::size_t i = 0; i < m_speeds.size(); ++i)
            if (const auto p = m_planner.strongest(m_plans[i], 1)) most = std::max(most, p->torque);
        for (int k = m_generator ? -torque_steps : 1; k <= torque_steps; ++k)
            if (k != 0) m_torques.push_back(most * k / torque_steps);
    }
    void maps() {
        std::vector<double> x;
        for (double speed : m_speeds) x.push_back(speed / rpm);
        const auto add = [&](const RangeColumn<StrokePoint>& column) {
            Map map{column.name, column.unit, "speed", "rpm", "torque", "N.m", x, m_torques, {}};
            for (const auto& row : m_points) {
                map.z.emplace_back();
                for (const auto& p : row) map.z.back().push_back(p ? column.value(*p) : nothing);
            }
            c.answer.maps.push_back(std::move(map));
        };
        for (const auto& column : loss_columns<StrokePoint>) add(column);
        for (const auto& column : further_columns) add(column);
    }
    void envelopes() {
        for (int sign : {1, -1}) {
            if (sign < 0 && !m_generator) continue;
            Curve curve = over_speed(sign > 0 ? "envelope" : "envelope_generator", "N.m");
            for (std::size_t i = 0; i < m_speeds.size(); ++i)
                if (const auto p = m_planner.strongest(m_plans[sign > 0 ? i : m_speeds.size() + i], sign)) {
                    curve.x.push_back(m_speeds[i] / rpm);
                    curve.y.push_back(p->torque);
                }
            c.answer.curves.push_back(std::move(curve));
        }
    }
    Problems figures() {
        std::vector<OperatingPoint> reached;
        for (const auto& row : m_points)
            for (const auto& p : row)
                if (p) reached.push_back(*p);
        if (auto problems = tell_best_efficiency(c, reached); !problems.empty()) return problems;
        const auto at = [&](double torque, double speed) -> std::optional<OperatingPoint> {
            const StrokePlan plan = m_planner.plan(moving(c.machine, speed), torque < 0 ? -1 : 1);
            const auto point = m_planner.best(plan, torque);
            return point ? std::optional<OperatingPoint>(*point) : std::nullopt;
        };
        if (auto problems = add_duty(c, at); !problems.empty()) return problems;
        c.answer.sentence += left_out;
        tell_unknown_losses(c);
        return {};
    }

    QuestionContext& c;
    const StrokePlanner& m_planner;
    const std::vector<double>& m_speeds;
    std::vector<double> m_torques;
    bool m_generator;
    std::vector<StrokePlan> m_plans; ///< motor at every speed, then generator
    std::vector<std::vector<std::optional<StrokePoint>>> m_points;
};

} // namespace

int switched_solves(const Machine& machine, const Inputs& inputs) {
    return linkage_map_solves(machine, inputs) + period_solves(machine, iron_points);
}

Problems switched_efficiency_map(QuestionContext& c) {
    const auto planning = prepare(c);
    if (!planning) return planning.problems();
    const StrokePlanner planner = planner_of(c, *planning, aim_of(c.inputs));
    return EfficiencyMap(c, planner).run();
}

Problems switched_speed_range(QuestionContext& c) {
    const auto planning = prepare(c);
    if (!planning) return planning.problems();
    const StrokePlanner planner = planner_of(c, *planning, Aim::LeastLoss);
    const auto& speeds = c.inputs.list("speeds");
    std::vector<std::optional<StrokePoint>> points(speeds.size());
    auto problems = each(c, speeds.size(), [&](std::size_t k) {
        points[k] = planner.strongest(planner.plan(moving(c.machine, speeds[k]), 1), 1);
    });
    if (!problems.empty()) return problems;
    std::vector<StrokePoint> found;
    for (const auto& p : points)
        if (p) found.push_back(*p);
    if (found.empty())
        return {{"--with dc_voltage", "No stroke pulls at any of these speeds; raise the voltage."}};
    const auto add = [&](const char* name, const char* unit, auto value) {
        Curve curve = over_speed(name, unit);
        for (const StrokePoint& p : found) {
            curve.x.push_back(p.speed / rpm);
            curve.y.push_back(value(p));
        }
        c.answer.curves.push_back(std::move(curve));
    };
    add("torque", "N.m", [](const StrokePoint& p) { return p.torque; });
    add("power", "W", [](const StrokePoint& p) { return p.power.shaft().value_or(nothing); });
    for (const auto& column : loss_columns<StrokePoint>) add(column.name, column.unit, column.value);
    for (const auto& column : further_columns) add(column.name, column.unit, column.value);
    const auto by_power = [](const StrokePoint& a, const StrokePoint& b) {
        return a.power.known_shaft() < b.power.known_shaft();
    };
    const StrokePoint& power = *std::max_element(found.begin(), found.end(), by_power);
    double base = found.front().speed, most = 0;
    for (const StrokePoint& p : found) most = std::max(most, p.torque);
    for (const StrokePoint& p : found)
        if (p.torque > 0.97 * most) base = p.speed;
    c.answer.figures = {{"base_speed", base / rpm, "rpm"},
                        {"max_speed", found.back().speed / rpm, "rpm"},
                        {"max_torque", most, "N.m"},
                        {"max_power", power.power.shaft(), "W"},
                        {"speed_at_max_power", power.speed / rpm, "rpm"},
                        {"torque_at_max_speed", found.back().torque, "N.m"}};
    c.answer.sentence =
        fmt::format("{:.4g} N·m are there up to {:.4g} rpm; the most power is {}{:.4g} W at {:.4g} rpm, "
                    "and at {:.4g} rpm {:.4g} N·m are left.",
                    most, base / rpm, power.power.shaft() ? "" : "at most ", power.power.known_shaft(),
                    power.speed / rpm, found.back().speed / rpm, found.back().torque) +
        left_out;
    tell_unknown_losses(c);
    return {};
}

} // namespace mavlo
