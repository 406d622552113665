#include "circuit/half_bridges.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double ideal = 1e-6; ///< Ohm: what a switch without resistance has

Element valve(Element::Kind kind, const std::string& name, int from, int to, double drop, double resistance) {
    Element e;
    e.kind = kind;
    e.name = name;
    e.from = from;
    e.to = to;
    e.drop = drop;
    e.on = std::max(ideal, resistance);
    return e;
}

} // namespace

Network half_bridges(const Bridge& bridge, int phases, double resistance) {
    Network n;
    const int link = n.node("link");
    Element source;
    source.kind = Element::VoltageSource;
    source.name = "VDC";
    source.from = link;
    source.wave.numbers = {bridge.dc};
    n.elements.push_back(source);
    for (int k = 0; k < phases; ++k) {
        const int high = n.node(fmt::format("a{}", k + 1)), low = n.node(fmt::format("b{}", k + 1));
        const auto add = [&](Element::Kind kind, const char* letter, int from, int to, int gate) {
            const bool is_switch = kind == Element::Switch;
            n.elements.push_back(valve(kind, fmt::format("{}{}", letter, k + 1), from, to,
                                       is_switch ? bridge.switch_drop : bridge.diode_drop,
                                       is_switch ? bridge.switch_resistance : bridge.diode_resistance));
            n.elements.back().control.gate = gate;
        };
        add(Element::Switch, "SH", link, high, 2 * k);
        add(Element::Switch, "SL", low, 0, 2 * k + 1);
        add(Element::Diode, "DH", low, link, -1);
        add(Element::Diode, "DL", 0, high, -1);
        Element phase;
        phase.kind = Element::Phase;
        phase.name = fmt::format("X{}", k + 1);
        phase.from = high;
        phase.to = low;
        phase.phase = k;
        phase.value = resistance;
        n.elements.push_back(phase);
    }
    return n;
}

StrokeControl::StrokeControl(StrokeSettings settings)
    : m_settings(std::move(settings))
    , m_on(m_settings.aligned.size(), 0)
    , m_chopped(m_settings.aligned.size(), 0) {
    m_gates.assign(2 * m_on.size(), 0);
}

bool StrokeControl::is_on(std::size_t phase, double angle) const {
    const double width = m_settings.turn_off - m_settings.turn_on;
    const double from_on = (angle - m_settings.aligned[phase] - m_settings.turn_on + 1e-9) / (2 * pi);
    return 2 * pi * (from_on - std::floor(from_on)) < width;
}

double StrokeControl::next_edge(const RotorMoment& now) const {
    double next = std::numeric_limits<double>::infinity();
    for (double aligned : m_settings.aligned)
        for (double angle : {m_settings.turn_on, m_settings.turn_off})
            next = std::min(next, now.t + now.time_to(aligned + angle));
    return next;
}

void StrokeControl::at_edge(const RotorMoment& now, const Eigen::VectorXd& /*currents*/) {
    for (std::size_t k = 0; k < m_on.size(); ++k) {
        const bool on = is_on(k, now.angle);
        if (on && !m_on[k]) m_chopped[k] = 0;
        m_on[k] = on;
        show(k);
    }
}

void StrokeControl::show(std::size_t k) {
    const bool chopped = m_chopped[k] != 0;
    m_gates[2 * k] = m_on[k] && !chopped;
    m_gates[2 * k + 1] = m_on[k] && !(chopped && m_settings.chopping == Chopping::Hard);
}

int StrokeControl::watches() const {
    return m_settings.chopping == Chopping::Single ? 0 : int(m_on.size());
}

double StrokeControl::watch(int which, const Eigen::VectorXd& currents) const {
    const auto k = std::size_t(which);
    if (!m_on[k]) return -1;
    return m_chopped[k] ? m_settings.low - currents[which] : currents[which] - m_settings.high;
}

void StrokeControl::on_watch(int which) {
    const auto k = std::size_t(which);
    m_chopped[k] ^= 1;
    ++m_switchings;
    show(k);
}

} // namespace mavlo
