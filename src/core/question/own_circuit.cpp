#include "question/own_circuit.h"

#include "circuit/netlist.h"
#include "figure/balance.h"
#include "figure/stack_losses.h"
#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "question/growing_curves.h"
#include "question/period.h"
#include "question/run_record.h"
#include "question/supply_inputs.h"
#include "question/unknown_losses.h"
#include "transient/network_field.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace mavlo {
namespace {

using NetworkValue = std::function<double(const NetworkSample&)>;

/// Load torque over the speed, as the inputs give it at rated speed.
std::function<double(double)> load_of(const QuestionContext& c) {
    const double torque = c.input("load_torque"), rated = std::max(1e-9, c.machine.rating.speed),
                 friction = c.machine.friction_torque;
    const std::string& form = c.inputs.word("load_form");
    const int power = form == "constant" ? 0 : form == "linear" ? 1 : 2;
    return [=](double speed) {
        const double share = std::pow(std::abs(speed) / rated, power);
        // Friction works against the motion, and not where there is none.
        return torque * share + friction * std::clamp(speed / (1e-3 * rated), -1.0, 1.0);
    };
}

/// The speed over time, electrical, as it is written.
Result<SpeedProfile> profile_of(const QuestionContext& c) {
    SpeedProfile profile;
    const std::string path = "--with speed_over_time";
    std::string_view rest = c.inputs.word("speed_over_time");
    while (!trim(rest).empty()) {
        const auto comma = rest.find(',');
        const std::string_view entry = trim(rest.substr(0, comma));
        rest = comma == std::string_view::npos ? std::string_view() : rest.substr(comma + 1);
        const auto equals = entry.find('=');
        const auto time = parse_quantity(entry.substr(0, equals)),
                   speed = parse_quantity(equals == std::string_view::npos ? entry : entry.substr(equals + 1));
        if (equals == std::string_view::npos || !time || !speed || time->dimension != dimension::time ||
            speed->dimension != dimension::speed)
            return Problem{path, fmt::format("\"{}\" is no time with a speed, such as 0.2 s=1200 rpm.", entry)};
        if (time->si < 0 || (!profile.points.empty() && time->si <= profile.points.back().t))
            return Problem{
                path, fmt::format("The times rise from 0 on; {} does not.", trim(entry.substr(0, equals)))};
        profile.points.push_back({time->si, c.machine.pole_pairs() * speed->si});
    }
    return profile;
}

bool has_profile(const QuestionContext& c) {
    return !trim(c.inputs.word("speed_over_time")).empty();
}

/// The first periods are shown: they are asked for, or nothing holds the speed to a steady state.
bool from_start(const QuestionContext& c) {
    return c.inputs.word("state") == "start" || c.input("inertia") > 0 || has_profile(c);
}

/// The one named, or the first.
std::string circuit_name(const QuestionContext& c) {
    const std::string& name = c.inputs.word("circuit");
    const auto& circuits = c.machine.values.circuits();
    return name.empty() && !circuits.empty() ? circuits.begin()->first : name;
}

/// Electrical, rad/s.
double rotor_speed(const QuestionContext& c) {
    return c.machine.pole_pairs() * c.input("speed");
}

/// Hz: what is given, or in step with the rotor.
double own_frequency(const QuestionContext& c) {
    const double given = c.input("frequency");
    return std::isnan(given) ? rotor_speed(c) / (2 * pi) : given;
}

/// What only fields tell.
struct SeenLosses {
    IronInTime::Losses iron;
    std::optional<double> strands; ///< FieldLosses::strands
};

class Teller {
  public:
    Teller(QuestionContext& context, const Network& network, const NetworkWindow& window, double start,
           const std::optional<SeenLosses>& seen = {})
        : c(context)
        , m_network(network)
        , m_window(window)
        , m_samples(window.samples)
        , m_start(start)
        , m_seen(seen) {}

    void tell(const std::string& left_out) {
        powers();
        figures();
        curves();
        sentence(left_out);
    }

  private:
    double power_of(std::size_t k) const {
        const Element& e = m_network.elements[k];
        return window_mean(
            m_samples, [&](const NetworkSample& s) { return voltage_across(s, e); },
            [&](const NetworkSample& s) { return s.current[Eigen::Index(k)]; });
    }
    NetworkValue current(std::size_t k) const {
        return [k](const NetworkSample& s) { return s.current[Eigen::Index(k)]; };
    }

    void powers() {
        for (std::size_t k = 0; k < m_network.elements.size(); ++k) {
            const Element& e = m_network.elements[k];
            if (e.kind == Element::VoltageSource || e.kind == Element::CurrentSource) m_input -= power_of(k);
            if (e.kind == Element::Resistor) m_resistors += power_of(k);
            if (e.kind == Element::Switch || e.kind == Element::Diode) m_valves += power_of(k);
            if (e.kind != Element::Phase) continue;
            m_copper += e.value * window_mean(m_samples, current(k), current(k));
            if (!m_first || e.phase < m_network.elements[*m_first].phase) m_first = k;
        }
        m_mechanical = window_mean(
            m_samples, [](const NetworkSample& s) { return s.torque; },
            [&](const NetworkSample& s) { return s.rotor.omega / c.machine.pole_pairs(); });
    }

    bool knows_strands() const { return repeats() && m_seen && m_seen->strands; }
    /// Whether the window's currents are made of waves of its frequency.
    bool repeats() const { return m_window.periodic && !from_start(c); }

    CopperLoss copper() const {
        if (!repeats()) return {m_copper, m_copper};
        const double f = own_frequency(c);
        std::vector<double> watts(std::size_t(StrandsInTime::orders) + 1, 0.0);
        for (std::size_t k = 0; k < m_network.elements.size(); ++k) {
            const Element& e = m_network.elements[k];
            for (int n = 1; e.kind == Element::Phase && n <= StrandsInTime::orders; ++n)
                watts[std::size_t(n)] +=
                    e.value / 2 * std::norm(window_harmonic(m_samples, 2 * pi * f, n, current(k)));
        }
        return copper_loss(AcResistance(c.machine), m_copper, watts, f, m_seen ? m_seen->strands : std::nullopt,
                           false);
    }

    void figures() {
        double low = 1e300, high = -1e300, peak = 0;
        for (const NetworkSample& s : m_samples) {
            low = std::min(low, s.torque);
            high = std::max(high, s.torque);
            if (m_first) peak = std::max(peak, std::abs(s.current[Eigen::Index(*m_first)]));
        }
        const bool steady = m_window.periodic;
        const auto known = [](bool is, double value) { return is ? std::optional(value) : std::nullopt; };
        Balance b;
        const CopperLoss winding = copper();
        b.copper_dc = winding.direct;
        b[LossPart::Copper] = winding.alternating;
        b[LossPart::WindingStray] = winding.stray;
        b.set(mechanical_loss(c.machine, m_samples.back().rotor.omega / c.machine.pole_pairs()));
        b.air_gap = m_mechanical;
        b.electrical = m_input;
        b.unknown = unknown_losses(c.machine);
        if (m_seen)
            b[LossPart::IronStator] = m_seen->iron.stator, b[LossPart::IronRotor] = m_seen->iron.rotor;
        else
            b.unknown.add({LossPart::IronStator, LossPart::IronRotor});
        // Static fields and maps show no eddy currents.
        if (c.machine.facts().magnets) b.unknown.add(LossPart::Magnets);
        c.answer.figures = {
            {"torque_mean", window_mean(m_samples, [](const NetworkSample& s) { return s.torque; }), "N.m"},
            {"torque_peak_to_peak", high - low, "N.m"},
            {"current_rms", known(m_first.has_value(), m_first ? rms_of(*m_first) : 0), "A"},
            {"current_peak", known(m_first.has_value(), peak), "A"},
            {"input_power", m_input, "W"},
            {"copper_loss", b.of(LossPart::Copper), "W"},
            {"winding_stray_loss", known(knows_strands(), winding.stray), "W"},
            {"resistor_loss", m_resistors, "W"},
            {"switch_loss", m_valves, "W"},
            {"iron_loss_stator", b.of(LossPart::IronStator), "W"},
            {"iron_loss_rotor", b.of(LossPart::IronRotor), "W"},
            {"mechanical_power", m_mechanical, "W"},
            {"efficiency", b.efficiency(), "1"},
            {"speed_at_end", m_samples.back().rotor.omega / c.machine.pole_pairs() * 30 / pi, "rpm"},
            {"periods_to_steady", known(steady, m_window.periods), "1"},
            {"power_unaccounted", known(steady, b.unaccounted(m_resistors + m_valves)), "1"}};
    }
    double rms_of(std::size_t k) const { return std::sqrt(window_mean(m_samples, current(k), current(k))); }

    void add(const std::string& name, const char* unit, const NetworkValue& value) {
        Curve curve{name, unit, "time", "s", {}, {}};
        for (const NetworkSample& s : m_samples) {
            curve.x.push_back(s.rotor.t - m_samples.front().rotor.t);
            curve.y.push_back(value(s));
        }
        c.answer.curves.push_back(std::move(curve));
    }

    void curves() {
        add("torque", "N.m", [](const NetworkSample& s) { return s.torque; });
        for (std::size_t k = 0; k < m_network.elements.size(); ++k) {
            const Element& e = m_network.elements[k];
            if (e.kind != Element::Phase) continue;
            const std::string phase = phase_suffix(std::size_t(e.phase));
            add("current_" + phase, "A", current(k));
            add("voltage_" + phase, "V", [&e](const NetworkSample& s) { return voltage_across(s, e); });
            add("flux_linkage_" + phase, "Wb", [&e](const NetworkSample& s) { return s.linkage[e.phase]; });
        }
        for (std::size_t k = 0; k < m_network.elements.size(); ++k)
            if (const Element& e = m_network.elements[k]; e.kind != Element::Phase)
                add("current_of_" + e.name, "A", current(k));
        for (std::size_t n = 1; n < m_network.nodes.size(); ++n)
            add("potential_of_" + m_network.nodes[n], "V",
                [n](const NetworkSample& s) { return s.potential[Eigen::Index(n)]; });
        add("speed", "rpm",
            [&](const NetworkSample& s) { return s.rotor.omega / c.machine.pole_pairs() * 30 / pi; });
        add("rotor_angle", "deg", [&](const NetworkSample& s) {
            return (m_start + s.rotor.angle / c.machine.pole_pairs()) * 180 / pi;
        });
    }

    void sentence(const std::string& left_out) {
        const auto torque = c.answer.figure("torque_mean");
        std::string& out = c.answer.sentence;
        out = fmt::format(
            "On the circuit {} the torque is {:.4g} N·m on average; its sources give {:.4g} W, of which "
            "{:.4g} W go into the winding's resistance, {:.4g} W into resistors and {:.4g} W into switches and "
            "diodes",
            circuit_name(c), *torque, m_input, m_copper, m_resistors, m_valves);
        out += from_start(c)       ? ". From rest."
               : m_window.periodic ? fmt::format(". Steady after {} periods.", m_window.periods)
                                   : ". No steady state was found: the last periods.";
        out += " " + left_out;
        if (!repeats())
            out +=
                " Copper has direct current's resistance: what does not repeat has no waves to tell another.";
        tell_unknown_losses(c);
    }

    QuestionContext& c;
    const Network& m_network;
    const NetworkWindow& m_window;
    const std::vector<NetworkSample>& m_samples;
    double m_start;
    double m_input = 0, m_copper = 0, m_resistors = 0, m_valves = 0, m_mechanical = 0;
    std::optional<SeenLosses> m_seen;   ///< where fields were solved
    std::optional<std::size_t> m_first; ///< the element of the first phase
};

} // namespace

std::vector<QuestionInput> own_circuit_inputs() {
    QuestionInput circuit{"circuit", "Circuit", "", "", "Name of one of the design's own circuits."};
    circuit.kind = InputKind::Word;
    QuestionInput form{"load_form", "Load over speed", "", "constant", "How the load goes with the speed."};
    form.kind = InputKind::Choice;
    form.words = {"constant", "linear", "square"};
    QuestionInput profile{"speed_over_time", "Speed over time", "", "",
                          "TIME=SPEED with commas between, e.g. \"0 s=0 rpm, 0.2 s=1200 rpm\": the rotor is "
                          "turned so, from the start; empty: the speed is held."};
    profile.kind = InputKind::Word;
    return {
        circuit,
        profile,
        {"inertia", "Inertia", "kg.m2", "0", "Of rotor and load, on an own circuit; 0: the speed is held.", 0,
         1e6},
        {"load_torque", "Load torque", "N.m", "0", "At rated speed, beside the bearings' friction.", -1e6, 1e6},
        form,
        {"field_steps", "Steps on the fields", "", "96",
         "Of an electrical period with an own circuit on fields; the circuit's own are shorter.", 24, 2000,
         true}};
}

Problems own_circuit_problems(const QuestionContext& c) {
    const auto profile = profile_of(c);
    if (!profile) return profile.problems();
    if (!profile->points.empty() && c.input("inertia") > 0)
        return {{"--with inertia",
                 "Either the rotor is turned as speed_over_time says, or it runs freely with an "
                 "inertia; leave one out."}};
    return {};
}

int own_field_solves(const Inputs& inputs) {
    constexpr int settling = 3; // periods, from where the map is steady
    return int((inputs.at("periods") + settling) * inputs.at("field_steps"));
}

Result<Network> own_circuit(const QuestionContext& c, double resistance) {
    const std::string name = circuit_name(c);
    const auto& circuits = c.machine.values.circuits();
    if (circuits.empty())
        return Problem{"circuits",
                       "The design has no circuit of its own; draw one on the bench Ask, or give one with "
                       "--set circuits.NAME=NETLIST."};
    const auto found = circuits.find(name);
    if (found == circuits.end()) {
        std::vector<std::string> names;
        for (const auto& [known, text] : circuits) names.push_back(known);
        return Problem{"--with circuit", fmt::format("There is no circuit \"{}\"; the design has {}.", name,
                                                     fmt::join(names, ", "))};
    }
    auto network = read_netlist(found->second, resistance);
    if (!network) return network;
    if (auto problems = network_problems(*network, c.machine.winding.phases); !problems.empty())
        return problems;
    return network;
}

namespace {

NetworkOptions own_options(const QuestionContext& c) {
    NetworkOptions options;
    options.rotor.start = {0, 0, rotor_speed(c), 0};
    options.rotor.pole_pairs = c.machine.pole_pairs();
    options.rotor.inertia = c.input("inertia");
    options.rotor.load = load_of(c);
    options.longest_step = 1 / (own_frequency(c) * c.input("points"));
    options.stop = stop_of(c);
    return options;
}

NetworkSteady own_steady(const QuestionContext& c) {
    NetworkSteady steady;
    steady.period = 1 / own_frequency(c);
    steady.window = int(c.input("periods"));
    steady.from_start = from_start(c);
    return steady;
}

Problems check_on_fields(const QuestionContext& c) {
    if (has_profile(c)) return {{"--with speed_over_time", "On the fields the speed is held; say method=map."}};
    if (c.input("inertia") > 0)
        return {
            {"--with inertia", "On the fields the speed is held; a run-up goes by the map: say method=map."}};
    if (rotor_speed(c) <= 0)
        return {{"--with speed", "On the fields the rotor turns: a speed above 0 rpm is wanted."}};
    if (std::abs(own_frequency(c) * 2 * pi / rotor_speed(c) - 1) > 1e-9)
        return {{"--with frequency", "On the fields the period is the rotor's: leave the frequency auto."}};
    return {};
}

/// Where the map's run stands when it has become steady.
struct Beginning {
    Eigen::VectorXd state, currents;
};

std::optional<Beginning> steady_on_map(const QuestionContext& c, const Network& network,
                                       const PortMachine* map) {
    if (!map || from_start(c)) return std::nullopt;
    NetworkRun run(network, *map, nullptr, own_options(c));
    const auto window = find_network_steady(run, own_steady(c));
    if (!window || !window->periodic) return std::nullopt;
    return Beginning{run.state(), run.phase_currents()};
}

} // namespace

Problems run_own_circuit_on_fields(QuestionContext& c, const Network& network, const PortMachine* map,
                                   double start) {
    if (auto problems = check_on_fields(c); !problems.empty()) return problems;
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const double omega = rotor_speed(c);
    NetworkFieldOptions options;
    options.start = start;
    options.pole_pairs = c.machine.pole_pairs();
    options.steps = int(c.input("field_steps"));
    options.series = given_end_inductance(c);
    options.stop = stop_of(c);
    Eigen::VectorXd currents = Eigen::VectorXd::Zero(c.machine.winding.phases);
    if (const auto begin = steady_on_map(c, network, map)) {
        options.state = begin->state;
        currents = begin->currents;
    }
    options.slices = c.machine.skew.slices();
    StackLosses losses(**model, options.slices, omega);
    bool shown = false;
    double last = 0;
    int done = 0;
    const int total = own_field_solves(c.inputs);
    GrowingCurves growing(c.watch, currents.size());
    const auto look = [&](double dt, const std::vector<FieldSolution>& fields) {
        for (std::size_t k = 0; k < fields.size(); ++k) losses.add(k, dt, fields[k]);
    };
    options.seen = [&](double angle, const std::vector<FieldSolution>& fields) {
        growing.add(angle / omega, fields.front().torque, fields.front().current);
        if (shown) look((angle - last) / omega, fields);
        last = angle;
        if (c.watch.progress) c.watch.progress(std::min(++done, total - 1), total);
    };
    RunRecord record(run_store(c));
    options.record = &record;
    NetworkField run(*model, network, nullptr, own_options(c), options);
    FieldWindow wanted{currents, int(c.input("periods"))};
    wanted.from_start = from_start(c);
    wanted.begins = [&](const std::vector<FieldSolution>& fields) {
        shown = true;
        look(0, fields);
    };
    const auto found = find_network_steady(run, wanted);
    c.answer.effort.solves += run.solves();
    c.answer.effort.newton_steps += run.newton_steps();
    if (c.watch.stop.stop_requested()) return {stopped()};
    if (!found) return found.problems();
    Teller(c, network, *found, start, SeenLosses{losses.iron({}), losses.strands({})})
        .tell("On static fields, phases coupled: eddy currents of magnets and shaft are left out.");
    c.answer.spent.files = record.finish();
    return {};
}

Problems run_own_circuit(QuestionContext& c, const Network& network, const PortMachine& machine, double start,
                         const std::string& left_out) {
    if (own_frequency(c) <= 0)
        return {{"--with speed",
                 "A speed above 0 rpm is wanted, or a frequency: the period of the run follows from "
                 "it."}};
    NetworkOptions options = own_options(c);
    NetworkSteady steady = own_steady(c);
    if (auto profile = profile_of(c); profile && !profile->points.empty()) {
        steady.window = std::max(steady.window, int(std::ceil(profile->points.back().t / steady.period)));
        options.rotor.speed = std::move(*profile);
    }
    NetworkRun run(network, machine, nullptr, options);
    const auto window = find_network_steady(run, steady);
    if (c.watch.stop.stop_requested()) return {stopped()};
    if (!window) return window.problems();
    Teller(c, network, *window, start).tell(left_out);
    return {};
}

} // namespace mavlo
