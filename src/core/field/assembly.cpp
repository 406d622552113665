// What a potential makes: residuals, the functional, and the tangent matrix of the steel.

#include "field/side_by_side.h"
#include "field/solver.h"

#include <numeric>

namespace mavlo {
namespace {

/// Points of quadrature that an element has at the most.
constexpr int most_points = 6;

/// The curve made straight beyond a knee.
BhCurve::Value beyond_knee(const BhCurve& curve, double knee, double b) {
    if (b <= knee) return curve.at(b);
    auto value = curve.at(knee);
    const double beyond = b - knee;
    value.energy += beyond * (value.h + value.dh_db * beyond / 2);
    value.h += value.dh_db * beyond;
    return value;
}

/// Potentials of a block's nodes.
struct BlockValues {
    Lanes a[6];
    BlockValues(const ElementBlock& block, const std::vector<double>& potential) {
        for (std::size_t k = 0; k < 6; ++k)
            for (std::size_t l = 0; l < vector_lanes; ++l)
                a[k][l] = block.sign[k][l] * potential[std::size_t(block.unknown[k][l])];
    }
};

} // namespace

/// What the gap, and a step's conductors, make of the potential.
void FieldSolver::multiply_gap(const std::vector<double>& potential) {
    for (std::size_t k = 0; k < m_model->gaps.size(); ++k) {
        const GapElement& gap = m_model->gap(k);
        const Eigen::VectorXd outer = gather(gap.outer_unknowns(), potential),
                              inner = gather(gap.inner_unknowns(), potential);
        m_outer_product[k].noalias() = gap.outer_block() * outer + m_coupling[k] * inner;
        m_inner_product[k].noalias() = gap.inner_block() * inner + m_coupling[k].transpose() * outer;
    }
    if (m_conductance) m_eddy_product = m_stage->times(potential);
}

/// Adds the forces of some blocks of steel and, on demand, their tangent matrix; returns their energy.
double FieldSolver::add_blocks(std::size_t from, std::size_t to, const std::vector<double>& potential,
                               bool with_matrix) {
    const FieldModel& m = *m_model;
    const ElementLoops& loops = element_loops();
    Lanes energy{}; // one sum a lane, so that none waits for the others
    Lanes b[most_points], h[most_points], dh_db[most_points], nu[most_points], extra[most_points], out[21];
    for (std::size_t index = from; index < to; ++index) {
        const ElementBlock& block = m.blocks.blocks[index];
        const BlockPoint* points = &m.blocks.points[std::size_t(block.first)];
        const BhCurve& curve = m.laws[std::size_t(block.law)];
        const double* knee = m_knee.empty() ? nullptr : &m_knee[std::size_t(block.first) * vector_lanes];
        const BlockValues values(block, potential);
        loops.flux_density(points, block.count, values.a, b);
        for (std::size_t q = 0; q < std::size_t(block.count); ++q)
            for (std::size_t l = 0; l < vector_lanes; ++l) {
                const auto value = knee ? beyond_knee(curve, *knee++, b[q][l]) : curve.at(b[q][l]);
                energy[l] += points[q].weight[l] * value.energy;
                h[q][l] = value.h;
                dh_db[q][l] = value.dh_db;
            }
        loops.reluctivity(points, block.count, b, h, dh_db, nu, extra);
        loops.force(points, block.count, values.a, nu, out);
        for (std::size_t k = 0; k < 6; ++k)
            for (std::size_t l = 0; l < vector_lanes; ++l)
                m_forces[std::size_t(block.force[k][l])] += block.sign[k][l] * out[k][l];
        if (!with_matrix) continue;
        loops.stiffness(points, block.count, values.a, nu, extra, out);
        for (std::size_t k = 0; k < 21; ++k)
            for (std::size_t l = 0; l < vector_lanes; ++l)
                m_values[std::size_t(block.entry[k][l])] += block.entry_sign[k][l] * out[k][l];
    }
    return std::accumulate(std::begin(energy), std::end(energy), 0.0);
}

/// Residual = sources - internal forces, and on demand the tangent matrix; returns the functional, which costs
/// nothing more.
double FieldSolver::assemble(const std::vector<double>& potential, bool with_matrix) {
    const FieldModel& m = *m_model;
    const ElementBlocks& blocks = m.blocks;
    m_forces.assign(blocks.forces.size(), 0.0);
    if (with_matrix) {
        m_values = m_base;
        m_values.resize(blocks.entries.size(), 0.0);
    }
    double first = 0, second = 0;
    side_by_side(
        m_two_cores,
        [&] {
            multiply(m.linear_pattern, m.linear_part, potential, m_product);
            first = add_blocks(0, blocks.second, potential, with_matrix);
        },
        [&] {
            multiply_gap(potential);
            second = add_blocks(blocks.second, blocks.blocks.size(), potential, with_matrix);
        });
    const auto add = [this](const std::vector<int>& unknowns, const Eigen::VectorXd& values) {
        for (std::size_t i = 0; i < unknowns.size(); ++i)
            m_product[std::size_t(unknowns[i])] += values[Eigen::Index(i)];
    };
    for (std::size_t k = 0; k < m.gaps.size(); ++k) {
        add(m.gap(k).outer_unknowns(), m_outer_product[k]);
        add(m.gap(k).inner_unknowns(), m_inner_product[k]);
    }
    if (m_conductance)
        for (std::size_t i = 0; i < m_product.size(); ++i) m_product[i] += m_per_time * m_eddy_product[i];
    blocks.forces.fold(m_forces);
    if (with_matrix) {
        blocks.entries.fold(m_values);
        m_values.resize(m_base.size());
    }
    for (std::size_t i = 0; i < m_residual.size(); ++i)
        m_residual[i] = m_sources[i] - m_product[i] - m_forces[i];
    return inner(potential, m_product) / 2 - inner(m_sources, potential) + first + second;
}

/// Where the curves are made straight for the next of Newton's steps. Newton's method on A overshoots where
/// steel saturates: H(B) is so convex there that the flux density a tangent asks for lies far beyond the knee,
/// and comes back by a little each step. What the tangent says of H is much nearer the truth, so a knee moves
/// to the flux density that belongs to that H (Newton's method in the dual variable, as T. Chan, G. Golub, P.
/// Mulet, SIAM J. Sci. Comput. 20(6), 1999, do for another convex functional); where B falls, it follows B.
void FieldSolver::move_knees(const std::vector<double>& potential) {
    const ElementBlocks& all = m_model->blocks;
    const bool first = m_knee.empty();
    m_knee.resize(all.points.size() * vector_lanes);
    double* knee = m_knee.data();
    Lanes b[most_points];
    for (const ElementBlock& block : all.blocks) {
        const BhCurve& curve = m_model->laws[std::size_t(block.law)];
        element_loops().flux_density(&all.points[std::size_t(block.first)], block.count,
                                     BlockValues(block, potential).a, b);
        for (std::size_t q = 0; q < std::size_t(block.count); ++q)
            for (std::size_t l = 0; l < vector_lanes; ++l, ++knee) {
                const double at = b[q][l];
                *knee = first || at <= *knee ? at : curve.flux_density(beyond_knee(curve, *knee, at).h);
            }
    }
}

} // namespace mavlo
