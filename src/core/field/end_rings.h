#pragma once
// Rings that join the ends of bars: the bars' currents return through them.

#include <Eigen/Core>
#include <complex>
#include <vector>

namespace mavlo {

/// Bars in the order of their angle, each joined to the next by a segment of a ring at either end. Along a bar
/// of the length l the voltage is l u_k with u_k as in Conductance, the segment beyond it carries j_k, and
///   l (u_k - u_(k+1)) + R_e (i_k - i_(k+1)) = 2 (R + L d/dt) j_k,   i_k = j_(k-1) - j_k
/// (G. Kirchhoff's laws; coupled with fields: I.A. Tsukerman et al., IEEE Trans. Magn. 29(2), 1993). In an
/// implicit stage of the time 1/per_time the derivative of j is (j - before) per_time, of phasors j omega times
/// themselves: `rate` is either.
struct EndRings {
    std::vector<std::size_t> bars; ///< nets of the sector's bars; empty: there are no rings
    int sign = 1;                  ///< the bar beyond the last is the first again, or the first reversed
    double length = 0;             ///< of the bars between the rings' planes that the field holds, m
    double resistance = 0, inductance = 0; ///< of one segment of one ring, Ohm, H
    double bar_ends = 0;                   ///< of a bar outside the field, both ends, Ohm

    bool empty() const { return bars.empty(); }
    Eigen::Index count() const { return Eigen::Index(bars.size()); }

    /// Y of  i = -Y u + driven, S.m; in the order of `bars`.
    Eigen::MatrixXcd admittance(std::complex<double> rate) const;
    /// A: the bars' currents that the segments' inductance keeps up. `before`: of the segments, as the stage
    /// remembers them.
    Eigen::VectorXd driven(double per_time, const Eigen::VectorXd& before) const;
    /// Of the segments at the end of the stage.
    Eigen::VectorXd segments(double per_time, const Eigen::VectorXd& u, const Eigen::VectorXd& before) const;
    /// Phasors of the segments (A) where the bars' voltages are u.
    Eigen::VectorXcd segments(std::complex<double> rate, const Eigen::VectorXcd& u) const;
    Eigen::VectorXd bar_currents(const Eigen::VectorXd& segments) const;
    /// W a sector, both rings and what of the bars lies outside the field.
    double loss(const Eigen::VectorXd& segments) const;

  private:
    Eigen::MatrixXd differences() const;
    Eigen::MatrixXcd impedance(std::complex<double> rate) const;
};

} // namespace mavlo
