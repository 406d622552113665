#pragma once
// One electrical period of positions and what every question over it needs.

#include "figure/park.h"
#include "figure/spectrum.h"
#include "question/question.h"

#include <array>
#include <string>
#include <vector>

namespace mavlo {

/// Positions over one electrical period with the current vector `current` (dq, A) fixed to the rotor.
std::vector<Position> electrical_period(const Machine& machine, int points, Dq current);

/// The columns of a sweep over one electrical period.
struct PeriodSeries {
    std::vector<double> angle_deg; ///< rotor, mechanical
    std::vector<double> torque;
    std::array<std::vector<double>, 3> flux_linkage, current;
    int newton_steps = 0;
};
PeriodSeries period_series(const std::vector<PositionResult>& results);

/// d psi/dt of each phase at this speed (rad/s): the derivative of the band-limited flux linkage.
std::array<std::vector<double>, 3> induced_voltage(const PeriodSeries& series, const Machine& machine,
                                                   double speed);

Curve over_angle(const std::string& name, const std::string& unit, const PeriodSeries& series,
                 const std::vector<double>& y);
inline const std::array<std::string, 3> phase_suffix{"u", "v", "w"};

} // namespace mavlo
