#pragma once
// Conductors whose voltage is their own take a rank of one each off a factored matrix.

#include "field/cholesky.h"
#include "field/conductance.h"

#include <Eigen/Dense>

namespace mavlo {

/// (K - W (S + Y)^-1 W^T / tau)^-1 from the factor of K by M.A. Woodbury's formula; none while nothing was
/// prepared.
class NetRanks {
  public:
    void clear() { m_fields.clear(); }
    /// For the nets of these conductors in a step of 1/tau = `per_time`; `unknowns` of the matrix. The
    /// conductance must outlive what is prepared.
    void prepare(const Conductance& conductance, double per_time, std::size_t unknowns, Cholesky& factor);
    /// To what the factor alone has solved.
    void correct(std::vector<double>& values) const;

  private:
    const std::vector<Conductance::Net>* m_nets = nullptr;
    std::vector<std::vector<double>> m_fields; ///< what the factor makes of each net
    Eigen::MatrixXd m_matrix;                  ///< the small one that brings them in
};

} // namespace mavlo
