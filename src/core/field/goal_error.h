#pragma once
// What the mesh leaves of a figure, and where it leaves it.

#include "field/gap_edges.h"
#include "field/solver.h"

#include <vector>

namespace mavlo {

/// A figure at a solved field: the torque, or the flux linkage of a port.
struct Goal {
    int port = -1; ///< -1: the torque
};

/// Errors of one figure, shared out to the triangles of each body's tile. The copies of a triangle round the
/// sector are added up with their sign: what one slot gets wrong and the next takes back does not count.
using TileErrors = std::vector<std::vector<double>>;

/// Estimates for every goal what the exact solution adds to it, with dual weights (R. Becker, R. Rannacher,
/// Acta Numerica 10, 2001): the error is what the field's residual does to the error of the goal's adjoint
/// field. Both are estimated in the cubic functions that second-order elements lack, one on every edge and one
/// in every triangle, each by itself (R. Bank, R. Smith, SIAM J. Numer. Anal. 30(4), 1993):
///   sum over functions f of r_field(f) r_adjoint(f) / a(f, f).
/// Edges on the gap's circles have the gap's energy with them. Torques in N.m, flux linkages in Wb, whole
/// machine.
class GoalErrors {
  public:
    explicit GoalErrors(std::shared_ptr<const FieldModel> model)
        : m_model(std::move(model))
        , m_edges(m_model->gap()) {}
    Result<std::vector<TileErrors>> operator()(FieldSolver& solver, const FieldSolution& field,
                                               const std::vector<Goal>& goals) const;

  private:
    std::shared_ptr<const FieldModel> m_model;
    GapElement::Edges m_edges;
};

} // namespace mavlo
