#pragma once
// Asymmetric half-bridges: each phase between an upper and a lower switch, with two diodes that take its
// current back to the link.

#include "circuit/bridge.h"
#include "circuit/gate_control.h"
#include "circuit/network.h"

namespace mavlo {

/// Gates 2k (upper) and 2k + 1 (lower) of phase k; elements "VDC", "SH1", "SL1", "DH1", "DL1", "X1" and so on.
Network half_bridges(const Bridge& bridge, int phases, double resistance);

enum class Chopping { Single, Soft, Hard };

struct StrokeSettings {
    double turn_on = 0, turn_off = 0; ///< electrical, from the phase's aligned position
    Chopping chopping = Chopping::Single;
    double low = 0, high = 0;       ///< A: the band, where currents are chopped
    std::vector<double> aligned{0}; ///< electrical angles of the phases' aligned positions
};

/// Both switches on from turn-on to turn-off, by position. Where the current reaches the band's upper end the
/// upper switch opens (soft) or both (hard), until it falls to the lower end (T.J.E. Miller, Switched
/// Reluctance Motors and Their Control, 1993, ch. 3).
class StrokeControl : public GateControl {
  public:
    explicit StrokeControl(StrokeSettings settings);
    std::unique_ptr<GateControl> copy() const override { return std::make_unique<StrokeControl>(*this); }

    double next_edge(const RotorMoment& now) const override;
    void at_edge(const RotorMoment& now, const Eigen::VectorXd& currents) override;
    int watches() const override;
    double watch(int which, const Eigen::VectorXd& currents) const override;
    void on_watch(int which) override;

    int switchings() const { return m_switchings; } ///< changes by the band so far

  private:
    bool is_on(std::size_t phase, double angle) const;
    void show(std::size_t phase);
    StrokeSettings m_settings;
    std::vector<char> m_on, m_chopped;
    int m_switchings = 0;
};

} // namespace mavlo
