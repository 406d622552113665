#include "circuit/transient.h"

#include "circuit/delta.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int most_events_in_a_step = 400;
constexpr double tiny_current = 1e-9; ///< A: less is none

} // namespace

Transient::Transient(const PhaseMachine& machine, const Clock& clock, std::unique_ptr<Supply> supply,
                     TransientOptions options)
    : m_machine(machine)
    , m_clock(clock)
    , m_options(std::move(options)) {
    feed_by(std::move(supply));
}

Transient::Transient(const Transient& other)
    : m_machine(other.m_machine)
    , m_clock(other.m_clock)
    , m_options(other.m_options) {
    go_on_from(other);
}

void Transient::feed_by(std::unique_ptr<Supply> supply) {
    m_supply = std::move(supply);
    m_supply->at_edge(m_t, of_legs(m_current));
    choose_ways();
}

void Transient::go_on_from(const Transient& copy) {
    m_supply = copy.m_supply->copy();
    m_t = copy.m_t;
    m_current = copy.m_current;
    m_before = copy.m_before;
    m_since = copy.m_since;
    m_events = copy.m_events;
    m_ways = copy.m_ways;
}

void Transient::set_currents(const Currents& currents) {
    m_current = currents;
    choose_ways();
}

void Transient::start_at(double t, const Currents& currents) {
    m_t = m_since = t;
    set_currents(currents);
}

Transient::Slope Transient::slope(double t, const Currents& i, const Ways& ways) const {
    const PhaseState state = m_machine.at(m_clock.angle(t), i);
    const auto laws = m_supply->legs(t);
    Slope out;
    out.torque = state.torque;
    out.linkage = state.linkage;
    std::array<int, 3> on{};
    int n = 0;
    for (int k = 0; k < 3; ++k)
        if (ways[std::size_t(k)] != Way::None) on[std::size_t(n++)] = k;
    out.conducting = n;
    if (n < 2) n = 0; // a current needs a way back
    // Unknown: the legs' rates and the star point's potential, and what goes round a delta.
    const int star = n, legs = n > 0 ? n + 1 : 0, all = legs + (m_options.delta ? 1 : 0);
    if (all > 0) {
        Eigen::Matrix<double, 5, 5> a = Eigen::Matrix<double, 5, 5>::Zero();
        Eigen::Matrix<double, 5, 1> b = Eigen::Matrix<double, 5, 1>::Zero();
        const Currents leg = of_legs(i);
        for (int r = 0; r < n; ++r) {
            const int k = on[std::size_t(r)];
            const LegLaw& law = laws[std::size_t(k)];
            const bool outwards = ways[std::size_t(k)] == Way::Out;
            const double source =
                outwards ? law.out - law.out_resistance * leg[k] : law.in - law.in_resistance * leg[k];
            for (int c = 0; c < n; ++c) a(r, c) = state.inductance(k, on[std::size_t(c)]);
            a(r, star) = 1;
            a(star, r) = 1;
            b[r] = source - leg_resistance() * leg[k] - m_clock.omega * state.slope[k];
        }
        if (m_options.delta) {
            for (int r = 0; r < n; ++r) {
                a(r, legs) = state.inductance.row(on[std::size_t(r)]).sum();
                a(legs, r) = state.inductance.col(on[std::size_t(r)]).mean();
            }
            a(legs, legs) = state.inductance.sum() / 3;
            b[legs] = -m_options.resistance * i.mean() - m_clock.omega * state.slope.mean();
        }
        const Eigen::VectorXd x = a.topLeftCorner(all, all).fullPivLu().solve(b.head(all));
        for (int r = 0; r < n; ++r) out.rate[on[std::size_t(r)]] = x[r];
        if (n > 0) out.star = x[star];
        if (m_options.delta) out.round = x[legs];
    }
    const Currents rate = out.rate.array() + out.round;
    for (int k = 0; k < 3; ++k)
        out.open[k] = state.inductance.row(k).dot(rate) + m_clock.omega * state.slope[k];
    return out;
}

double Transient::potential(std::size_t leg, const LegLaw& law, const Currents& legs, const Ways& ways,
                            const Slope& s) const {
    const auto k = Eigen::Index(leg);
    if (ways[leg] == Way::Out) return law.out - law.out_resistance * legs[k];
    if (ways[leg] == Way::In) return law.in - law.in_resistance * legs[k];
    return s.star + s.open[k];
}

/// V by which legs without current lie beyond their rails; with none that conducts, by which one pair of phases
/// is driven against another. 0: within.
double Transient::beyond_rails(double t, const Ways& ways, const Slope& s) const {
    const auto laws = m_supply->legs(t);
    double worst = 0;
    for (std::size_t a = 0; a < 3; ++a) {
        if (ways[a] != Way::None) continue;
        const double open = s.open[Eigen::Index(a)], at = s.star + open;
        if (s.conducting >= 2) worst = std::max({worst, laws[a].out - at, at - laws[a].in});
        for (std::size_t b = 0; s.conducting == 0 && b < 3; ++b)
            if (a != b) worst = std::max(worst, (laws[a].out - open) - (laws[b].in - s.open[Eigen::Index(b)]));
    }
    return worst;
}

/// How far an assignment of ways is from being possible, V or scaled A/s; 0: it is.
double Transient::violation(const Ways& ways) const {
    const Slope s = slope(m_t, m_current, ways);
    if (s.conducting == 1) return 1e300; // a current needs a way back
    double worst = beyond_rails(m_t, ways, s);
    const double scale = 1e-6 * m_clock.period(); // A a volt, so that rates and potentials compare
    const Currents leg = of_legs(m_current);
    for (std::size_t k = 0; k < 3; ++k) {
        const auto index = Eigen::Index(k);
        if (std::abs(leg[index]) > tiny_current) continue;
        if (ways[k] == Way::Out) worst = std::max(worst, -s.rate[index] * scale);
        if (ways[k] == Way::In) worst = std::max(worst, s.rate[index] * scale);
    }
    return worst;
}

void Transient::choose_ways() {
    std::vector<std::size_t> free;
    Ways ways;
    const double round = going_round(m_current);
    for (std::size_t k = 0; k < 3; ++k) {
        const double i = m_current[Eigen::Index(k)] - round;
        ways[k] = i > tiny_current ? Way::Out : i < -tiny_current ? Way::In : Way::None;
        if (ways[k] == Way::None) {
            m_current[Eigen::Index(k)] = round;
            free.push_back(k);
        }
    }
    // Every way the legs without current may go; the first that is possible, or the least impossible.
    int count = 1;
    for (std::size_t k = 0; k < free.size(); ++k) count *= 3;
    double least = std::numeric_limits<double>::infinity();
    Ways best = ways;
    for (int code = 0; code < count; ++code) {
        Ways tried = ways;
        int rest = code;
        for (std::size_t k : free) {
            tried[k] = Way(rest % 3);
            rest /= 3;
        }
        const double wrong = violation(tried);
        if (wrong < least - 1e-12) {
            least = wrong;
            best = tried;
        }
        if (wrong <= 1e-12) break;
    }
    m_ways = best;
}

Currents Transient::stepped(const Currents& from, double t, double h) const {
    const auto f = [&](double at, const Currents& i) -> Currents {
        const Slope s = slope(at, i, m_ways);
        return s.rate.array() + s.round;
    };
    const Currents a = f(t, from), b = f(t + h / 2, from + h / 2 * a), c = f(t + h / 2, from + h / 2 * b),
                   d = f(t + h, from + h * c);
    return from + h / 6 * (a + 2 * b + 2 * c + d);
}

/// Whether something happens between `from` and t: a current through zero, a leg's potential past its rails, a
/// bound.
bool Transient::bound_crossed(double t, const Currents& i, const Currents& before, double from) const {
    const auto laws = m_supply->legs(t);
    const Currents leg = of_legs(i);
    for (std::size_t k = 0; k < 3; ++k) {
        const auto index = Eigen::Index(k);
        if (laws[k].both_ways()) continue; // the current passes zero and nothing happens
        if (m_ways[k] == Way::Out && leg[index] < -tiny_current) return true;
        if (m_ways[k] == Way::In && leg[index] > tiny_current) return true;
    }
    constexpr double volt = 1e-9;
    const bool open = std::find(m_ways.begin(), m_ways.end(), Way::None) != m_ways.end();
    if (open && beyond_rails(t, m_ways, slope(t, i, m_ways)) > volt) return true;
    for (int w = 0; w < m_supply->watches(); ++w)
        if (m_supply->watch(w, from, of_legs(before)) <= 0 && m_supply->watch(w, t, leg) > 0) return true;
    return false;
}

/// At an event: bounds tell the supply, currents that have reached zero are zero, and ways are chosen anew.
void Transient::settle() {
    const double round = going_round(m_current);
    Currents leg = of_legs(m_current);
    const Currents before = of_legs(m_before);
    const auto laws = m_supply->legs(m_t);
    for (int w = 0; w < m_supply->watches(); ++w)
        if (m_supply->watch(w, m_t, leg) > 0) m_supply->on_watch(w, m_t, leg);
    for (std::size_t k = 0; k < 3; ++k) {
        const auto index = Eigen::Index(k);
        if (laws[k].both_ways()) continue; // it went through zero as if nothing had happened
        const bool through =
            (m_ways[k] == Way::Out && leg[index] <= 0) || (m_ways[k] == Way::In && leg[index] >= 0);
        if (!through || before[index] == leg[index]) continue;
        // What it has gone too far is given to the others, so that the sum stays.
        const double over = leg[index];
        leg[index] = 0;
        for (std::size_t j = 0; j < 3; ++j)
            if (j != k && m_ways[j] != Way::None) {
                leg[Eigen::Index(j)] += over;
                break;
            }
    }
    m_current = leg.array() + round;
    choose_ways();
}

TransientSample Transient::sample() const {
    const Slope s = slope(m_t, m_current, m_ways);
    const auto laws = m_supply->legs(m_t);
    TransientSample sample;
    sample.t = m_t;
    sample.angle = m_clock.angle(m_t);
    sample.line = of_legs(m_current);
    sample.torque = s.torque;
    for (std::size_t k = 0; k < 3; ++k)
        sample.potential[Eigen::Index(k)] = potential(k, laws[k], sample.line, m_ways, s);
    if (m_options.delta) {
        const auto& v = sample.potential;
        sample.current = phases_of_delta() * m_current;
        sample.linkage = phases_of_delta().transpose().inverse() * s.linkage;
        sample.voltage = {v[0] - v[1], v[1] - v[2], v[2] - v[0]};
    } else {
        sample.current = m_current;
        sample.linkage = s.linkage;
        sample.voltage = sample.potential.array() - s.star;
    }
    if (const Gates* gates = m_supply->gates()) sample.gates = *gates;
    return sample;
}

Result<Transient::At> Transient::advance(double end, std::vector<TransientSample>* samples) {
    const double longest = m_clock.period() / m_options.steps, shortest = 1e-12 * m_clock.period();
    while (m_t < end - shortest) {
        if (m_options.stop && m_options.stop()) return Problem{"", "Stopped."};
        const double edge = m_supply->next_edge(m_t), to = std::min({end, edge, m_t + longest});
        const double h = to - m_t;
        m_before = m_current;
        Currents next = stepped(m_before, m_t, h);
        double taken = h;
        const bool event = bound_crossed(to, next, m_before, m_t);
        if (event) {
            // Located by halving; the step then ends just past it.
            double low = 0, high = h;
            for (int k = 0; k < 40 && high - low > shortest; ++k) {
                const double middle = (low + high) / 2;
                const Currents at = stepped(m_before, m_t, middle);
                (bound_crossed(m_t + middle, at, m_before, m_t) ? high : low) = middle;
            }
            taken = high;
            next = stepped(m_before, m_t, taken);
            if (m_t - m_since < longest ? ++m_events > most_events_in_a_step
                                        : (m_events = 0, m_since = m_t, false))
                return Problem{"--with band",
                               fmt::format("At {:.6g} s the supply switches without end; give it a wider "
                                           "band or a longest interval.",
                                           m_t)};
        }
        m_t = event ? m_t + taken : to;
        m_current = next;
        if (event) return At::Event;
        if (edge <= m_t + shortest) return At::Edge;
        if (samples) samples->push_back(sample());
    }
    return At::End;
}

void Transient::pass(At what) {
    if (what == At::Event) settle();
    if (what != At::Edge) return;
    m_supply->at_edge(m_t, of_legs(m_current));
    choose_ways();
}

std::optional<Problem> Transient::run(double end, std::vector<TransientSample>* samples) {
    const auto record = [&] {
        if (samples) samples->push_back(sample());
    };
    record();
    for (;;) {
        const auto at = advance(end, samples);
        if (!at) return at.problems().front();
        if (*at == At::End) return std::nullopt;
        record();
        pass(*at);
        record();
    }
}

} // namespace mavlo
