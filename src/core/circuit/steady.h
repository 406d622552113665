#pragma once
// The steady state of a machine on its supply, and what a window of it says.

#include "circuit/transient.h"

#include <complex>

namespace mavlo {

struct SteadyOptions {
    int most_periods = 400;  ///< that are run at most
    int window = 1;          ///< periods of the window; more where the supply finds no orbit of one
    double tolerance = 1e-6; ///< of the largest current, from one period to the next
    bool from_zero = false;  ///< the start-up itself: the first `window` periods
    double band = 0;         ///< A, within which switching by current leaves the currents undecided
};

struct SteadyRun {
    std::vector<TransientSample> window;
    int periods = 0; ///< run before the window
    int window_periods = 1;
    bool periodic = false; ///< the last period was the one before it
    double change = 0;     ///< between its ends, over the largest current
    bool is_part = false;  ///< the window was unfolded from a sixth of a period
};

/// Scheduled supplies: Newton's method on the free currents at the period's start (shooting; T.J. Aprille, T.N.
/// Trick, Proc. IEEE 60, 1972), from a few periods run plainly. Others are run until a period repeats, or its
/// ends lie within the band time after time, or for long enough that what remains is their own wandering.
Result<SteadyRun> find_steady(const PhaseMachine& machine, const Clock& clock, std::unique_ptr<Supply> supply,
                              const TransientOptions& transient, const SteadyOptions& options);

/// What the bridge draws from its link, A.
double link_current(const TransientSample& sample);

/// Means over a window; what is sampled is taken as straight between the samples.
struct WindowFigures {
    double torque_mean = 0, torque_peak_to_peak = 0;
    Eigen::Vector3d current_rms = Eigen::Vector3d::Zero();
    double current_peak = 0;         ///< of phase U
    double line_current_rms = 0;     ///< into terminal U
    double line_voltage_rms = 0;     ///< between U and V
    double dc_current_mean = 0;      ///< into the bridge
    double input_power = 0;          ///< of the link, or of the sources
    double copper = 0;               ///< W
    double switches = 0, diodes = 0; ///< W
    double switching_frequency = 0;  ///< Hz, on-off cycles of an upper switch, mean of the legs
};
/// `bridge`: null where sources or given currents feed the phases.
WindowFigures window_figures(const SteadyRun& run, const Bridge* bridge, double resistance);

/// Amplitude and phase (rad) of x = X cos(k theta + phase) over a window, of order k of the electrical
/// frequency; the value is taken as straight between samples, and the wave as it is (L.N.G. Filon, Proc. R.
/// Soc. Edinburgh 49, 1928).
std::complex<double> window_harmonic(const SteadyRun& run, int order,
                                     const std::function<double(const TransientSample&)>& value);

} // namespace mavlo
