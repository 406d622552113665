#include "question/found_supply.h"

#include "map/drive.h"
#include "map/steady_current.h"
#include "quantity/constants.h"
#include "question/supply_run.h"

#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace mavlo {
namespace {

/// Leads of blocks that are looked at, and the steps of a period of each.
constexpr double lead_step = 5 * degree;
constexpr int leads = 17, block_steps = 120;

const SupplyKind& kind_of(const Inputs& inputs) {
    return *registry<SupplyKind>().find(inputs.word("supply"));
}

/// The most that a modulated bridge gives without leaving its linear range, or a source for the rated link.
double most_voltage(const SupplyKind& kind, const SupplySettings& s, const Machine& machine) {
    const double dc = kind.fundamental == Fundamental::Modulation ? s.bridge.dc : machine.rating.dc_voltage;
    const double most = voltage_limit(kind.rule, dc, 1, machine.winding.connection, machine.winding.phases);
    return most > 0 ? most : 1e300; // no link is rated: as much as is asked for
}

class Finder {
  public:
    Finder(const QuestionContext& context, const FluxMap& map, const SupplySettings& settings)
        : c(context)
        , m_kind(kind_of(context.inputs))
        , m_map(map.with_series_inductance(given_end_inductance(context)))
        , m_resistance(given_resistance(context))
        , m_speed(settings.clock.omega / context.machine.pole_pairs())
        , m_star(!is_delta(context.machine))
        , m_out{settings, ""} {}

    FoundSupply run() {
        if (m_kind.fundamental == Fundamental::Blocks)
            lead();
        else if (m_kind.fundamental != Fundamental::None)
            voltage();
        return std::move(m_out);
    }

  private:
    Drive drive(double voltage) const {
        const double reach = m_map.iq().back();
        return {c.machine, m_map, {reach, voltage}, Aim::LeastCurrent};
    }
    double wanted(const Drive& any) const {
        const Rating& rating = c.machine.rating;
        return rating.torque ? *rating.torque
                             : any.at(current_vector(rating.current, rating.advance), m_speed).torque;
    }

    /// With the resistance that the run has.
    Dq voltage_of(const OperatingPoint& p) const {
        const double omega = m_out.settings.clock.omega;
        return {m_resistance * p.current.d - omega * p.flux_linkage.q,
                m_resistance * p.current.q + omega * p.flux_linkage.d};
    }

    void lead() {
        double& lead = m_out.settings.lead;
        if (!std::isnan(lead)) return;
        lead = lead_of_blocks(c, m_map);
        if (c.machine.facts().magnets)
            lead_the_emf();
        else
            m_out.words = fmt::format("Without an EMF to lead, blocks lie on the axis of most torque: {:.3g}° "
                                      "ahead of +q.",
                                      lead / degree);
    }

    /// Mean torque of blocks that lead by so much, by the means of the map; not a number where no state is
    /// found.
    double torque_of_blocks(double lead) const {
        SupplySettings settings = m_out.settings;
        settings.lead = lead;
        auto supply = given_supply(c, settings);
        if (!supply) return std::nan("");
        constexpr double any = 1e-3; // H: these phases have nothing in common
        const MachineOnTerminals machine(PositionMap(m_map), 0, any, c.machine);
        SteadyOptions options;
        options.most_periods = 60;
        options.band = settings.band;
        const auto run =
            find_steady(machine, settings.clock, std::move(*supply), circuit_options(c, block_steps), options);
        return run ? window_figures(*run, nullptr, m_resistance).torque_mean : std::nan("");
    }

    /// The least lead that gives the torque, or the one that gives the most.
    void lead_the_emf() {
        const double torque = wanted(drive(most_voltage(m_kind, m_out.settings, c.machine)));
        double got = torque_of_blocks(0), before = got, most = got, lead = 0;
        for (int k = 1; k <= leads && !(got >= torque); ++k) {
            before = got;
            got = torque_of_blocks(k * lead_step);
            if (!(got <= most)) most = got, lead = k * lead_step;
        }
        const bool reached = got >= torque;
        if (reached && lead > 0) lead -= lead_step * (got - torque) / std::max(got - before, 1e-12);
        m_out.settings.lead = lead;
        m_out.words =
            lead == 0
                ? std::string("Blocks in phase with the EMF.")
                : fmt::format("Blocks lead the EMF by {:.3g}°, found by the flux map for {}{:.4g} N·m.",
                              lead / degree, reached ? "" : "the most there is, ", reached ? torque : most);
    }

    void voltage() {
        SupplySettings& s = m_out.settings;
        const double given = fundamental_voltage(m_kind, s, c.machine);
        const bool open = std::isnan(given), angle = std::isnan(s.voltage_angle);
        if (!open && !angle) return;
        if (open)
            find_amplitude();
        else
            find_angle(given);
    }

    /// Amplitude, and the angle where it is open too, with the least current.
    void find_amplitude() {
        SupplySettings& s = m_out.settings;
        const Drive by = drive(most_voltage(m_kind, s, c.machine));
        const double torque = wanted(by);
        const auto point = by.best(torque, m_speed);
        const auto most = point ? point : by.strongest(m_speed, torque < 0 ? -1 : 1);
        const bool angle = std::isnan(s.voltage_angle);
        if (!most) return give_up();
        const Dq v = voltage_of(*most);
        set_amplitude(std::hypot(v.d, v.q));
        if (angle) s.voltage_angle = std::atan2(-v.d, v.q);
        tell(most->torque, point.has_value(), true, angle);
    }

    /// Of a given amplitude: of the angles that give the torque the one with the least current, or that with
    /// the most torque.
    void find_angle(double amplitude) {
        constexpr int steps = 144;
        const double omega = m_out.settings.clock.omega, torque = wanted(drive(amplitude)),
                     sign = torque < 0 ? -1 : 1;
        struct At {
            double angle = 0, torque = 0, current = 0;
        };
        Dq i{};
        const auto at = [&](double angle) {
            i = steady_current(m_map, m_resistance, omega,
                               {-amplitude * std::sin(angle), amplitude * std::cos(angle)}, i);
            return At{angle, m_map.torque(i), std::hypot(i.d, i.q)};
        };
        std::optional<At> best, most;
        At before = at(-pi);
        for (int k = 1; k <= steps; ++k) {
            const At here = at(-pi + 2 * pi * k / steps);
            if (!std::isfinite(here.torque)) continue;
            if (!most || sign * here.torque > sign * most->torque) most = here;
            if ((before.torque - torque) * (here.torque - torque) <= 0 && before.torque != here.torque) {
                const double share = (torque - before.torque) / (here.torque - before.torque);
                const At there = at(before.angle + share * (here.angle - before.angle));
                if (!best || there.current < best->current) best = there;
            }
            before = here;
        }
        if (!most) return give_up();
        const At& chosen = best ? *best : *most;
        m_out.settings.voltage_angle = chosen.angle;
        tell(chosen.torque, best.has_value(), false, true);
    }

    void set_amplitude(double voltage) {
        SupplySettings& s = m_out.settings;
        if (m_kind.fundamental == Fundamental::Voltage)
            s.voltage = voltage;
        else
            s.modulation = voltage / (s.bridge.dc / 2) / (m_star ? 1 : std::sqrt(3.0));
    }

    /// No current of the map fits: the voltage of the no-load EMF's direction, as far as it is known.
    void give_up() {
        SupplySettings& s = m_out.settings;
        if (std::isnan(s.voltage)) s.voltage = c.machine.rating.dc_voltage / 2;
        if (std::isnan(s.modulation)) s.modulation = 1;
        if (std::isnan(s.voltage_angle)) s.voltage_angle = 0;
        m_out.words = "No voltage was found for the rated torque: its angle is left at 0°.";
    }

    void tell(double torque, bool reached, bool open, bool angle) {
        const SupplySettings& s = m_out.settings;
        std::vector<std::string> parts;
        if (open && m_kind.fundamental == Fundamental::Voltage)
            parts.push_back(fmt::format("a voltage of {:.4g} V peak", s.voltage));
        if (open && m_kind.fundamental == Fundamental::Modulation)
            parts.push_back(fmt::format("a modulation index of {:.4g}", s.modulation));
        if (angle) parts.push_back(fmt::format("an angle of {:.4g}°", s.voltage_angle / degree));
        m_out.words = fmt::format("{} found by the flux map for {}{:.4g} N·m.", fmt::join(parts, " and "),
                                  reached ? "" : "the most there is, ", torque);
        m_out.words.front() = char(std::toupper(m_out.words.front()));
    }

    const QuestionContext& c;
    const SupplyKind& m_kind;
    FluxMap m_map;
    double m_resistance, m_speed;
    bool m_star;
    FoundSupply m_out;
};

} // namespace

double fundamental_voltage(const SupplyKind& kind, const SupplySettings& s, const Machine& machine) {
    const double by_lines = is_delta(machine) ? std::sqrt(3.0) : 1;
    switch (kind.fundamental) {
    case Fundamental::Voltage:
        return s.voltage;
    case Fundamental::Modulation:
        return s.modulation * s.bridge.dc / 2 * by_lines;
    case Fundamental::SixStep:
        return 2 * s.bridge.dc / pi * by_lines;
    case Fundamental::None:
    case Fundamental::Blocks:
        break;
    }
    return 0;
}

double lead_of_blocks(const QuestionContext& c, const FluxMap& map) {
    if (c.machine.facts().magnets) return 0;
    const Drive any(c.machine, map, {map.iq().back(), 1e300}, Aim::LeastCurrent);
    const Dq i = any.strongest_vector(std::max(c.machine.rating.current, 1e-3));
    return std::atan2(-i.d, i.q);
}

bool leaves_open(const Inputs& inputs) {
    const auto open = [&](const char* key) { return std::isnan(inputs.number_or(key, 0)); };
    switch (registry<SupplyKind>().find(inputs.word("supply"))->fundamental) {
    case Fundamental::Voltage:
        return open("voltage") || open("voltage_angle");
    case Fundamental::Modulation:
        return open("modulation") || open("voltage_angle");
    case Fundamental::SixStep:
        return open("voltage_angle");
    case Fundamental::Blocks:
        return open("lead");
    case Fundamental::None:
        break;
    }
    return false;
}

FoundSupply found_supply(const QuestionContext& c, const FluxMap& map, const SupplySettings& settings) {
    return Finder(c, map, settings).run();
}

} // namespace mavlo
