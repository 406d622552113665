#include "quantity/dense.h"

#include <Eigen/Dense>

namespace mavlo {

Eigen::VectorXd solved(const Eigen::MatrixXd& a, const Eigen::VectorXd& b) {
    return a.partialPivLu().solve(b);
}

Eigen::MatrixXd solved(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b) {
    return a.partialPivLu().solve(b);
}

Eigen::MatrixXcd solved(const Eigen::MatrixXcd& a, const Eigen::MatrixXcd& b) {
    return a.partialPivLu().solve(b);
}

SymmetricModes modes_of(const Eigen::MatrixXd& symmetric) {
    const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> found(symmetric);
    return {found.eigenvalues(), found.eigenvectors()};
}

Eigen::VectorXd least_squares(const Eigen::MatrixXd& a, const Eigen::VectorXd& b) {
    return a.completeOrthogonalDecomposition().solve(b);
}

} // namespace mavlo
