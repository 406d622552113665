#pragma once
// Heat between places that conduct: temperatures of a mesh's nodes and of lumped bodies in one symmetric
// system.

#include "field/cholesky.h"
#include "quantity/problem.h"

#include <Eigen/Core>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace mavlo {

/// Shares of some nodes: of a loss that they take up, or of a mean over them. They sum to 1.
using NodeShares = std::vector<std::pair<int, double>>;

/// Fourier's law and Newton's law of cooling between nodes: C dT/dt + sum over terms of c_t A_t T = P, every
/// A_t symmetric with rows that sum to zero, so that what one node loses others gain. Temperatures in K, powers
/// in W, of the whole machine. Nodes are free or held at a temperature (ambient, coolant).
class HeatSystem {
  public:
    struct Entry {
        int i, j; ///< i >= j; both (i, j) and (j, i) are meant
        double value;
    };
    /// One way heat goes: W/K at a coefficient of 1 (of its unit's choice: W/K, W/(m K), W/(m2 K)).
    struct Term {
        std::string name;
        std::vector<Entry> shape;
        double coefficient = 0;
        double extent = 1;     ///< W/K at a coefficient of 1 from one side as a whole to the other
        bool is_given = false; ///< its coefficient stays
    };

    int add_nodes(int count = 1); ///< of a mesh; the first of them
    int add_body();               ///< a lumped body's node, of which there are few
    void hold(int node, double kelvin);
    bool is_held(int node) const { return m_held[std::size_t(node)]; }
    double held_at(int node) const { return m_temperature[std::size_t(node)]; }
    int nodes() const { return int(m_held.size()); }

    int add_term(std::string name, std::vector<Entry> shape, double coefficient, double extent = 1);
    /// Two nodes joined, W/K.
    int join(std::string name, int a, int b, double conductance);
    void set_coefficient(int term, double coefficient);
    /// All terms of this name together let through this much (W/K), whatever coefficients are set later; false
    /// where there is none.
    bool give(const std::string& name, double conductance);
    const std::vector<Term>& terms() const { return m_terms; }
    void add_capacity(const std::vector<Entry>& shape, double factor); ///< J/K
    void add_capacity(int node, double joules_per_kelvin);

    /// Steady temperatures of all nodes with these powers (W, of all nodes). Problems where some place has no
    /// way to a held one.
    Result<Eigen::VectorXd> steady(const Eigen::VectorXd& power);
    /// As steady(), from other powers with held nodes at zero: what a power does, and the adjoint of a mean.
    Result<Eigen::VectorXd> answer(const Eigen::VectorXd& power);
    Eigen::VectorXd spread(const NodeShares& shares, double watts) const;
    static double mean(const NodeShares& shares, const Eigen::VectorXd& temperature);

    /// y . A_t x of a term with its coefficient: how much the mean whose adjoint y is falls for a relative rise
    /// of the term.
    double between(int term, const Eigen::VectorXd& y, const Eigen::VectorXd& x) const;
    /// W that a term takes out of each node.
    Eigen::VectorXd flow(int term, const Eigen::VectorXd& temperature) const;
    /// W into the held node by all terms.
    double into(int held, const Eigen::VectorXd& temperature) const;

    /// Some of the free nodes in an order of their own, and where the terms' entries stand in their matrix.
    struct Numbering {
        std::vector<int> place; ///< of each node; -1: not among them
        int count = 0;
        std::shared_ptr<SparsePattern> pattern;
        std::vector<std::vector<int>>
            entries; ///< of each term, and last of the capacity; -1: not in the matrix
    };

    /// A run in time with steps of one length: implicit, of order two (SDIRK2: R. Alexander, SIAM J. Numer.
    /// Anal. 14(6), 1977), stable however stiff. Powers are held over a step.
    class Run {
      public:
        Run(HeatSystem& system, Eigen::VectorXd temperature, double step);
        std::optional<Problem> go(const Eigen::VectorXd& power);
        const Eigen::VectorXd& temperature() const { return m_temperature; }
        double time() const { return m_time; }

      private:
        HeatSystem& m_system;
        Numbering m_numbering;
        Eigen::VectorXd m_temperature;
        double m_step, m_time = 0;
        std::unique_ptr<Cholesky> m_factor;
    };

  private:
    Numbering numbered(bool with_bodies) const;
    std::vector<double> values(const Numbering& of, double per_time) const;
    static Eigen::VectorXd solve(Cholesky& factor, const Numbering& of, const Eigen::VectorXd& power);
    bool touches_mesh(const Term& term) const;
    bool prepare();
    bool join_bodies();
    bool touches_bodies(const Term& term) const;
    enum class Which { All, OfBodies, BetweenBodiesAndMesh }; ///< by terms
    Eigen::VectorXd product(const Eigen::VectorXd& x, Which which = Which::All) const;
    Problem nowhere() const;

    std::vector<bool> m_of_bodies; ///< of the terms, once they are numbered
    std::vector<bool> m_held, m_is_body;
    std::vector<double> m_temperature; ///< of held ones
    std::vector<Term> m_terms;
    std::vector<Entry> m_capacity;
    Numbering m_mesh;
    std::unique_ptr<Cholesky> m_factor; ///< of the mesh with all bodies held
    std::vector<int> m_bodies;          ///< free ones
    Eigen::MatrixXd m_shapes;           ///< of the mesh's nodes, where one body is at 1 and the others at 0
    Eigen::MatrixXd m_by_mesh;          ///< what bodies exchange through it, W/K
    Eigen::MatrixXd m_inverse;          ///< of what the bodies have among them, mesh included
    bool m_numbered = false, m_factored = false, m_joined = false;
};

} // namespace mavlo
