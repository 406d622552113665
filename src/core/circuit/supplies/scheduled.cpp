#include "circuit/supplies/scheduled.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double turn = 2 * std::numbers::pi;

double wrapped(double angle) {
    const double w = angle - turn * std::floor(angle / turn);
    return w >= turn ? 0 : w;
}

} // namespace

AngleSchedule::AngleSchedule(const Bridge& bridge, const Clock& clock, double lead,
                             std::vector<GateWindow> windows, double dead_time)
    : GatedSupply(bridge, clock, dead_time)
    , m_lead(lead)
    , m_windows(std::move(windows)) {
    for (int leg = 0; leg < 3; ++leg) m_gates[std::size_t(leg)] = window_gate(leg, 0);
}

int AngleSchedule::window_gate(int leg, double t) const {
    // A little past the instant, so that an edge belongs to the window that it opens.
    const double at = wrapped(m_clock.angle(t) + m_lead - phase_lag(leg) + 1e-7);
    for (const GateWindow& w : m_windows)
        if (w.from <= w.to ? at >= w.from && at < w.to : at >= w.from || at < w.to) return w.gate;
    return 0;
}

double AngleSchedule::next_scheduled(double t) const {
    double next = std::numeric_limits<double>::infinity();
    for (int leg = 0; leg < 3; ++leg)
        for (const GateWindow& w : m_windows)
            for (double edge : {w.from, w.to}) {
                double ahead = wrapped(edge - (m_clock.angle(t) + m_lead - phase_lag(leg)));
                if (ahead < 1e-9) ahead += turn;
                next = std::min(next, t + ahead / m_clock.omega);
            }
    return next;
}

void AngleSchedule::at_scheduled(double t, const Currents&) {
    for (int leg = 0; leg < 3; ++leg) want(leg, window_gate(leg, t), t);
}

} // namespace mavlo
