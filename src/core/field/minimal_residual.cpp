#include "field/minimal_residual.h"

#include "field/corrections.h"

#include <Eigen/Dense>
#include <cmath>

namespace mavlo {
namespace {

using Vector = std::vector<double>;

void add(Vector& to, double factor, const Vector& x) {
    for (std::size_t i = 0; i < to.size(); ++i) to[i] += factor * x[i];
}

void scale(Vector& x, double factor) {
    for (double& value : x) value *= factor;
}

/// The Hessenberg matrix, turned column by column into a triangle by W. Givens's rotations.
class Triangle {
  public:
    explicit Triangle(int most)
        : m_values(Eigen::MatrixXd::Zero(most + 1, most))
        , m_right(Eigen::VectorXd::Zero(most + 1)) {}
    void begin(double size) { m_right[0] = size; }
    /// Takes the k-th column in, whose entry below the diagonal is `below`; what is then left of the residual.
    double take(Eigen::Index k, const Eigen::VectorXd& column, double below) {
        m_values.col(k).head(k + 1) = column;
        for (Eigen::Index i = 0; i < k; ++i) m_turns[std::size_t(i)].turn(m_values(i, k), m_values(i + 1, k));
        const double size = std::hypot(m_values(k, k), below);
        const Rotation last = size > 0 ? Rotation{m_values(k, k) / size, below / size} : Rotation{1, 0};
        m_turns.push_back(last);
        m_values(k, k) = size;
        last.turn(m_right[k], m_right[k + 1]);
        return std::abs(m_right[k + 1]);
    }
    Eigen::VectorXd solved(Eigen::Index columns) const {
        return m_values.topLeftCorner(columns, columns)
            .triangularView<Eigen::Upper>()
            .solve(m_right.head(columns));
    }

  private:
    struct Rotation {
        double cosine, sine;
        void turn(double& a, double& b) const {
            const double first = cosine * a + sine * b;
            b = cosine * b - sine * a;
            a = first;
        }
    };
    Eigen::MatrixXd m_values;
    Eigen::VectorXd m_right;
    std::vector<Rotation> m_turns;
};

} // namespace

MinimalResidual minimal_residual(const std::function<Vector(const Vector&)>& product, const Vector& b,
                                 double enough, int most) {
    MinimalResidual out{Vector(b.size(), 0.0), 1, 0};
    const double size = std::sqrt(inner(b, b));
    if (!(size > 0)) return {std::move(out.x), 0, 0};
    std::vector<Vector> basis{b};
    scale(basis.front(), 1 / size);
    Triangle triangle(most);
    triangle.begin(size);
    while (out.steps < most && out.left > enough) {
        Vector next = product(basis.back());
        const double before = std::sqrt(inner(next, next));
        Eigen::VectorXd column(Eigen::Index(basis.size()));
        for (std::size_t i = 0; i < basis.size(); ++i) {
            column[Eigen::Index(i)] = inner(basis[i], next);
            add(next, -column[Eigen::Index(i)], basis[i]);
        }
        const double below = std::sqrt(inner(next, next));
        out.left = triangle.take(out.steps, column, below) / size;
        ++out.steps;
        if (!(below > 1e-14 * before)) break; // what was found so far holds the answer
        scale(next, 1 / below);
        basis.push_back(std::move(next));
    }
    const Eigen::VectorXd share = triangle.solved(out.steps);
    for (int k = 0; k < out.steps; ++k) add(out.x, share[k], basis[std::size_t(k)]);
    return out;
}

} // namespace mavlo
