// What the machine does on a bridge whose switches are open: its diodes charge the link once the EMF passes it.

#include "circuit/steady.h"
#include "quantity/constants.h"
#include "question/circumstances.h"
#include "question/drive_inputs.h"
#include "question/supply_inputs.h"
#include "question/supply_run.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_diode_generation {
namespace {

constexpr int steps = 120, emf_angles = 720;

int solves(const Machine& machine, const Inputs& inputs) {
    return time_map_solves(machine, inputs) + zero_sequence_of_terminals_solves(machine);
}

/// At one speed.
struct Point {
    double speed = 0;                                 ///< rad/s
    double link = 0, torque = 0, rms = 0, copper = 0; ///< A into the link, N.m, A, W
    double diodes = 0;                                ///< W
    bool settled = true;
    /// Share of the braking power that goes neither into the link nor into copper and diodes.
    double unaccounted(double dc) const {
        const double braking = -torque * speed;
        return braking > 0 ? std::abs(braking - link * dc - copper - diodes) / braking : 0;
    }
};

class OnDiodes {
  public:
    OnDiodes(QuestionContext& context, GridMaps maps, double common)
        : c(context)
        , m_mean(std::move(maps.mean))
        , m_machine(std::move(maps.position), given_end_inductance(context), common, context.machine)
        , m_resistance(given_resistance(context)) {
        for (int k = 0; k < emf_angles; ++k) {
            const PhaseState s = m_machine.at(2 * pi * k / emf_angles, Currents::Zero());
            m_emf = std::max(m_emf, std::abs(s.slope[0] - s.slope[1]));
        }
    }

    /// Peak between two terminals without current, V.
    double line_emf(double speed) const { return m_emf * c.machine.pole_pairs() * speed; }
    /// rad/s at which two diodes begin to conduct.
    double onset() const {
        return (c.input("dc_voltage") + 2 * c.input("diode_drop")) / (m_emf * c.machine.pole_pairs());
    }
    double beyond() const { return m_beyond; }
    const FluxMap& mean() const { return m_mean; }

    Result<Point> at(double speed) {
        Point point{speed};
        if (speed <= onset()) return point;
        SupplySettings settings = supply_settings(c.inputs, c.machine.pole_pairs() * speed);
        auto supply = registry<SupplyKind>().find("rectifier")->make(settings);
        if (!supply) return supply.problems();
        const auto run =
            find_steady(m_machine, settings.clock, (*supply)->copy(), circuit_options(c, steps), {});
        if (!run) return run.problems();
        const WindowFigures f = window_figures(*run, (*supply)->bridge(), m_resistance);
        point.link = -f.dc_current_mean;
        point.torque = f.torque_mean;
        point.rms = f.current_rms[0];
        point.copper = f.copper;
        point.diodes = f.switches + f.diodes;
        point.settled = run->periodic;
        m_beyond = std::max(m_beyond, run_beyond_map(m_mean, *run));
        return point;
    }

  private:
    QuestionContext& c;
    FluxMap m_mean;
    MachineOnTerminals m_machine;
    double m_resistance, m_emf = 0, m_beyond = 0;
};

void tell(QuestionContext& c, const OnDiodes& machine, const std::vector<Point>& points) {
    struct Column {
        const char *name, *unit;
        double (*value)(const Point&, double dc);
    };
    constexpr Column columns[] = {
        {"link_current", "A", [](const Point& p, double) { return p.link; }},
        {"braking_torque", "N.m", [](const Point& p, double) { return p.torque; }},
        {"current", "A", [](const Point& p, double) { return p.rms; }},
        {"link_power", "W", [](const Point& p, double dc) { return p.link * dc; }},
    };
    const double dc = c.input("dc_voltage");
    for (const Column& column : columns) {
        Curve curve{column.name, column.unit, "speed", "rpm", {}, {}};
        for (const Point& p : points) {
            curve.x.push_back(p.speed / rpm);
            curve.y.push_back(column.value(p, dc));
        }
        c.answer.curves.push_back(std::move(curve));
    }
    Curve emf{"line_emf_peak", "V", "speed", "rpm", {}, {}};
    for (const Point& p : points) {
        emf.x.push_back(p.speed / rpm);
        emf.y.push_back(machine.line_emf(p.speed));
    }
    c.answer.curves.push_back(std::move(emf));
    const auto most = [&](auto less) { return *std::max_element(points.begin(), points.end(), less); };
    const Point power = most([](const Point&a, const Point&b) { return a.link < b.link; }),
                brake = most([](const Point&a, const Point&b) { return a.torque > b.torque; }),
                current = most([](const Point&a, const Point&b) { return a.rms < b.rms; });
    double unaccounted = 0;
    for (const Point& p : points) unaccounted = std::max(unaccounted, p.unaccounted(dc));
    c.answer.figures = {{"generation_speed", machine.onset() / rpm, "rpm"},
                        {"link_current_most", power.link, "A"},
                        {"link_power_most", power.link * dc, "W"},
                        {"speed_at_most_link_power", power.speed / rpm, "rpm"},
                        {"braking_torque_most", brake.torque, "N.m"},
                        {"speed_at_most_braking", brake.speed / rpm, "rpm"},
                        {"current_rms", current.rms, "A"},
                        {"line_emf_at_max_speed", machine.line_emf(points.back().speed), "V"},
                        {"power_unaccounted", unaccounted, "1"},
                        end_inductance_figure(c)};
    const double first = machine.onset() / rpm;
    c.answer.sentence =
        power.link > 0
            ? fmt::format(
                  "With all switches open the diodes charge a link of {:.4g} V from {:.4g} rpm on: up to "
                  "{:.4g} A ({:.4g} kW) at {:.4g} rpm, braking with up to {:.4g} N·m; a phase carries up "
                  "to {:.4g} A rms.",
                  dc, first, power.link, power.link * dc / 1e3, power.speed / rpm, -brake.torque, current.rms)
            : fmt::format("With all switches open the EMF between terminals reaches {:.4g} V at {:.4g} rpm and "
                          "charges no link of {:.4g} V; that begins at {:.4g} rpm.",
                          machine.line_emf(points.back().speed), points.back().speed / rpm, dc, first);
}

Problems run(QuestionContext& c) {
    if (auto problems = terminal_problems(c.machine); !problems.empty()) return problems;
    if (c.input("dc_voltage") <= 0)
        return {{"--with dc_voltage", "The link's voltage is wanted, above 0 V: it stands against the EMF."}};
    auto map = time_map(c);
    if (!map) return map.problems();
    const auto common = zero_sequence_of_terminals(c);
    if (!common) return common.problems();
    OnDiodes machine(c, std::move(*map), *common);
    std::vector<Point> points;
    bool settled = true;
    for (double speed : c.inputs.list("speeds")) {
        if (speed <= 0) continue;
        auto point = machine.at(speed);
        if (c.watch.stop.stop_requested()) return {stopped()};
        if (!point) return point.problems();
        settled = settled && point->settled;
        points.push_back(*point);
    }
    if (points.empty()) return {{"--with speeds", "Speeds above 0 rpm are wanted."}};
    tell(c, machine, points);
    std::string& out = c.answer.sentence;
    if (!settled) out += " At some speeds the currents found no steady state: their last periods are shown.";
    out = joined_sentences(out, beyond_map_in_words(machine.mean(), machine.beyond()));
    out += " The link's voltage is taken as fixed; torque is the gap's. By the flux map: iron loss and eddy "
           "currents "
           "are left out. " +
           conditions_in_words(c.machine);
    return {};
}

std::vector<QuestionInput> inputs() {
    QuestionInput speeds = list_input("speeds", "Speeds", "rpm", "5:150:5 %",
                                      "from:to:step in rpm, or % of the largest speed.", 0, 500000);
    speeds.percent_of = "rating.max_speed";
    constexpr std::string_view taken[] = {"diode_drop", "diode_resistance"};
    std::vector<QuestionInput> all{
        speeds, {"dc_voltage", "DC voltage", "V", "= rating.dc_voltage", "Of the link; it is held.", 0, 1e6}};
    for (const QuestionInput& input : valve_inputs())
        if (std::find(std::begin(taken), std::end(taken), input.key) != std::end(taken)) all.push_back(input);
    for (auto& list : {winding_inputs(), time_map_inputs()}) all.insert(all.end(), list.begin(), list.end());
    return all;
}

const RegisterQuestion registered{
    {"diode-generation",
     "Drive",
     "Generation through the diodes",
     "Link current and braking torque over speed with all switches open: uncontrolled generation.",
     inputs(),
     solves,
     run,
     93,
     {need_winding, need_magnets, need_three_phases, need_no_shell, need_dq_frame},
     false,
     true}};

} // namespace
} // namespace mavlo::question_diode_generation
