#pragma once
// Newton's method for the field at one rotor angle and set of phase currents.

#include "field/model.h"

#include <memory>
#include <string>
#include <vector>

namespace mavlo {

struct FieldSolution {
    double angle = 0;              ///< of the rotor, mechanical, rad
    PhaseValues current{};         ///< A, each phase
    std::vector<double> potential; ///< A_z of every unknown, Wb/m
    double torque = 0;             ///< on the rotor, N.m, whole machine
    PhaseValues flux_linkage{};    ///< Wb, each phase
    double functional = 0;         ///< stored energy minus work of the sources, J per metre and sector
    int newton_steps = 0;
};

/// One thread's workspace: its own matrix values and factor over a shared model.
class FieldSolver {
  public:
    explicit FieldSolver(std::shared_ptr<const FieldModel> model);

    /// Minimises the convex functional F(A) = int w(B) - sources . A: full Newton steps while they lower F
    /// enough (Armijo rule with halving; J. Nocedal, S. Wright, Numerical Optimization, 2nd ed., ch. 3), so
    /// each step descends. Stops after the step whose squared Newton decrement is below 1e-10 (draft: 1e-7) of
    /// the sources' work; that step's own error is of the order of its square. `start` may be another solution
    /// of the same model.
    Result<FieldSolution> solve(double angle, const PhaseValues& current, const FieldSolution* start = nullptr);

    const FieldModel& model() const { return *m_model; }

  private:
    void set_angle(double angle);
    void set_sources(const PhaseValues& current);
    double assemble(const std::vector<double>& potential, bool with_matrix);
    bool step(FieldSolution& solution, double decrement, bool with_matrix);
    void finish(FieldSolution& solution);

    std::shared_ptr<const FieldModel> m_model;
    std::unique_ptr<Cholesky> m_factor;
    double m_angle;
    std::vector<double> m_base;   ///< matrix of the linear parts at this angle
    std::vector<double> m_values; ///< Newton matrix
    std::vector<double> m_sources, m_residual, m_direction, m_product, m_trial;
};

} // namespace mavlo
