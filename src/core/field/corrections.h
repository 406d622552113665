#pragma once
// What the last steps taught about the tangent matrix: limited-memory BFGS around a given factor.

#include <deque>
#include <vector>

namespace mavlo {

/// Two-loop recursion (J. Nocedal, Math. Comp. 35, 1980; Nocedal, Wright, Numerical Optimization, 2nd ed., alg.
/// 7.4) with an initial inverse that the caller applies.
class Corrections {
  public:
    void clear() { m_pairs.clear(); }
    /// A step taken and what it took off the residual. Pairs without positive curvature are passed over.
    void learn(std::vector<double> step, std::vector<double> drop);

    /// Before the initial inverse is applied to the residual …
    void before(std::vector<double>& residual);
    /// … and after it, on the result.
    void after(std::vector<double>& direction) const;

  private:
    static constexpr std::size_t most = 5;
    struct Pair {
        std::vector<double> step, drop;
        double curvature, weight = 0;
    };
    std::deque<Pair> m_pairs; ///< oldest first
};

/// a . b
double inner(const std::vector<double>& a, const std::vector<double>& b);

} // namespace mavlo
