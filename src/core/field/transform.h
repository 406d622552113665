#pragma once
// The real discrete Fourier transform (FFTW: M. Frigo, S.G. Johnson, Proc. IEEE 93(2), 2005), safe for threads.

#include <complex>
#include <vector>

namespace mavlo {

/// c_h = sum_k y_k e^{-2 pi i h k / n}, h = 0 … n/2.
std::vector<std::complex<double>> forward_transform(std::vector<double> samples);
/// y_k = sum over all h of c_h e^{2 pi i h k / n}, the coefficients of negative h being the conjugates.
std::vector<double> inverse_transform(std::vector<std::complex<double>> spectrum, int n);

} // namespace mavlo
