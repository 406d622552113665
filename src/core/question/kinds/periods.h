#pragma once
// One electrical period of positions and what every question over it needs.

#include "figure/loci.h"
#include "figure/park.h"
#include "figure/spectrum.h"
#include "question/question.h"

#include <array>
#include <string>
#include <vector>

namespace mavlo {

/// Positions over one electrical period with the current vector `current` (dq, A) fixed to the rotor.
std::vector<Position> electrical_period(const Machine& machine, int points, Dq current);

/// Fields that must be solved for a period of so many positions. Where the winding's phases are alike in the
/// field a sixth of the period tells the whole: after it the magnets have gone on by a third of their period
/// less half of it, so torque repeats and the phases have changed places (half a period turns every sign).
int period_solves(const Machine& machine, int points);

/// Solves what a period needs and unfolds it. Positions that were not solved count no Newton steps.
Result<std::vector<PositionResult>> sweep_period(const std::shared_ptr<const FieldModel>& model, int points,
                                                 Dq current, int threads, const Watch& watch);

/// The same, and what every element saw.
struct PeriodWithLoci {
    std::vector<PositionResult> results;
    Loci loci;
};
Result<PeriodWithLoci> sweep_period_with_loci(const std::shared_ptr<const FieldModel>& model, int points,
                                              Dq current, int threads, const Watch& watch);

/// Electrical frequency (Hz) at a shaft speed (rad/s), never negative.
double electrical_frequency(const Machine& machine, double speed);

/// Results of the first sixth of a period over the whole of it.
std::vector<PositionResult> unfolded(const std::vector<PositionResult>& sixth,
                                     const std::vector<Position>& period);

/// The columns of a sweep over one electrical period.
struct PeriodSeries {
    std::vector<double> angle_deg; ///< rotor, mechanical
    std::vector<double> torque;
    std::array<std::vector<double>, 3> flux_linkage, current;
    int newton_steps = 0;
};
PeriodSeries period_series(const std::vector<PositionResult>& results);

/// Means of the flux linkage along d and q, Wb.
Dq mean_flux_linkage(const Machine& machine, const PeriodSeries& series);

/// d psi/dt of each phase at this speed (rad/s): the derivative of the band-limited flux linkage.
std::array<std::vector<double>, 3> induced_voltage(const PeriodSeries& series, const Machine& machine,
                                                   double speed);

Curve over_angle(const std::string& name, const std::string& unit, const PeriodSeries& series,
                 const std::vector<double>& y);
inline const std::array<std::string, 3> phase_suffix{"u", "v", "w"};

} // namespace mavlo
