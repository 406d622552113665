#pragma once
// A switched machine by the map of one phase: phases alike, each where it stands, without what they link of
// each other.

#include "circuit/port_machine.h"
#include "map/linkage_map.h"

namespace mavlo {

class LinkageMachine : public PortMachine {
  public:
    /// `aligned`: electrical angles of the phases' aligned positions; `periods`: electrical, in a turn. What
    /// an inductance (H) in series adds is counted to the phases' linkages.
    LinkageMachine(const LinkageMap& map, std::vector<double> aligned, int periods, double series = 0)
        : m_map(map)
        , m_aligned(std::move(aligned))
        , m_periods(periods)
        , m_series(series) {}

    int ports() const override { return int(m_aligned.size()); }
    PortState at(double angle, const Eigen::VectorXd& currents) const override {
        const auto n = Eigen::Index(m_aligned.size());
        PortState s{Eigen::VectorXd::Zero(n), Eigen::MatrixXd::Zero(n, n), 0};
        for (Eigen::Index k = 0; k < n; ++k) {
            const auto p = m_map.at((angle - m_aligned[std::size_t(k)]) / m_periods, currents[k]);
            s.linkage[k] = p.linkage + m_series * currents[k];
            s.inductance(k, k) = p.inductance + m_series;
            s.torque += p.torque;
        }
        return s;
    }

  private:
    const LinkageMap& m_map;
    std::vector<double> m_aligned;
    int m_periods;
    double m_series;
};

} // namespace mavlo
