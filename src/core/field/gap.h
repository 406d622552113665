#pragma once
// The air gap as one exact element: the annulus between two bodies' circles.
//
// In the annulus R1 < r < R2 of air the vector potential of order n is a combination of r^n and r^-n, so it is
// known from its traces on the two circles (A. Abdel-Razek, J.L. Coulomb, M. Féliachi, J.C. Sabonnadière, IEEE
// Trans. Magn. 18(2), 1982). With l = ln(R2/R1), traces s_n, r_n = int A e^{-in theta} / 2 pi of the
// outer and the inner circle, and the inner body turned by alpha against the outer (r_n -> r_n e^{-in alpha}),
// the magnetic energy per length is
//   W = 2 pi nu0 sum_{n>0} n [coth(nl) (|s_n|^2 + |r_n|^2) - 2/sinh(nl) Re(s_n* r_n e^{-in alpha})]
//       + pi nu0 |s_0 - r_0|^2 / l,
// and the torque on the inner body is -dW/dalpha. In a strip of thickness d that is unrolled at the radius r
// the same holds with l = d/r, since only n l stands in it. Rotation enters through alpha alone: no gap mesh,
// no steps.

#include "field/gap_circle.h"

#include <memory>

namespace mavlo {

class OrderSums;

class GapElement {
  public:
    /// One of its sides: the mesh, the height of its circle on the chart, and the tiles in the sector (the
    /// pattern of the gap's nodes).
    struct Body {
        const BodyMesh& mesh;
        double radius;
        int repeat;
    };
    /// `share`: of the stack's length, which all that it gives is weighed with but fields and traces.
    GapElement(const Body& outer, const Body& inner, const Sector& sector, const Chart& chart = {},
               double share = 1);
    ~GapElement();

    /// Unknowns on the circles, in the order of their angle.
    const std::vector<int>& outer_unknowns() const { return m_outer.circle.unknowns(); }
    const std::vector<int>& inner_unknowns() const { return m_inner.circle.unknowns(); }
    /// Stiffness of the two circles by themselves, for one sector and one metre; the same at every angle.
    const Eigen::MatrixXd& outer_block() const { return m_outer.block; }
    const Eigen::MatrixXd& inner_block() const { return m_inner.block; }
    /// Stiffness between outer rows and inner columns with the inner body turned by alpha (rad) against the
    /// outer.
    Eigen::MatrixXd coupling(double alpha, bool two_cores = false) const;
    /// Its slope over alpha. Of one sector the energy between the circles is s . coupling(alpha) r.
    Eigen::MatrixXd coupling_slope(double alpha) const;

    /// Fourier coefficients of the traces on the two circles, for the orders in orders().
    struct Traces {
        std::vector<std::complex<double>> outer, inner; ///< in the resting frame
    };
    /// How far each body has turned, rad.
    struct Turns {
        double outer = 0, inner = 0;
        double relative() const { return inner - outer; }
    };
    const std::vector<int>& orders() const { return m_orders; }
    Traces traces(const Eigen::VectorXd& outer, const Eigen::VectorXd& inner, Turns turns) const;

    double middle_radius() const; ///< between the circles
    const Chart& chart() const { return m_chart; }
    /// Torque on the inner body of the whole machine, N.m per metre of length; the outer has the opposite.
    double torque(const Traces& traces) const;
    /// What each of orders() has of it.
    std::vector<double> torque_by_order(const Traces& traces) const;
    /// Radial and tangential flux density (T) and potential (Wb/m) at radius r between the circles, at `count`
    /// equal angles from 0 over a whole turn, by one transform each; orders from count/2 on are left out.
    struct Ring {
        std::vector<double> radial, tangential, potential;
    };
    Ring ring(const Traces& traces, double radius, int count) const;

    /// See gap_edges.h.
    class Edges;

  private:
    struct Side {
        GapCircle circle;
        Eigen::MatrixXcd trace{}; ///< integrals of the first pitch for orders()
        Eigen::MatrixXd block{};
        Side(const BodyMesh& mesh, int pitches, const Sector& sector)
            : circle(mesh.gap, mesh.unknown, pitches, sector) {}
    };
    /// All that a circle's own series has: what crosses, and what its elements can carry.
    std::vector<int> orders_on(const GapCircle& circle) const;
    Eigen::RowVectorXd weights(const std::vector<int>& orders, double (*f)(double)) const;
    void fill(Side& side) const;
    Eigen::MatrixXd joined(const Eigen::RowVectorXcd& weights, bool two_cores = false) const;
    Eigen::VectorXcd coefficients(const Side& side, const Eigen::VectorXd& values) const;

    Sector m_sector;
    Chart m_chart;
    double m_share, m_outer_radius, m_inner_radius, m_log_ratio;
    std::vector<int> m_orders;       ///< those that cross the gap
    Eigen::RowVectorXd m_crossing{}; ///< what each of them couples the two circles with
    Side m_outer, m_inner;
    std::unique_ptr<const OrderSums> m_lattice; ///< of the angles between slots and poles
};

} // namespace mavlo
