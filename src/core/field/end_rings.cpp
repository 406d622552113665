#include "field/end_rings.h"

#include "quantity/dense.h"

namespace mavlo {

/// D of (D u)_k = u_k - u_(k+1).
Eigen::MatrixXd EndRings::differences() const {
    const Eigen::Index n = count();
    Eigen::MatrixXd d = Eigen::MatrixXd::Identity(n, n);
    for (Eigen::Index k = 0; k < n; ++k) d(k, (k + 1) % n) -= k + 1 < n ? 1 : sign;
    return d;
}

/// What stands against the segments' currents: 2 (R + L rate) + R_e D D^T.
Eigen::MatrixXcd EndRings::impedance(std::complex<double> rate) const {
    const Eigen::MatrixXd d = differences();
    const std::complex<double> own = 2.0 * (resistance + inductance * rate);
    return own * Eigen::MatrixXd::Identity(count(), count()) + bar_ends * d * d.transpose();
}

Eigen::MatrixXcd EndRings::admittance(std::complex<double> rate) const {
    const Eigen::MatrixXcd d = differences();
    return length * d.transpose() * solved(impedance(rate), d);
}

Eigen::VectorXcd EndRings::segments(std::complex<double> rate, const Eigen::VectorXcd& u) const {
    const Eigen::MatrixXcd drop = length * differences() * u;
    return solved(impedance(rate), drop);
}

Eigen::VectorXd EndRings::driven(double per_time, const Eigen::VectorXd& before) const {
    if (inductance == 0) return Eigen::VectorXd::Zero(count());
    const Eigen::VectorXd kept = 2 * inductance * per_time * before;
    return bar_currents(solved(Eigen::MatrixXd(impedance(per_time).real()), kept));
}

Eigen::VectorXd EndRings::segments(double per_time, const Eigen::VectorXd& u,
                                   const Eigen::VectorXd& before) const {
    const Eigen::VectorXd drop = length * differences() * u + 2 * inductance * per_time * before;
    return solved(Eigen::MatrixXd(impedance(per_time).real()), drop);
}

Eigen::VectorXd EndRings::bar_currents(const Eigen::VectorXd& segments) const {
    return -differences().transpose() * segments;
}

double EndRings::loss(const Eigen::VectorXd& segments) const {
    if (empty()) return 0;
    return 2 * resistance * segments.squaredNorm() + bar_ends * bar_currents(segments).squaredNorm();
}

} // namespace mavlo
