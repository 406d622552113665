#pragma once
// Periodic series: harmonics, derivative, resampling. All by the discrete Fourier transform (FFTW).

#include <complex>
#include <vector>

namespace mavlo {

/// Coefficients c_h of y_k = Re sum_h c_h e^{2 pi i h k / n} for h = 0 … n/2: |c_h| is the peak value of
/// harmonic h.
std::vector<std::complex<double>> harmonics(const std::vector<double>& samples);

/// dy/dx at the samples of one period of length `period`, exact for the band-limited series through them. The
/// harmonic at half the sampling rate has no derivative there and is left out.
std::vector<double> derivative(const std::vector<double>& samples, double period);

/// The band-limited series through the samples at `times` as many points.
std::vector<double> resampled(const std::vector<double>& samples, int times);

double mean(const std::vector<double>& samples);
double rms(const std::vector<double>& samples);
double standard_deviation(const std::vector<double>& samples);
/// Largest minus smallest value of the band-limited series (taken eight times as finely as the samples).
double peak_to_peak(const std::vector<double>& samples);

} // namespace mavlo
