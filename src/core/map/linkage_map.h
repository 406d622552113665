#pragma once
// A switched phase by itself: coenergy, flux linkage and torque over the rotor's angle and its current.

#include <Eigen/Dense>
#include <vector>

namespace mavlo {

/// At a grid of angles and currents, from static fields. Matrices have a row for each current.
struct LinkageGrid {
    std::vector<double> angle; ///< rad, mechanical, from the phase's aligned position: rising, within a period
    std::vector<double> current; ///< A, rising, above zero
    double period = 0;           ///< rad, of the linkages over the angle
    bool even = false;           ///< angles from -period/2 to 0; the other half is its mirror image
    Eigen::MatrixXd coenergy, linkage, torque;
    std::vector<Eigen::MatrixXd> others; ///< linkages of the phases that follow it
};

/// Bicubic Hermite interpolation of the coenergy W(theta, i) with its exact slopes, the linkage over the
/// current and the torque over the angle, and the slope of the linkage over the angle of a spline through it
/// (J. Stoer, R. Bulirsch, Introduction to Numerical Analysis, sec. 2.4). Linkage and torque are the slopes of
/// the one function, so that a run on the map keeps the energy (J.V. Byrne, J.G. Lacy, IEEE Conf. Electrical
/// Variable-Speed Drives, 1976). Above the largest current the linkage rises on as in its last cell.
class LinkageMap {
  public:
    explicit LinkageMap(LinkageGrid grid);

    struct Point {
        double coenergy = 0, linkage = 0, torque = 0; ///< J, Wb, N.m
        double inductance = 0, slope = 0;             ///< d linkage/d current, H; d linkage/d angle, Wb
    };
    Point at(double angle, double current) const;
    /// The current that links this flux (Wb) at an angle; linkages rise with the current.
    double current_of(double angle, double linkage) const;

    const LinkageGrid& grid() const { return m_grid; }
    double largest_current() const { return m_current.back(); }

  private:
    Eigen::Index cell_of(double angle) const;
    LinkageGrid m_grid;
    std::vector<double> m_angle, m_current;                   ///< with both ends of the period, and from zero
    Eigen::MatrixXd m_coenergy, m_linkage, m_torque, m_mixed; ///< a row for each angle
};

/// Slopes of the cubic spline through y at x: the ends level (an even function), or the end's as the
/// beginning's (a periodic one).
enum class SplineEnds { Level, Periodic };
std::vector<double> spline_slopes(const std::vector<double>& x, const std::vector<double>& y, SplineEnds ends);

} // namespace mavlo
