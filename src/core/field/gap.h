#pragma once
// The air gap as one exact element: the annulus between the rotor's and the stator's circles.
//
// In the annulus R1 < r < R2 of air the vector potential of order n is a combination of r^n and r^-n, so it is
// known from its traces on the two circles (A. Abdel-Razek, J.L. Coulomb, M. Féliachi, J.C. Sabonnadière, IEEE
// Trans. Magn. 18(2), 1982). With l = ln(R2/R1), traces s_n, r_n = int A e^{-in theta} / 2 pi, and the rotor
// turned by alpha (r_n -> r_n e^{-in alpha}), the magnetic energy per length is
//   W = 2 pi nu0 sum_{n>0} n [coth(nl) (|s_n|^2 + |r_n|^2) - 2/sinh(nl) Re(s_n* r_n e^{-in alpha})]
//       + pi nu0 |s_0 - r_0|^2 / l,
// and the torque is -dW/dalpha. Rotation enters through alpha alone: no gap mesh, no steps.

#include "field/gap_circle.h"

#include <memory>

namespace mavlo {

class GapElement {
  public:
    /// Traces on the circles of both meshes; `repeat_*` = slots or poles in the sector (the pattern of the gap
    /// nodes).
    GapElement(const SectorMesh& stator, double stator_radius, int stator_repeat, const SectorMesh& rotor,
               double rotor_radius, int rotor_repeat, const Sector& sector);
    ~GapElement();

    /// Unknowns on the circles, in the order of their angle.
    const std::vector<int>& stator_unknowns() const { return m_stator.circle.unknowns(); }
    const std::vector<int>& rotor_unknowns() const { return m_rotor.circle.unknowns(); }
    /// Stiffness of the two circles by themselves, for one sector and one metre; the same at every angle.
    const Eigen::MatrixXd& stator_block() const { return m_stator.block; }
    const Eigen::MatrixXd& rotor_block() const { return m_rotor.block; }
    /// Stiffness between stator rows and rotor columns with the rotor turned by alpha (rad).
    Eigen::MatrixXd coupling(double alpha) const;

    /// Fourier coefficients of the traces on the two circles, for the orders in orders().
    struct Traces {
        std::vector<std::complex<double>> stator, rotor; ///< rotor's already turned by alpha
    };
    const std::vector<int>& orders() const { return m_orders; }
    Traces traces(const Eigen::VectorXd& stator, const Eigen::VectorXd& rotor, double alpha) const;

    /// Torque on the rotor of the whole machine, N.m per metre of length.
    double torque(const Traces& traces) const;
    /// Radial and tangential flux density (T) and potential (Wb/m) at radius r between the circles, at `count`
    /// equal angles from 0 over a whole turn, by one transform each; orders from count/2 on are left out.
    struct Ring {
        std::vector<double> radial, tangential, potential;
    };
    Ring ring(const Traces& traces, double radius, int count) const;

  private:
    struct Side {
        GapCircle circle;
        Eigen::MatrixXcd trace{}; ///< integrals of the first pitch for orders()
        Eigen::MatrixXd block{};
        Side(const SectorMesh& mesh, int pitches, const Sector& sector)
            : circle(mesh, pitches, sector) {}
    };
    struct Lattice;
    std::vector<int> orders_up_to(double highest) const;
    Eigen::RowVectorXd weights(const std::vector<int>& orders, double (*f)(double)) const;
    void fill(Side& side) const;
    Eigen::VectorXcd coefficients(const Side& side, const Eigen::VectorXd& values) const;

    Sector m_sector;
    double m_stator_radius, m_rotor_radius, m_log_ratio;
    std::vector<int> m_orders;       ///< those that cross the gap
    Eigen::RowVectorXd m_crossing{}; ///< what each of them couples the two circles with
    Side m_stator, m_rotor;
    std::unique_ptr<const Lattice> m_lattice; ///< of the angles between slots and poles
};

} // namespace mavlo
