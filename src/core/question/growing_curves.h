#pragma once
// What a run over time has so far, shown while it goes on.

#include "question/sweep.h"

#include <chrono>

namespace mavlo {

/// Torque and the phases' currents over time, handed on a few times a second. Long runs are thinned, so that
/// what is shown stays small.
class GrowingCurves {
  public:
    /// `watch` must outlive it; nothing is kept where nobody looks.
    GrowingCurves(const Watch& watch, std::size_t phases);
    void add(double time, double torque, const std::vector<double>& currents);

  private:
    void thin();

    const Watch& m_watch;
    std::vector<Curve> m_curves;
    int m_every = 1, m_skipped = 0; ///< of the steps one is kept
    std::chrono::steady_clock::time_point m_shown{};
};

} // namespace mavlo
