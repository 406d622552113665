#pragma once
// The steady state of a network, and means over a window of it.

#include "circuit/network_run.h"

#include <complex>

namespace mavlo {

struct NetworkWindow {
    std::vector<NetworkSample> samples;
    int periods = 0;       ///< run before it
    bool periodic = false; ///< the last period ended as it began
};

struct NetworkSteady {
    double period = 0;      ///< s
    int window = 1;         ///< periods shown
    int most_periods = 500; ///< run at most
    bool from_start = false;
};

/// Run from rest until a period ends with the linkages and charges it began with (1e-5 of their largest) and
/// the decay of those changes leaves no more than 1e-4 of them to come, then the window.
Result<NetworkWindow> find_network_steady(NetworkRun& run, const NetworkSteady& options);

/// Mean of a product, both factors straight between the samples.
double window_mean(const std::vector<NetworkSample>& samples,
                   const std::function<double(const NetworkSample&)>& one,
                   const std::function<double(const NetworkSample&)>& other);
double window_mean(const std::vector<NetworkSample>& samples,
                   const std::function<double(const NetworkSample&)>& value);

/// Amplitude of the wave Re(c e^{j n omega t}) in what goes straight between the samples; time counts from the
/// first.
std::complex<double> window_harmonic(const std::vector<NetworkSample>& samples, double omega, int order,
                                     const std::function<double(const NetworkSample&)>& value);

/// Voltage from an element's first node to its second.
double voltage_across(const NetworkSample& sample, const Element& element);

} // namespace mavlo
