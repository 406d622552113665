#include "question/growing_curves.h"

#include "question/period.h"

#include <cassert>

namespace mavlo {
namespace {

constexpr std::size_t most_points = 4000;
constexpr std::chrono::milliseconds between{250};

} // namespace

GrowingCurves::GrowingCurves(const Watch& watch, std::size_t phases)
    : m_watch(watch) {
    m_curves.push_back({"torque", "N.m", "time", "s", {}, {}});
    for (std::size_t k = 0; k < phases; ++k)
        m_curves.push_back({"current_" + phase_suffix(k), "A", "time", "s", {}, {}});
}

void GrowingCurves::add(double time, double torque, const std::vector<double>& currents) {
    assert(currents.size() + 1 == m_curves.size());
    if (!m_watch.grows || ++m_skipped < m_every) return;
    m_skipped = 0;
    for (std::size_t k = 0; k < m_curves.size(); ++k) {
        m_curves[k].x.push_back(time);
        m_curves[k].y.push_back(k == 0 ? torque : currents[k - 1]);
    }
    if (m_curves[0].x.size() > most_points) thin();
    const auto now = std::chrono::steady_clock::now();
    if (now - m_shown < between) return;
    m_shown = now;
    m_watch.grows(m_curves);
}

/// Every second point stays, and of what follows half as much.
void GrowingCurves::thin() {
    for (Curve& curve : m_curves) {
        for (std::vector<double>* values : {&curve.x, &curve.y}) {
            for (std::size_t k = 0; 2 * k < values->size(); ++k) (*values)[k] = (*values)[2 * k];
            values->resize((values->size() + 1) / 2);
        }
    }
    m_every *= 2;
}

} // namespace mavlo
