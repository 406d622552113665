#pragma once
// One electrical period of positions and what every question over it needs.

#include "figure/current_wave.h"
#include "figure/loci.h"
#include "figure/spectrum.h"
#include "question/question.h"

#include <complex>
#include <string>
#include <vector>

namespace mavlo {

/// Positions over one electrical period with these currents.
std::vector<Position> electrical_period(const Machine& machine, int points, const CurrentWave& current);

/// Fields that must be solved for a period of so many positions. Where the winding's phases are alike in the
/// field (and `alike` in their currents) a part of the period (a sixth with three phases) tells the whole: see
/// PeriodPart.
int period_solves(const Machine& machine, int points, bool alike = true);

/// Solves what a period needs and unfolds it. Positions that were not solved count no Newton steps.
Result<std::vector<PositionResult>> sweep_period(const std::shared_ptr<const MachineModel>& model, int points,
                                                 const CurrentWave& current, int threads, const Watch& watch);

/// The same, and what every element saw.
struct PeriodWithLoci {
    std::vector<PositionResult> results;
    Loci loci;
};
/// `also` is told of each field that is solved, with its place in the period, from several threads.
Result<PeriodWithLoci> sweep_period_with_loci(const std::shared_ptr<const MachineModel>& model, int points,
                                              const CurrentWave& current, int threads, const Watch& watch,
                                              const Observer& also = {});

/// Results of the first part of a period over the whole of it.
std::vector<PositionResult> unfolded(const std::vector<PositionResult>& first,
                                     const std::vector<Position>& period, const PeriodPart& part);

/// The columns of a sweep over one electrical period.
struct PeriodSeries {
    std::vector<double> angle_deg; ///< rotor, mechanical
    std::vector<double> torque;
    std::vector<std::vector<double>> flux_linkage, current; ///< of each phase
    int newton_steps = 0;
};
PeriodSeries period_series(const std::vector<PositionResult>& results);

/// Harmonics over the period of what all phases link in common, Wb.
std::vector<std::complex<double>> common_waves(const PeriodSeries& series);

/// Means of the flux linkage along d and q, Wb.
Dq mean_flux_linkage(const Machine& machine, const PeriodSeries& series);

/// d psi/dt of each phase at this speed (rad/s): the derivative of the band-limited flux linkage.
std::vector<std::vector<double>> induced_voltage(const PeriodSeries& series, const Machine& machine,
                                                 double speed);

Curve over_angle(const std::string& name, const std::string& unit, const PeriodSeries& series,
                 const std::vector<double>& y);
/// "u", "v", "w", … of a phase in a curve's name.
std::string phase_suffix(std::size_t phase);

} // namespace mavlo
