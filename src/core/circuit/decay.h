#pragma once
// How far a run of periods still is from where it goes.

#include <Eigen/Dense>
#include <algorithm>

namespace mavlo {

/// The changes of a state from one period to the next, taken as a geometric series whose rate is that of the
/// slowest mode: what is left is change rate/(1 - rate) (A.C. Aitken, Proc. R. Soc. Edinb. 46, 1926).
class Decay {
  public:
    /// One more period's change, each part over its own largest size.
    void add(const Eigen::VectorXd& change) {
        const double before = m_change.size() == change.size() ? m_change.squaredNorm() : 0;
        m_rate = before > 0 ? m_change.dot(change) / before : 0;
        m_misfit = before > 0 && change.norm() > 0 ? (change - m_rate * m_change).norm() / change.norm() : 1;
        m_change = change;
        ++m_periods;
    }
    void forget() { *this = Decay(); }

    /// Of the largest part; all of it while no rate is known, but for a change that is none.
    double left() const {
        if (m_change.size() == 0) return 1;
        const double change = m_change.cwiseAbs().maxCoeff(), rate = std::clamp(m_rate, 0.0, slowest);
        if (m_periods < 2) return change < no_change ? change : 1;
        return std::max(change, change * rate / (1 - rate));
    }
    /// One slow mode is all that is left: the rest of its way, as the changes are measured.
    bool is_one_mode() const { return m_periods >= 3 && m_rate > 0.3 && m_rate < slowest && m_misfit < 0.05; }
    /// The changes follow from no slow mode: they are what beats between two motions leave from period to
    /// period.
    bool is_beat() const { return m_periods >= 3 && m_misfit > 0.5; }
    double change() const {
        return m_change.size() > 0 ? m_change.cwiseAbs().maxCoeff() : 1;
    }                                                     ///< the last, of its largest part
    double rest() const { return m_rate / (1 - m_rate); } ///< of the last change

  private:
    static constexpr double slowest = 0.9995, no_change = 1e-7;
    Eigen::VectorXd m_change;
    double m_rate = 0, m_misfit = 1;
    int m_periods = 0;
};

} // namespace mavlo
