#pragma once
// Small dense systems. Each decomposition is a long piece of template; here it is compiled once.

#include <Eigen/Core>

namespace mavlo {

/// x of a x = b, a square, by LU with partial pivoting; not finite where a is singular.
Eigen::VectorXd solved(const Eigen::MatrixXd& a, const Eigen::VectorXd& b);
/// The same, one column for each of b's.
Eigen::MatrixXd solved(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b);
Eigen::MatrixXcd solved(const Eigen::MatrixXcd& a, const Eigen::MatrixXcd& b);

/// a = vectors diag(values) vectors^T of a symmetric matrix.
struct SymmetricModes {
    Eigen::VectorXd values;
    Eigen::MatrixXd vectors; ///< orthonormal columns
};
SymmetricModes modes_of(const Eigen::MatrixXd& symmetric);

/// The shortest x of the smallest |a x - b|, by a complete orthogonal decomposition (G.H. Golub, C.F. Van Loan,
/// Matrix Computations, 2013, sec. 5.5).
Eigen::VectorXd least_squares(const Eigen::MatrixXd& a, const Eigen::VectorXd& b);

} // namespace mavlo
