#include "circuit/gated_supply.h"

#include <algorithm>
#include <numbers>

namespace mavlo {

double Clock::period() const {
    return 2 * std::numbers::pi / omega;
}

double phase_lag(int phase) {
    return 2 * std::numbers::pi / 3 * phase;
}

std::array<LegLaw, 3> GatedSupply::legs(double) const {
    std::array<LegLaw, 3> laws;
    for (std::size_t k = 0; k < 3; ++k) laws[k] = leg_law(m_bridge, m_gates[k]);
    return laws;
}

double GatedSupply::next_edge(double t) const {
    double next = next_scheduled(t);
    for (const Waiting& w : m_waiting) next = std::min(next, w.until);
    return next;
}

void GatedSupply::at_edge(double t, const Currents& currents) {
    const double slack = 1e-9 * m_clock.period();
    for (std::size_t k = 0; k < 3; ++k)
        if (m_waiting[k].until <= t + slack) {
            m_gates[k] = m_waiting[k].gate;
            m_waiting[k] = {};
        }
    // The schedule's own edge, if this is one.
    if (next_scheduled(t - 2 * slack) <= t + slack) at_scheduled(t, currents);
}

void GatedSupply::want(int leg, int gate, double t) {
    const auto k = std::size_t(leg);
    const bool waits = m_waiting[k].until < std::numeric_limits<double>::infinity();
    if (waits ? m_waiting[k].gate == gate : m_gates[k] == gate) return;
    const bool to_other = gate != 0 && m_gates[k] == -gate;
    if (m_dead_time > 0 && (to_other || waits)) {
        m_gates[k] = 0;
        m_waiting[k] = {gate, t + m_dead_time};
        return;
    }
    m_gates[k] = gate;
    m_waiting[k] = {};
}

} // namespace mavlo
