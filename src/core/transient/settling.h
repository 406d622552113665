#pragma once
// When a run of periods has settled.

#include <algorithm>
#include <cmath>

namespace mavlo {

/// Judges by how fast what is left of the means of torque and loss falls from one period to the next: their
/// changes are taken as a geometric series (A.C. Aitken, Proc. R. Soc. Edinb. 46, 1926).
class Settling {
  public:
    /// Means of one more period.
    void add(double torque, double loss) {
        const double change = std::max(relative(torque, m_torque), relative(loss, m_loss)),
                     rate = m_change > 0 ? std::min(change / m_change, slowest) : slowest;
        m_left = m_periods < 2 ? 1 : change * rate / (1 - rate);
        m_change = change;
        m_torque = torque;
        m_loss = loss;
        ++m_periods;
    }
    double left() const { return m_left; } ///< of the larger one's size
    int periods() const { return m_periods; }

  private:
    static constexpr double slowest = 0.98;
    static double relative(double now, double before) {
        return std::abs(now - before) / std::max({std::abs(now), std::abs(before), 1e-12});
    }
    double m_torque = 0, m_loss = 0, m_change = 0, m_left = 1;
    int m_periods = 0;
};

} // namespace mavlo
