#include "circuit/network.h"

#include "quantity/constants.h"
#include "quantity/disjoint_sets.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <set>

namespace mavlo {
namespace {

/// Phase of a periodic pulse at t, and the instants of its corners from the pulse's begin on.
std::vector<double> pulse_corners(const std::vector<double>& n) {
    return {0, n[3], n[3] + n[5], n[3] + n[5] + n[4]};
}

double pulse_at(const std::vector<double>& n, double t) {
    const double low = n[0], high = n[1], delay = n[2], rise = n[3], fall = n[4], width = n[5], period = n[6];
    if (t < delay) return low;
    double into = t - delay;
    if (std::isfinite(period)) into -= period * std::floor(into / period + 1e-12);
    if (into < rise) return low + (high - low) * std::max(0.0, into) / rise;
    if (into < rise + width) return high;
    if (into < rise + width + fall) return high + (low - high) * (into - rise - width) / fall;
    return low;
}

double table_at(const std::vector<double>& n, double t) {
    if (t <= n[0]) return n[1];
    for (std::size_t k = 2; k + 1 < n.size(); k += 2)
        if (t < n[k]) return n[k - 1] + (n[k + 1] - n[k - 1]) * (t - n[k - 2]) / (n[k] - n[k - 2]);
    return n.back();
}

double turn_of(double angle) {
    return angle - 2 * pi * std::floor(angle / (2 * pi));
}

} // namespace

double SourceWave::at(double t, double angle) const {
    const auto& n = numbers;
    switch (form) {
    case Constant:
        return n[0];
    case Sine: {
        if (t < n[3]) return n[0] + n[1] * std::sin(n[5]);
        const double since = t - n[3];
        return n[0] + n[1] * std::exp(-since * n[4]) * std::sin(2 * pi * n[2] * since + n[5]);
    }
    case Pulse:
        return pulse_at(n, t);
    case Table:
        return table_at(n, t);
    case Angle: {
        const double width = turn_of(n[3] - n[2]), at = turn_of(angle - n[2] + 1e-9);
        return at < width ? n[1] : n[0];
    }
    }
    return 0;
}

double SourceWave::next_corner(double t) const {
    const double soon = t + 1e-12 * std::max(1e-6, std::abs(t));
    double next = never;
    const auto offer = [&](double at) {
        if (at > soon) next = std::min(next, at);
    };
    if (form == Sine) offer(numbers[3]);
    if (form == Table)
        for (std::size_t k = 0; k < numbers.size(); k += 2) offer(numbers[k]);
    if (form == Pulse) {
        const double delay = numbers[2], period = numbers[6];
        const double round = std::isfinite(period) && t > delay ? std::floor((t - delay) / period) : 0;
        for (double ahead : {0.0, 1.0})
            for (double corner : pulse_corners(numbers))
                offer(delay + corner + (std::isfinite(period) ? (round + ahead) * period : 0));
    }
    return next;
}

std::vector<double> SourceWave::corner_angles() const {
    if (form != Angle) return {};
    return {turn_of(numbers[2]), turn_of(numbers[3])};
}

int Network::node(const std::string& name) {
    const auto known = std::find(nodes.begin(), nodes.end(), name);
    if (known != nodes.end()) return int(known - nodes.begin());
    nodes.push_back(name);
    return int(nodes.size()) - 1;
}

int Network::find(const std::string& element) const {
    const auto same = [&](const Element& e) { return e.name == element; };
    const auto found = std::find_if(elements.begin(), elements.end(), same);
    return found == elements.end() ? -1 : int(found - elements.begin());
}

int Network::gates() const {
    int count = 0;
    for (const Element& e : elements) count = std::max(count, e.control.gate + 1);
    return count;
}

namespace {

class Judge {
  public:
    Judge(const Network& network, int phases)
        : m_network(network)
        , m_phases(phases) {}

    Problems run() {
        if (m_network.elements.empty()) say("circuit", "The circuit has no elements.");
        values();
        phases();
        source_loops();
        floating();
        return m_problems;
    }

  private:
    void say(const std::string& where, std::string sentence) {
        m_problems.push_back({where, std::move(sentence)});
    }
    static std::string place(const Element& e) {
        return e.line > 0 ? fmt::format("circuit line {}", e.line) : "circuit " + e.name;
    }
    const std::string& node(int k) const { return m_network.nodes[std::size_t(k)]; }

    void values() {
        std::set<std::string> names;
        for (const Element& e : m_network.elements) {
            if (!names.insert(e.name).second) say(place(e), fmt::format("The name {} stands twice.", e.name));
            if (e.from == e.to)
                say(place(e), fmt::format("{} has both ends on the node {}.", e.name, node(e.from)));
            const bool sized =
                e.kind == Element::Resistor || e.kind == Element::Inductor || e.kind == Element::Capacitor;
            if (sized && !(e.value > 0))
                say(place(e), fmt::format("{} has the value {:g}; it must be above zero.", e.name, e.value));
        }
    }

    void phases() {
        std::vector<const Element*> used(std::size_t(std::max(0, m_phases)), nullptr);
        for (const Element& e : m_network.elements) {
            if (e.kind != Element::Phase) continue;
            if (e.phase < 0 || e.phase >= m_phases) {
                say(place(e),
                    fmt::format("{} names phase {}; the machine has {}.", e.name, e.phase + 1, m_phases));
                continue;
            }
            const Element*& first = used[std::size_t(e.phase)];
            if (first)
                say(place(e), fmt::format("{} and {} are the same phase of the machine.", first->name, e.name));
            first = &e;
        }
    }

    void source_loops() {
        DisjointSets groups(m_network.nodes.size());
        for (const Element& e : m_network.elements)
            if (e.kind == Element::VoltageSource && !groups.join(std::size_t(e.from), std::size_t(e.to)))
                say(place(e),
                    fmt::format("{} closes a loop of voltage sources between {} and {}; put a resistance "
                                "into it.",
                                e.name, node(e.from), node(e.to)));
    }

    void floating() {
        DisjointSets groups(m_network.nodes.size());
        for (const Element& e : m_network.elements)
            if (e.kind != Element::CurrentSource) groups.join(std::size_t(e.from), std::size_t(e.to));
        for (std::size_t k = 1; k < m_network.nodes.size(); ++k)
            if (groups.of(k) != groups.of(0))
                say("circuit",
                    fmt::format("The node {} has no way to the node 0; join its part of the circuit to it.",
                                m_network.nodes[k]));
    }

    const Network& m_network;
    int m_phases;
    Problems m_problems;
};

} // namespace

Problems network_problems(const Network& network, int phases) {
    return Judge(network, phases).run();
}

} // namespace mavlo
