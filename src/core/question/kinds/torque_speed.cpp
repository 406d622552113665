// Torque, current, power and efficiency over speed on a bridge of given voltage, for several voltages and
// leads.

#include "circuit/steady.h"
#include "quantity/constants.h"
#include "question/found_supply.h"
#include "question/supply_run.h"
#include "question/time_answer.h"
#include "question/unknown_losses.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_torque_speed {
namespace {

constexpr int steps = 120; ///< a period at least

/// One point of a characteristic.
struct Point {
    double speed, torque, current, shaft;
    std::optional<double> efficiency; ///< empty where it gives nothing out, or a loss is not known
};

int solves(const Machine& machine, const Inputs& inputs) {
    return time_map_solves(machine, inputs) + zero_sequence_of_terminals_solves(machine);
}

class Characteristic {
  public:
    Characteristic(QuestionContext& context, GridMaps maps, double zero_sequence)
        : c(context)
        , m_map(std::move(maps.mean))
        , m_machine(std::move(maps.position), given_end_inductance(context), zero_sequence, context.machine)
        , m_resistance(given_resistance(context)) {}

    Result<std::vector<Point>> run(double voltage, double lead) {
        std::vector<Point> points;
        for (double speed : c.inputs.list("speeds")) {
            if (c.watch.stop.stop_requested()) return stopped();
            if (speed <= 0) continue;
            auto point = at(speed, voltage, lead);
            if (!point) return point.problems();
            points.push_back(*point);
        }
        return points;
    }

    /// The largest share of a power that is not accounted for, of points whose efficiency is left open for
    /// that.
    double disagreement() const { return m_disagreement; }
    /// Some loss is not known.
    bool is_open() const { return !unknown_losses(c.machine).empty() || !m_map.unknown().empty(); }

  private:
    Result<Point> at(double speed, double voltage, double lead) {
        SupplySettings settings = supply_settings(c.inputs, c.machine.pole_pairs() * speed);
        settings.bridge.dc = voltage;
        settings.lead = settings.voltage_angle = lead;
        auto supply = given_supply(c, settings);
        if (!supply) return supply.problems();
        SteadyOptions steady;
        steady.band = settings.band;
        const auto run =
            find_steady(m_machine, settings.clock, (*supply)->copy(), circuit_options(c, steps), steady);
        if (!run) return run.problems();
        const WindowFigures f = window_figures(*run, (*supply)->bridge(), m_resistance);
        const Balance b = balance(*run, f, speed);
        const double devices = f.switches + f.diodes;
        if (disagrees(b, devices)) m_disagreement = std::max(m_disagreement, std::abs(b.unaccounted(devices)));
        return Point{speed, b.known_shaft() / speed, f.current_rms[0], b.known_shaft(),
                     disagrees(b, devices) ? std::nullopt : b.efficiency()};
    }

    Balance balance(const SteadyRun& run, const WindowFigures& f, double speed) const {
        const FluxPoint point = m_map.at(fundamental_current(run));
        FieldLosses losses;
        losses.stator = point.iron_stator;
        losses.rotor = point.iron_rotor;
        losses.magnets = point.magnets;
        const CopperLoss copper = copper_in_time(
            c.machine, phase_waves(run), m_resistance, f.copper, electrical_frequency(c.machine, speed),
            m_map.knows_strands() ? std::optional(point.strands) : std::nullopt);
        Balance b = balance_of(c.machine, losses, copper, speed, f.torque_mean, f.input_power);
        b.unknown.add(m_map.unknown());
        return b;
    }

    QuestionContext& c;
    FluxMap m_map;
    MachineOnTerminals m_machine;
    double m_resistance, m_disagreement = 0;
};

/// Where a curve passes zero downwards, straight between its points; beyond the last two it goes on for at most
/// as far as they are apart.
std::optional<double> zero_of(const std::vector<Point>& points) {
    for (std::size_t k = 1; k < points.size(); ++k) {
        const Point &a = points[k - 1], &b = points[k];
        if (a.torque > 0 && b.torque <= 0)
            return a.speed + (b.speed - a.speed) * a.torque / (a.torque - b.torque);
    }
    return std::nullopt;
}

/// `open`: some loss is not known.
void tell(QuestionContext& c, const std::vector<std::vector<Point>>& all, const std::vector<std::string>& names,
          bool open) {
    const std::vector<Point>& first = all.front();
    double power = 0;
    std::optional<double> efficiency;
    for (const auto& points : all)
        for (const Point& p : points) {
            power = std::max(power, p.shaft);
            if (p.efficiency) efficiency = std::max(efficiency.value_or(0), *p.efficiency);
        }
    const auto no_load = zero_of(first);
    // At standstill as the first two points let expect.
    std::optional<double> stall;
    if (first.size() > 1) {
        const Point &a = first[0], &b = first[1];
        stall = a.torque - a.speed * (b.torque - a.torque) / (b.speed - a.speed);
    }
    c.answer.figures = {{"no_load_speed", no_load ? std::optional(*no_load * 30 / pi) : std::nullopt, "rpm"},
                        {"stall_torque", stall, "N.m"},
                        {"max_power", open ? std::nullopt : std::optional(power), "W"},
                        {"best_efficiency", efficiency, "1"},
                        end_inductance_figure(c)};
    struct Column {
        const char *name, *unit;
        std::optional<double> (*value)(const Point&);
    };
    for (const Column& column :
         {Column{"torque", "N.m", [](const Point& p) { return std::optional(p.torque); }},
          {"current", "A", [](const Point& p) { return std::optional(p.current); }},
          {"power", "W", [](const Point& p) { return std::optional(p.shaft); }},
          {"efficiency", "1", [](const Point& p) { return p.efficiency; }}})
        for (std::size_t k = 0; k < all.size(); ++k) {
            Curve curve{all.size() == 1 ? column.name : fmt::format("{}_at_{}", column.name, names[k]),
                        column.unit,
                        "speed",
                        "rpm",
                        {},
                        {}};
            for (const Point& p : all[k]) {
                const auto value = column.value(p);
                if (!value) continue;
                curve.x.push_back(p.speed * 30 / pi);
                curve.y.push_back(*value);
            }
            c.answer.curves.push_back(std::move(curve));
        }
    std::string words = names.front();
    std::replace(words.begin(), words.end(), '_', ' ');
    c.answer.sentence = fmt::format(
        "At {} the shaft has {:.4g} N·m at the lowest speed{}; over all it gives up to {:.4g} W{}. {}", words,
        first.front().torque, no_load ? fmt::format(" and none at {:.4g} rpm", *no_load * 30 / pi) : "", power,
        efficiency ? fmt::format(" at up to {:.1f} % efficiency", 100 * *efficiency) : "", map_leaves_out(c));
    c.answer.sentence +=
        " Iron and magnets lose as with a sine of the same fundamental: what the harmonics of these "
        "currents add is not in them.";
    if (open) c.answer.sentence += " What is not known brakes not yet in torque and power.";
    tell_unknown_losses(c);
}

/// rad: none where there is an EMF to be in phase with.
Result<double> standard_lead(const QuestionContext& c, const FluxMap& map) {
    if (c.machine.facts().magnets) return 0.0;
    if (c.inputs.word("supply") != "blocks")
        return Problem{"--with lead",
                       "Without magnets there is no EMF that six-step voltages could be in phase "
                       "with: give the lead ahead of +q."};
    return lead_of_blocks(c, map);
}

Problems run(QuestionContext& c) {
    if (auto problems = terminal_problems(c.machine); !problems.empty()) return problems;
    std::vector<double> voltages = c.inputs.list("dc_voltage"), leads = c.inputs.list("lead");
    if (voltages.empty()) voltages = {c.machine.rating.dc_voltage};
    auto map = time_map(c);
    if (!map) return map.problems();
    if (leads.empty()) {
        const auto lead = standard_lead(c, map->mean);
        if (!lead) return lead.problems();
        leads = {*lead};
    }
    const auto zero_sequence = zero_sequence_of_terminals(c);
    if (!zero_sequence) return zero_sequence.problems();
    Characteristic characteristic(c, std::move(*map), *zero_sequence);
    std::vector<std::vector<Point>> all;
    std::vector<std::string> names;
    for (double voltage : voltages)
        for (double lead : leads) {
            auto points = characteristic.run(voltage, lead);
            if (!points) return points.problems();
            if (points->empty()) return {{"--with speeds", "Speeds above 0 rpm are wanted."}};
            all.push_back(std::move(*points));
            names.push_back(fmt::format("{:g}_V_{:g}_deg", voltage, lead * 180 / pi));
        }
    tell(c, all, names, characteristic.is_open());
    if (characteristic.disagreement() > 0)
        c.answer.sentence +=
            fmt::format(" Where up to {:.2g} % of the power is not accounted for the efficiency is "
                        "left open; take more steps of the map.",
                        100 * characteristic.disagreement());
    return {};
}

std::vector<QuestionInput> inputs() {
    QuestionInput voltages{"dc_voltage", "DC voltages", "V", "auto", "Of the link; auto: the rating's.", 1e-3,
                           1e6};
    QuestionInput leads{
        "lead",
        "Leads (electrical)",
        "deg",
        "auto",
        "Ahead of the no-load EMF; one curve each. Auto: none, or of blocks without an EMF the axis of most "
        "torque.",
        -180,
        180};
    QuestionInput speeds{
        "speeds", "Speeds", "rpm", "5:100:5 %", "from:to:step in rpm, or % of the largest speed.", 0, 500000};
    for (QuestionInput* list : {&voltages, &leads, &speeds}) list->kind = InputKind::List;
    voltages.auto_allowed = leads.auto_allowed = true;
    leads.any_order = true;
    speeds.percent_of = "rating.max_speed";
    // Of what supplies take, what blocks and six-step need.
    constexpr std::string_view taken[] = {"chop_current", "band",
                                          "chop",         "dead_time",
                                          "switch_drop",  "switch_resistance",
                                          "diode_drop",   "diode_resistance",
                                          "resistance",   "end_inductance",
                                          "map_steps"};
    std::vector<QuestionInput> all{
        choice_input("supply", "Supply", {"blocks", "six-step"}, "What feeds the machine."), voltages, leads,
        speeds};
    for (auto& list : {supply_inputs(), winding_inputs(), time_map_inputs()})
        for (const QuestionInput& input : list)
            if (std::find(std::begin(taken), std::end(taken), input.key) != std::end(taken))
                all.push_back(input);
    return all;
}

const RegisterQuestion registered{
    {"torque-speed",
     "Drive",
     "Torque over speed on a bridge",
     "Torque, current, power and efficiency over speed, one curve a voltage and lead.",
     inputs(),
     solves,
     run,
     91,
     {need_winding, need_three_phases, need_no_shell, need_dq_frame},
     false,
     true}};

} // namespace
} // namespace mavlo::question_torque_speed
