// A network's way through time: steps, events, and what switches at them.

#include "circuit/network_run.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

const double gamma_share = 1 - 1 / std::numbers::sqrt2;
constexpr double error_constant = 0.0404; ///< of the method: 3 gamma^2 - 2 gamma^3 - 1/6
constexpr double bound = 1e-7;            ///< of a crossing, over the largest voltage or current
constexpr double rest = 1e-4;             ///< of the largest current: what a crossing may leave at the most
constexpr double instant = 1e-9;          ///< of the longest step: what is no time
constexpr int most_flips = 200, most_steps = 200000;

} // namespace

double RotorMoment::time_to(double wanted) const {
    if (!(omega > 0)) return never;
    const double turns = (wanted - angle) / (2 * pi);
    double ahead = 2 * pi * (turns - std::floor(turns));
    if (ahead < 1e-9) ahead += 2 * pi;
    return ahead / omega;
}

void SpeedProfile::follow(RotorMoment& rotor) const {
    if (points.empty()) return;
    rotor.acceleration = 0;
    rotor.omega = rotor.t < points.front().t ? points.front().omega : points.back().omega;
    for (std::size_t k = 1; k < points.size(); ++k) {
        const Point &a = points[k - 1], &b = points[k];
        if (rotor.t < a.t || rotor.t >= b.t) continue;
        rotor.acceleration = (b.omega - a.omega) / (b.t - a.t);
        rotor.omega = a.omega + rotor.acceleration * (rotor.t - a.t);
    }
}

double SpeedProfile::next_corner(double t) const {
    for (const Point& p : points)
        if (p.t > t) return p.t;
    return never;
}

NetworkRun::NetworkRun(const Network& network, const PortMachine& machine, std::unique_ptr<GateControl> control,
                       NetworkOptions options)
    : m_network(network)
    , m_machine(machine)
    , m_control(std::move(control))
    , m_options(std::move(options))
    , m_now(m_options.rotor.start)
    , m_closed(network.elements.size(), 0)
    , m_h(m_options.longest_step / 20) {
    m_options.rotor.speed.follow(m_now);
    number();
}

std::optional<NetworkRun::Step> NetworkRun::try_step(double h) {
    const double stage = gamma_share * h, per = 1 / stage;
    Eigen::VectorXd x = m_x;
    const RotorMoment middle = m_now.after(stage), end = m_now.after(h);
    if (!solve(middle, per, m_state, x)) return std::nullopt;
    const Eigen::VectorXd first = rates(x, per, m_state);
    const Eigen::VectorXd memory = m_state + (1 - gamma_share) * h * first;
    if (!solve(end, per, memory, x)) return std::nullopt;
    const Eigen::VectorXd second = rates(x, per, memory);
    Step step{x, memory + stage * second, second, 0};
    // The third derivative of the state, by divided differences of its rate at the step's three points.
    const Eigen::VectorXd bend =
        2 / h * ((second - first) / ((1 - gamma_share) * h) - (first - m_rate) / stage);
    for (Eigen::Index k = 0; k < bend.size(); ++k) {
        const double scale = std::max({m_scale[k], std::abs(step.state[k]), 1e-12});
        step.error = std::max(step.error, error_constant * h * h * h * std::abs(bend[k]) / scale);
    }
    step.error /= m_options.tolerance;
    return step;
}

double NetworkRun::excess_of(const Element& e, std::size_t k, const Eigen::VectorXd& x) const {
    const bool closed = m_closed[k] != 0;
    if (e.kind == Element::Diode) {
        const double over = across(x, e) - e.drop;
        return closed ? -over / e.on / m_amperes - bound : over / m_volts - bound;
    }
    const Element::Control& c = e.control;
    if (c.gate >= 0) {
        const bool gate = m_control && m_control->gates()[std::size_t(c.gate)];
        if (e.drop <= 0 || !gate) return gate == closed ? -1 : 1;
        const double over = across(x, e) - e.drop;
        return closed ? -over / e.on / m_amperes - bound : over / m_volts - bound;
    }
    const bool by_current = c.source >= 0;
    const double value = by_current ? x[branch(c.source)] : potential(x, c.plus) - potential(x, c.minus);
    const double unit = by_current ? m_amperes : m_volts;
    const double over = closed ? c.threshold - c.hysteresis - value : value - c.threshold - c.hysteresis;
    return over / unit - bound;
}

/// What may change at a state, with how far it is over its bound; watches are none of the network's own.
template <typename Take>
void NetworkRun::each_bound(const Eigen::VectorXd& x, bool with_watches, Take take) const {
    for (std::size_t k = 0; k < m_network.elements.size(); ++k)
        if (const Element& e = m_network.elements[k]; is_valve(e))
            take(Crossing{excess_of(e, k, x), int(k), -1});
    if (!with_watches || !m_control) return;
    const Eigen::VectorXd currents = phase_currents(x);
    for (int w = 0; w < m_control->watches(); ++w)
        take(Crossing{m_control->watch(w, currents) / m_amperes - bound, -1, w});
}

std::vector<NetworkRun::Crossing> NetworkRun::crossings(const Eigen::VectorXd& x, bool with_watches) const {
    std::vector<Crossing> found;
    each_bound(x, with_watches, [&](const Crossing& c) {
        if (c.excess > 0) found.push_back(c);
    });
    return found;
}

double NetworkRun::worst(const Eigen::VectorXd& x) const {
    double most = -1;
    each_bound(x, true, [&](const Crossing& c) { most = std::max(most, c.excess); });
    return most;
}

void NetworkRun::flip(const Crossing& crossing) {
    if (crossing.element >= 0)
        m_closed[std::size_t(crossing.element)] ^= 1;
    else
        m_control->on_watch(crossing.watch);
}

void NetworkRun::note_scales(const Eigen::VectorXd& x) {
    for (std::size_t k = 0; k < m_network.elements.size(); ++k) {
        const Element& e = m_network.elements[k];
        if (e.kind == Element::VoltageSource)
            m_volts = std::max(m_volts, std::abs(e.wave.at(m_now.t, m_now.angle)));
        if (m_branch[k] >= 0) m_amperes = std::max(m_amperes, std::abs(x[m_branch[k]]));
    }
    m_scale = m_scale.cwiseMax(m_state.cwiseAbs());
}

/// Switches with gates from outside take their state, before anything else is looked at.
void NetworkRun::follow_gates() {
    for (std::size_t k = 0; m_control && k < m_network.elements.size(); ++k) {
        const Element& e = m_network.elements[k];
        if (e.kind != Element::Switch || e.control.gate < 0) continue;
        const bool gate = m_control->gates()[std::size_t(e.control.gate)] != 0;
        if (!gate || e.drop <= 0) m_closed[k] = gate;
    }
}

/// A valve that opens where its current ends leaves the rest of what the crossing was located to. Through open
/// valves that rest would drive the voltage far beyond all others and swing back over zero, which would close
/// them again: it is taken away. True where there was one.
bool NetworkRun::drop_rests(const Eigen::VectorXd& x) {
    bool any = false;
    const auto& elements = m_network.elements;
    if (std::none_of(elements.begin(), elements.end(), [this](const Element& e) { return is_valve(e); }))
        return any;
    const PortState machine = m_machine.at(m_now.angle, phase_currents(x));
    for (std::size_t k = 0; k < m_network.elements.size(); ++k) {
        const Element& e = m_network.elements[k];
        if (e.kind != Element::Phase && e.kind != Element::Inductor) continue;
        const double current = x[m_branch[k]];
        if (std::abs(current) > rest * m_amperes || std::abs(across(x, e)) < 3 * m_volts) continue;
        for (std::size_t j = 0; e.kind == Element::Phase && j < m_phase_element.size(); ++j)
            if (m_phase_element[j] >= 0)
                m_state[m_slot[std::size_t(m_phase_element[j])]] -=
                    machine.inductance(Eigen::Index(j), e.phase) * current;
        const auto own = std::find(m_inductors.begin(), m_inductors.end(), k) - m_inductors.begin();
        for (std::size_t j = 0; e.kind == Element::Inductor && j < m_inductors.size(); ++j)
            m_state[m_slot[m_inductors[j]]] -= m_inductance(Eigen::Index(j), own) * current;
        any = true;
    }
    return any;
}

/// The state of switches and diodes that fits the linkages and charges as they stand, one after the other, the
/// worst first; and with it how fast those change.
std::optional<Problem> NetworkRun::settle() {
    follow_gates();
    const double no_time = instant * m_options.longest_step;
    note_scales(m_x);
    for (int n = 0; n < most_flips; ++n) {
        Eigen::VectorXd x = m_x;
        if (!solve(m_now, 1 / no_time, m_state, x))
            return Problem{"circuit", fmt::format("At {:.6g} s the circuit has no solution.", m_now.t)};
        const auto found = crossings(x, false);
        if (found.empty() && drop_rests(x)) continue;
        if (found.empty()) {
            m_x = x;
            m_rate = rates(x, 1 / no_time, m_state);
            note_scales(m_x);
            return std::nullopt;
        }
        flip(*std::max_element(found.begin(), found.end(),
                               [](const Crossing& a, const Crossing& b) { return a.excess < b.excess; }));
    }
    return Problem{"circuit", fmt::format("At {:.6g} s the switches and diodes find no state that agrees with "
                                          "itself; give the circuit resistances in series.",
                                          m_now.t)};
}

double NetworkRun::next_edge() const {
    double next =
        std::min(m_control ? m_control->next_edge(m_now) : never, m_options.rotor.speed.next_corner(m_now.t));
    for (const Element& e : m_network.elements) {
        if (e.kind != Element::VoltageSource && e.kind != Element::CurrentSource) continue;
        next = std::min(next, e.wave.next_corner(m_now.t));
        for (double angle : e.wave.corner_angles()) next = std::min(next, m_now.t + m_now.time_to(angle));
    }
    return next;
}

/// The step within h that ends just beyond the first crossing (Illinois' variant of false position; M. Dowell,
/// P. Jarratt, BIT 11, 1971).
std::optional<NetworkRun::Step> NetworkRun::locate(double h, double& where) {
    double low = 0, high = h, at_low = std::min(worst(m_x), -1e-3 * bound);
    auto step = try_step(h);
    if (!step) return std::nullopt;
    double at_high = worst(step->x);
    int side = 0;
    for (int n = 0; n < 60 && at_high > 10 * bound && high - low > instant * m_options.longest_step; ++n) {
        const double share = at_low / (at_low - at_high);
        const double middle = low + std::clamp(share, 0.02, 0.98) * (high - low);
        auto trial = try_step(middle);
        if (!trial) return std::nullopt;
        const double value = worst(trial->x);
        if (value > 0) {
            high = middle;
            at_high = value;
            step = std::move(trial);
            if (side == 1) at_low /= 2;
            side = 1;
        } else {
            low = middle;
            at_low = value;
            if (side == -1) at_high /= 2;
            side = -1;
        }
    }
    where = high;
    return step;
}

void NetworkRun::take(const Step& step, double h) {
    m_now = m_now.after(h);
    m_x = step.x;
    m_state = step.state;
    m_rate = step.rate;
    note_scales(m_x);
    const RotorDrive& rotor = m_options.rotor;
    rotor.speed.follow(m_now);
    if (rotor.inertia <= 0) return;
    const double mechanical = m_now.omega / rotor.pole_pairs,
                 torque = m_machine.at(m_now.angle, phase_currents(m_x)).torque,
                 load = rotor.load ? rotor.load(mechanical) : 0,
                 acceleration = rotor.pole_pairs * (torque - load) / rotor.inertia;
    // Velocities with the mean of both ends' acceleration (L. Verlet, Phys. Rev. 159, 1967).
    m_now.omega += h * (acceleration - m_now.acceleration) / 2;
    m_now.acceleration = acceleration;
}

NetworkSample NetworkRun::sample() const {
    NetworkSample s;
    s.rotor = m_now;
    s.potential = Eigen::VectorXd::Zero(Eigen::Index(m_network.nodes.size()));
    s.potential.tail(s.potential.size() - 1) = m_x.head(s.potential.size() - 1);
    s.current.resize(Eigen::Index(m_network.elements.size()));
    for (std::size_t k = 0; k < m_network.elements.size(); ++k) s.current[Eigen::Index(k)] = through(m_x, k);
    const PortState machine = m_machine.at(m_now.angle, phase_currents(m_x));
    s.linkage = machine.linkage;
    s.torque = machine.torque;
    s.closed = m_closed;
    return s;
}

/// One step, with what happens at its end.
std::optional<Problem> NetworkRun::advance(double end, std::vector<NetworkSample>* samples) {
    const double edge = next_edge(), until = std::min(end, edge);
    const double rest = until - m_now.t, shortest = instant * m_options.longest_step;
    double h = std::min({m_h, m_options.longest_step, rest});
    if (rest - h < 0.01 * h) h = rest;
    if (h > shortest) {
        auto tried = try_step(h);
        while ((!tried || tried->error > 1) && h > 100 * shortest) {
            h *= tried ? std::clamp(0.8 / std::cbrt(tried->error), 0.1, 0.7) : 0.25;
            tried = try_step(h);
        }
        if (!tried)
            return Problem{"circuit", fmt::format("At {:.6g} s no step of the circuit converges.", m_now.t)};
        m_h = h * std::clamp(0.8 / std::cbrt(std::max(tried->error, 1e-6)), 0.3, 2.0);
        if (worst(tried->x) > 0) {
            tried = locate(h, h);
            if (!tried)
                return Problem{"circuit",
                               fmt::format("At {:.6g} s no step of the circuit converges.", m_now.t)};
        }
        take(*tried, h);
    } else {
        m_now = m_now.after(std::max(0.0, rest));
        m_options.rotor.speed.follow(m_now);
    }
    if (samples) samples->push_back(sample());
    const auto found = crossings(m_x, true);
    const bool at_edge = std::abs(m_now.t - edge) <= shortest;
    if (found.empty() && !at_edge) return std::nullopt;
    for (const Crossing& crossing : found) flip(crossing);
    if (at_edge && m_control) m_control->at_edge(m_now, phase_currents(m_x));
    if (auto problem = settle()) return problem;
    m_h = std::min(m_h, m_options.longest_step / 20);
    if (samples) samples->push_back(sample());
    return std::nullopt;
}

std::optional<Problem> NetworkRun::run(double end, std::vector<NetworkSample>* samples) {
    if (!m_begun) {
        m_begun = true;
        if (m_control) m_control->at_edge(m_now, Eigen::VectorXd::Zero(m_machine.ports()));
        if (auto problem = settle()) return problem;
    }
    if (samples && samples->empty()) samples->push_back(sample());
    int idle = 0, steps = 0;
    while (m_now.t < end - instant * m_options.longest_step) {
        if (m_options.stop && m_options.stop()) return Problem{"", "stopped"};
        if (++steps > most_steps)
            return Problem{"circuit",
                           fmt::format("At {:.6g} s the circuit asks for ever shorter steps; look for parts "
                                       "far smaller or stiffer than the others.",
                                       m_now.t)};
        const double before = m_now.t;
        if (auto problem = advance(end, samples)) return problem;
        idle = m_now.t - before > 10 * instant * m_options.longest_step ? 0 : idle + 1;
        if (idle > most_flips)
            return Problem{"circuit",
                           fmt::format("At {:.6g} s switches change without end; give them a hysteresis, "
                                       "or a larger band.",
                                       m_now.t)};
    }
    return std::nullopt;
}

} // namespace mavlo
