#pragma once
// What saturable steel answers to flux densities that alternate or turn as a sine.

#include "field/phasor_potential.h"

namespace mavlo {

/// Harmonic balance with one harmonic: the potential is a sine at every place, and of the field strength that
/// it takes the fundamental counts,
///   H = 2/T int h(b(t)) exp(-j omega t) dt,   b(t) = Re(B exp(j omega t))
/// whether B alternates or turns (S. Yamada, K. Bessho, IEEE Trans. Magn. 24(6), 1988; G. Paoli, O. Biro, G.
/// Buchgraber, IEEE Trans. Magn. 34(5), 1998: the effective reluctivity of a sinusoidal B). It is the slope of
/// the energy's mean over a period, which is convex in B. Its own slope is linear in the real and imaginary
/// parts:
///   dH = D dB + E conj(dB),   D = mean of dh/db, E = mean of dh/db exp(-2j omega t)
class HarmonicSteel {
  public:
    explicit HarmonicSteel(const FieldModel& model);
    bool empty() const { return m_model.nonlinear.empty(); }
    /// Takes the field of this potential.
    void set(const PhasorPotential& potential);
    /// Adds int H . grad v.
    void add_forces(PhasorPotential& to) const;
    /// Adds D to the model's matrix values.
    void add_stiffness(std::vector<double>& values) const;
    /// Adds int E conj(grad x) . grad v.
    void add_conjugate_product(const PhasorPotential& x, PhasorPotential& to) const;

  private:
    /// Of a point of quadrature, times its weight; x and y, real and imaginary.
    struct Answer {
        double hx[2], hy[2];
        double d[3];    ///< xx, xy, yy
        double e[3][2]; ///< of the same places
    };
    template <typename Act>
    void each_point(const Act& act) const;

    void find_pattern();
    void assemble_conjugate() const;

    const FieldModel& m_model;
    std::vector<Answer> m_answers; ///< of the nonlinear elements' points, one after another
    SparsePattern m_pattern;       ///< of what E joins
    std::vector<int> m_place;      ///< in it, of each nonlinear element's 21 entries; -1: none
    mutable std::vector<double> m_real, m_imaginary; ///< of int E grad N . grad N, once a product asks for it
    mutable bool m_is_assembled = false;
};

} // namespace mavlo
