#pragma once
// A switched machine on its half-bridges, by the map of one phase: the steady stroke and what it gives.

#include "circuit/half_bridges.h"
#include "circuit/network_run.h"
#include "map/linkage_map.h"

namespace mavlo {

/// Angles of `stroke` mechanical, rad; its `aligned` is not asked for: phases follow each other evenly.
struct StrokeDrive {
    Bridge bridge;
    StrokeSettings stroke;
    int phases = 3, periods = 1;           ///< electrical periods in a turn
    double resistance = 0, inductance = 0; ///< of a phase: Ohm; H beside what the map links
    double speed = 0;                      ///< of the shaft, rad/s; above zero
    int steps = 360;                       ///< a period at least
    std::function<bool()> stop{};
};

/// One period of one phase, from its turn-on to the next, angles electrical from its aligned position.
struct StrokePeriod {
    std::vector<NetworkSample> samples;
    int periods = 0;       ///< run before it
    bool periodic = false; ///< it ends as it begins
    int switchings = 0;    ///< by the band
};

/// From no current, until a period ends with the current it began with.
Result<StrokePeriod> run_strokes(const LinkageMap& map, const StrokeDrive& drive);

/// Of the phase, A.
double stroke_current(const NetworkSample& sample);

/// Of a whole machine, whose phases do the same one after the other.
struct StrokeFigures {
    double torque_mean = 0, torque_peak_to_peak = 0;                                     ///< N.m
    double current_rms = 0, current_peak = 0, current_mean = 0, current_at_turn_off = 0; ///< of a phase, A
    double energy = 0;                     ///< the loop's area, J a stroke
    double energy_in = 0, energy_back = 0; ///< from the link and back to it, J a stroke of one phase
    double linkage_peak = 0;               ///< Wb
    double dc_current_mean = 0;            ///< A
    double input_power = 0, copper = 0, switches = 0, diodes = 0; ///< W
    double extinction = 0;          ///< rad mechanical, from the aligned position; where the current has ended
    double switching_frequency = 0; ///< Hz, of one phase's band
};
StrokeFigures stroke_figures(const StrokePeriod& period, const StrokeDrive& drive);

/// A quantity of the phase at an electrical angle from its aligned position, straight between the samples.
class StrokeWave {
  public:
    StrokeWave(const StrokePeriod& period, const std::function<double(const NetworkSample&)>& value);
    StrokeWave(std::vector<double> angle, std::vector<double> value)
        : m_angle(std::move(angle))
        , m_value(std::move(value)) {}
    double at(double angle) const;
    /// Of what changes in steps: the value since the last sample.
    double step_at(double angle) const;

  private:
    std::size_t after(double& angle) const;
    std::vector<double> m_angle, m_value;
};

/// Torque of all phases together at an electrical angle.
double torque_of_phases(const StrokeWave& torque, double angle, int phases);
/// Its peak to peak, from so many points of a stroke.
double ripple_of_phases(const StrokeWave& torque, int phases, int points);

} // namespace mavlo
