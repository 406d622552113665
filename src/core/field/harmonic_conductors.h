#pragma once
// What conducts in a field of phasors.

#include "field/conductance.h"
#include "field/phasor_potential.h"

namespace mavlo {

/// The nets of a Conductance where everything alternates with one angular frequency in the conductors' frame:
///   J = sigma (u - j omega A),   M' = M - W (S + Y(j omega))^-1 W^T
class HarmonicConductors {
  public:
    /// `omega`: of the conductors, rad/s, below zero where the field turns backward in them. The conductance
    /// must outlive it.
    HarmonicConductors(const Conductance& conductance, double omega);
    double omega() const { return m_omega; }
    /// Adds j omega M' x.
    void add_product(const PhasorPotential& x, PhasorPotential& to) const;

    struct Flow {
        Eigen::VectorXcd u;        ///< of the nets, V/m
        Eigen::VectorXcd segments; ///< of the rings, A
    };
    Flow flow(const PhasorPotential& potential) const;
    /// Mean losses of each body, W a metre and sector.
    std::vector<double> losses(const FieldModel& model, const PhasorPotential& potential,
                               const Flow& flow) const;

  private:
    Eigen::VectorXcd linked(const PhasorPotential& potential) const;

    const Conductance& m_conductance;
    double m_omega;
    Eigen::MatrixXcd m_inverse; ///< (S + Y)^-1
};

} // namespace mavlo
