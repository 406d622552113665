#pragma once
// Sparse Cholesky factorisation behind a small interface.

#include <memory>
#include <vector>

namespace mavlo {

/// Lower triangle of a symmetric matrix by columns, rows rising, diagonal present.
struct SparsePattern {
    int size = 0;
    std::vector<int> column; ///< size + 1 starts
    std::vector<int> row;
    int position(int i, int j) const; ///< of entry (i, j) with i >= j in the values
};

/// Of a factor's numbers. Single precision takes half the memory and time; what it solves is right to some five
/// digits, and Newton's steps or a refinement make up for the rest.
enum class Precision { Single, Double };

/// One factorisation workspace. Not shared between threads; copy() gives another one with the same analysis.
class Cholesky {
  public:
    virtual ~Cholesky() = default;
    /// Whether what follows is shared with a second core, if there is one. Last digits depend on what is said
    /// here, not on what cores there are.
    virtual void use_two_cores(bool) {}
    /// False when the matrix is not positive definite.
    virtual bool factorise(const std::vector<double>& values) = 0;
    /// Takes only the root's values anew and leaves the elimination of the others as it was: cheap, and exact
    /// when nothing but the root's values changed. A factorisation without a root does all of it again.
    virtual bool refactorise_root(const std::vector<double>& values) { return factorise(values); }
    /// Solves in place with the last factor.
    virtual void solve(std::vector<double>& x) = 0;
    virtual std::unique_ptr<Cholesky> copy(Precision precision = Precision::Double) const = 0;
    virtual double factor_entries() const = 0;
};

/// CHOLMOD, supernodal (Y. Chen, T. Davis, W. Hager, S. Rajamanickam, ACM TOMS 35(3), 2008).
std::unique_ptr<Cholesky> make_cholmod(std::shared_ptr<const SparsePattern> pattern);

/// y = A x for the symmetric matrix whose lower triangle is given.
void multiply(const SparsePattern& pattern, const std::vector<double>& values, const std::vector<double>& x,
              std::vector<double>& y);
/// The same of two vectors at once.
void multiply(const SparsePattern& pattern, const std::vector<double>& values, const std::vector<double>& first,
              const std::vector<double>& second, std::vector<double>& first_product,
              std::vector<double>& second_product);

} // namespace mavlo
