// The machine on a supply in time, by its flux map: currents, torque and voltages in the steady state or from
// the start.

#include "circuit/steady.h"
#include "circuit/supply_kind.h"
#include "figure/balance.h"
#include "map/map_machine.h"
#include "question/flux_grid.h"
#include "question/period.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;
constexpr int map_points = 36, orders = 50;
constexpr double reach = 1.6; ///< of the map, over the largest current of rating

constexpr Need need_three_phases{[](const Facts& f) { return f.phases == 3; }, "winding.phases",
                                 "Supplies feed three phases; this winding has another number."};

/// i_d on both sides of zero, since currents swing.
FluxGrid grid_of(const Machine& machine, const Inputs& inputs) {
    const double most = reach * std::max(machine.rating.max_current, machine.rating.current);
    const int steps = int(inputs.at("map_steps"));
    FluxGrid grid = standard_grid(most, steps);
    for (int k = 1; k <= steps; ++k) grid.id.push_back(most * k / steps);
    grid.points = map_points;
    return grid;
}

int solves(const Machine& machine, const Inputs& inputs) {
    const FluxGrid grid = grid_of(machine, inputs);
    return int(grid.id.size() * grid.iq.size()) * period_solves(machine, map_points);
}

Result<FluxMap> map_of(QuestionContext& c) {
    if (c.map) return *c.map;
    const FluxGrid grid = grid_of(c.machine, c.inputs);
    if (auto kept = kept_flux_map(grid, c.points)) return std::move(*kept);
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    return solve_flux_map(*model, grid, c.points, c.threads, c.watch, c.answer.effort);
}

SupplySettings settings_of(const QuestionContext& c) {
    const auto of = [&](const char* key) { return c.input(key); };
    SupplySettings s;
    s.bridge = {of("dc_voltage"), of("switch_drop"), of("switch_resistance"), of("diode_drop"),
                of("diode_resistance")};
    s.clock.omega = c.machine.pole_pairs() * of("speed");
    s.voltage = of("voltage");
    s.voltage_angle = of("voltage_angle");
    s.lead = of("lead");
    s.chop_current = of("chop_current");
    s.band = of("band");
    s.hard_chop = c.inputs.word("chop") == "hard";
    s.carrier_frequency = of("carrier_frequency");
    s.modulation = of("modulation");
    s.sampling = c.inputs.word("sampling") == "natural"   ? Sampling::Natural
                 : c.inputs.word("sampling") == "regular" ? Sampling::Symmetric
                                                          : Sampling::Asymmetric;
    s.dead_time = of("dead_time");
    s.least_interval = of("least_interval");
    s.current = of("current");
    s.advance = of("advance");
    s.shorted = int(of("shorted"));
    return s;
}

Problems check(const QuestionContext& c) {
    if (!c.machine.winding.star())
        return {{"winding.connection", "In time the machine is taken in star; set the connection to star."}};
    if (c.input("speed") <= 0)
        return {{"--with speed", "A speed above 0 rpm is wanted: the period of the run follows from it."}};
    return {};
}

using Value = std::function<double(const TransientSample&)>;

class Teller {
  public:
    Teller(QuestionContext& context, const FluxMap& map, const SteadyRun& run, const Supply& supply,
           double resistance)
        : c(context)
        , m_map(map)
        , m_run(run)
        , m_supply(supply)
        , m_resistance(resistance)
        , m_speed(context.input("speed"))
        , m_figures(window_figures(run, supply, resistance)) {}

    void tell() {
        figures();
        curves();
        spectra();
        sentence();
    }

  private:
    /// The fundamental's current vector.
    Dq fundamental() const {
        // i_U = d cos(theta) - q sin(theta) = Re((d + j q) e^{j theta}).
        const auto h = window_harmonic(m_run, 1, [](const TransientSample& s) { return s.current[0]; });
        return {h.real(), h.imag()};
    }

    /// Copper with the harmonics' own resistance.
    CopperLoss copper() const {
        const AcResistance alternating(c.machine);
        const double f = electrical_frequency(c.machine, m_speed);
        CopperLoss loss{m_figures.copper, m_figures.copper};
        for (int n = 1; n <= orders; ++n) {
            const auto h = window_harmonic(m_run, n, [](const TransientSample& s) { return s.current[0]; });
            loss.alternating += 1.5 * m_resistance * std::norm(h) * (alternating.factor(n * f) - 1);
        }
        return loss;
    }

    Balance balance() const {
        const double f = electrical_frequency(c.machine, m_speed);
        const FluxPoint point = m_map.at(fundamental());
        FieldLosses losses;
        losses.stator = point.iron_stator;
        losses.rotor = point.iron_rotor;
        Balance b =
            balance_of(c.machine, losses, copper(), m_speed, m_figures.torque_mean, m_figures.input_power);
        b.magnets = point.magnets * f * f;
        return b;
    }

    void figures() {
        const Balance b = balance();
        const Dq i = fundamental();
        const bool bridge = m_supply.bridge() != nullptr;
        const auto of_bridge = [&](double value) { return bridge ? std::optional(value) : std::nullopt; };
        const double devices = m_figures.switches + m_figures.diodes;
        c.answer.figures = {
            {"torque_mean", m_figures.torque_mean, "N.m"},
            {"torque_peak_to_peak", m_figures.torque_peak_to_peak, "N.m"},
            {"current_rms", m_figures.current_rms[0], "A"},
            {"current_peak", m_figures.current_peak, "A"},
            {"current_fundamental", std::hypot(i.d, i.q), "A"},
            {"id", i.d, "A"},
            {"iq", i.q, "A"},
            {"voltage_line_rms", m_figures.line_voltage_rms, "V"},
            {"dc_current_mean", of_bridge(m_figures.dc_current_mean), "A"},
            {"input_power", m_figures.input_power, "W"},
            {"copper_loss", b.copper, "W"},
            {"iron_loss_stator", b.iron_stator, "W"},
            {"iron_loss_rotor", b.iron_rotor, "W"},
            {"magnet_loss", b.magnets, "W"},
            {"switch_loss", of_bridge(devices), "W"},
            {"mechanical_power", b.air_gap, "W"},
            {"efficiency", b.efficiency(), "1"},
            {"switching_frequency", of_bridge(m_figures.switching_frequency), "Hz"},
            {"periods_to_steady", m_run.periodic ? std::optional(double(m_run.periods)) : std::nullopt, "1"}};
    }

    void add_curve(const std::string& name, const std::string& unit, const Value& value) {
        Curve curve{name, unit, "time", "s", {}, {}};
        const double start = m_run.window.front().t;
        for (const TransientSample& s : m_run.window) {
            curve.x.push_back(s.t - start);
            curve.y.push_back(value(s));
        }
        c.answer.curves.push_back(std::move(curve));
    }

    void curves() {
        add_curve("torque", "N.m", [](const TransientSample& s) { return s.torque; });
        for (int k = 0; k < 3; ++k)
            add_curve("current_" + phase_suffix(std::size_t(k)), "A",
                      [k](const TransientSample& s) { return s.current[k]; });
        for (int k = 0; k < 3; ++k)
            add_curve("voltage_" + phase_suffix(std::size_t(k)), "V",
                      [k](const TransientSample& s) { return s.potential[k] - s.star; });
        add_curve("voltage_uv", "V", [](const TransientSample& s) { return s.potential[0] - s.potential[1]; });
        if (m_supply.bridge()) {
            add_curve("dc_current", "A", link_current);
            for (int k = 0; k < 3; ++k)
                add_curve("gate_" + phase_suffix(std::size_t(k)), "1",
                          [k](const TransientSample& s) { return double(s.gates[std::size_t(k)]); });
        }
        // Where the rotor stands: the d axis on phase U is where the winding has its axis.
        const double zero = phase_axis(c.machine.winding.layout);
        add_curve("rotor_angle", "deg", [&](const TransientSample& s) {
            return (s.angle / c.machine.pole_pairs() + zero) * 180 / pi;
        });
    }

    void add_spectrum(const std::string& name, const std::string& unit, const Value& value) {
        Curve curve{name + "_spectrum", unit, "electrical_order", "1", {}, {}};
        for (int n = 0; n <= orders; ++n) {
            curve.x.push_back(n);
            curve.y.push_back(std::abs(window_harmonic(m_run, n, value)));
        }
        c.answer.curves.push_back(std::move(curve));
    }

    void spectra() {
        add_spectrum("torque", "N.m", [](const TransientSample& s) { return s.torque; });
        add_spectrum("current_u", "A", [](const TransientSample& s) { return s.current[0]; });
        add_spectrum("voltage_uv", "V",
                     [](const TransientSample& s) { return s.potential[0] - s.potential[1]; });
    }

    void sentence() {
        const auto efficiency = c.answer.figure("efficiency");
        c.answer.sentence = fmt::format("On {} at {:.4g} rpm the torque is {:.4g} N·m on average and wavers by "
                                        "{:.3g} N·m; a phase carries {:.4g} A "
                                        "rms",
                                        c.inputs.word("supply"), m_speed * 30 / pi, m_figures.torque_mean,
                                        m_figures.torque_peak_to_peak, m_figures.current_rms[0]);
        if (efficiency) c.answer.sentence += fmt::format(", efficiency {:.1f} %", 100 * *efficiency);
        c.answer.sentence += c.inputs.word("state") == "start" ? ". The first periods from no current."
                             : m_run.periodic ? fmt::format(". Steady after {} periods.", m_run.periods)
                                              : fmt::format(". No orbit of one period: means over {} periods.",
                                                            m_run.window_periods);
        c.answer.sentence += " By the flux map: the slots' ripple and the carrier's iron loss are left out.";
    }

    QuestionContext& c;
    const FluxMap& m_map;
    const SteadyRun& m_run;
    const Supply& m_supply;
    double m_resistance, m_speed;
    WindowFigures m_figures;
};

Problems run(QuestionContext& c) {
    if (auto problems = check(c); !problems.empty()) return problems;
    const SupplySettings settings = settings_of(c);
    auto supply = registry<SupplyKind>().find(c.inputs.word("supply"))->make(settings);
    if (!supply) return supply.problems();
    const auto map = map_of(c);
    if (!map) return map.problems();
    const MapMachine machine(*map);
    const double given = c.input("resistance");
    TransientOptions transient;
    transient.resistance = std::isnan(given) ? machine_conductor(c.machine).resistance : given;
    transient.steps = int(c.input("points"));
    transient.stop = [stop = c.watch.stop] { return stop.stop_requested(); };
    SteadyOptions steady;
    steady.window = int(c.input("periods"));
    steady.from_zero = c.inputs.word("state") == "start";
    const auto found = find_steady(machine, settings.clock, (*supply)->copy(), transient, steady);
    if (c.watch.stop.stop_requested()) return {stopped()};
    if (!found) return found.problems();
    Teller(c, *map, *found, **supply, transient.resistance).tell();
    return {};
}

QuestionInput choice(const char* key, const char* label, std::vector<std::string> words, const char* help) {
    QuestionInput input{key, label, "", words.front(), help};
    input.kind = InputKind::Choice;
    input.words = std::move(words);
    return input;
}

std::vector<QuestionInput> inputs() {
    QuestionInput supply = choice("supply", "Supply", {"sine-voltage"}, "What feeds the machine.");
    supply.more_words = [] { return registry<SupplyKind>().names(); };
    QuestionInput resistance{"resistance", "Phase resistance", "Ohm", "auto", "auto: the winding's.", 0, 1e6};
    resistance.auto_allowed = true;
    return {
        supply,
        choice("method", "Method", {"map"}, "By the flux map: quick."),
        choice("state", "State", {"steady", "start"},
               "The steady state, or the first periods from no current."),
        {"speed", "Speed", "rpm", "= rating.speed", "Speed of the shaft.", 0, 500000},
        {"periods", "Periods shown", "", "1", "Electrical periods of the answer.", 1, 200, true},
        {"points", "Steps a period", "", "360", "At least; every switching is a step of its own.", 60, 20000,
         true},
        {"voltage", "Voltage (phase, peak)", "V", "= rating.dc_voltage", "Of sinusoidal voltages.", 0, 1e6},
        {"voltage_angle", "Voltage angle (electrical)", "deg", "0",
         "Of voltages, six-step and modulation, ahead of the no-load EMF.", -360, 360},
        {"dc_voltage", "DC voltage", "V", "= rating.dc_voltage", "Of the bridge's link.", 0, 1e6},
        {"lead", "Lead (electrical)", "deg", "0", "Of blocks, ahead of the no-load EMF.", -180, 180},
        {"chop_current", "Current limit (peak)", "A", "0", "Of blocks; 0: none.", 0, 1e6},
        {"band", "Band", "A", "0", "Below the limit, or of current control about its reference.", 0, 1e6},
        choice("chop", "At the limit", {"soft", "hard"}, "The upper switch opens, or both."),
        {"current", "Current reference (peak)", "A", "= rating.current", "Of current control in a band.", 0,
         1e6},
        {"advance", "Advance (electrical)", "deg", "= rating.advance", "Of the current reference.", -360, 360},
        {"least_interval", "Least interval", "s", "0", "Between two switchings of a leg under current control.",
         0, 1},
        {"carrier_frequency", "Carrier frequency", "Hz", "8000", "Of pulse-width modulation.", 0, 1e6},
        {"modulation", "Modulation index", "", "0.8",
         "Fundamental of the phase voltage over half the link's voltage.", 0, 4},
        choice("sampling", "Sampling", {"natural", "regular", "regular-twice"},
               "Of the references: always, once or twice a carrier period."),
        {"dead_time", "Dead time", "s", "0", "Between the switches of a leg.", 0, 1},
        {"switch_drop", "Switch drop", "V", "0", "Of a switch that conducts.", 0, 100},
        {"switch_resistance", "Switch resistance", "Ohm", "0", "Of a switch that conducts.", 0, 1e3},
        {"diode_drop", "Diode drop", "V", "0", "Of a diode that conducts.", 0, 100},
        {"diode_resistance", "Diode resistance", "Ohm", "0", "Of a diode that conducts.", 0, 1e3},
        {"shorted", "Terminals joined", "", "3", "Of a short circuit: two or three.", 2, 3, true},
        resistance,
        {"map_steps", "Steps of the map", "", "6", "Of the currents on either side of zero.", 3, 60, true}};
}

const RegisterQuestion registered{
    {"in-time",
     "Drive",
     "On a supply, in time",
     "Currents, torque and voltages on a voltage, an inverter or a short circuit.",
     inputs(),
     solves,
     run,
     90,
     {need_winding, need_three_phases, need_dq_frame},
     false}};

} // namespace
} // namespace mavlo
