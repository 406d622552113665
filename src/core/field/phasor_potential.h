#pragma once
// Phasors of the field's unknowns.

#include "field/model.h"

#include <complex>

namespace mavlo {

/// Of every unknown's potential: A(t) = Re((re + j im) exp(j omega t)), peak.
struct PhasorPotential {
    std::vector<double> re, im;

    static PhasorPotential zero(std::size_t unknowns) {
        return {std::vector<double>(unknowns, 0.0), std::vector<double>(unknowns, 0.0)};
    }
    /// this += factor x
    void add(std::complex<double> factor, const PhasorPotential& x) {
        for (std::size_t i = 0; i < re.size(); ++i) {
            re[i] += factor.real() * x.re[i] - factor.imag() * x.im[i];
            im[i] += factor.real() * x.im[i] + factor.imag() * x.re[i];
        }
    }
    void scale(std::complex<double> factor) {
        for (std::size_t i = 0; i < re.size(); ++i) {
            const std::complex<double> value = factor * std::complex<double>(re[i], im[i]);
            re[i] = value.real();
            im[i] = value.imag();
        }
    }
    double squared() const;
};

} // namespace mavlo
