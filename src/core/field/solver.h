#pragma once
// Newton's method for the field at one rotor angle and set of port currents.

#include "field/corrections.h"
#include "field/model.h"

#include <memory>
#include <string>
#include <vector>

namespace mavlo {

struct FieldSolution {
    double angle = 0;              ///< of the rotor, mechanical, rad
    PortValues current{};          ///< A, each port
    std::vector<double> potential; ///< A_z of every unknown, Wb/m
    double torque = 0;             ///< on the rotor, N.m, whole machine
    PortValues flux_linkage{};     ///< Wb, each port
    double functional = 0;         ///< stored energy minus work of the sources, J per metre and sector
    double coenergy = 0;           ///< J, whole machine: -functional; its slopes are torque and flux linkage
    double energy = 0;             ///< J, whole machine: int H dB from B = 0, in magnets nu B^2/2
    int newton_steps = 0;
    int factorisations = 0;
};

/// One thread's workspace: its own matrix values and factor over a shared model.
class FieldSolver {
  public:
    explicit FieldSolver(std::shared_ptr<const FieldModel> model);

    /// Minimises the convex functional F(A) = int w(B) - sources . A along quasi-Newton directions with an
    /// Armijo rule (J. Nocedal, S. Wright, Numerical Optimization, 2nd ed., ch. 3 and 7.2), so each step
    /// descends. The factor of an earlier tangent matrix, with the gap's root taken anew at this angle and
    /// limited-memory BFGS corrections, serves as long as it converges fast; a fresh one takes its place when
    /// it does not. Stops after the step that leaves an error in the energy norm below 3e-8 (draft: 1e-5) of
    /// the field's own, judged by the rate so far. `start` may be another solution of the same model. Currents
    /// that are left out are zero.
    Result<FieldSolution> solve(double angle, const PortValues& current, const FieldSolution* start = nullptr);

    /// The adjoint field of each figure whose slope over every potential is given: what the tangent matrix at a
    /// solved field makes of the slope. A small source s then changes the figure by s . adjoint.
    Result<std::vector<std::vector<double>>> adjoints(const FieldSolution& field,
                                                      std::vector<std::vector<double>> slopes);

    /// d(flux linkage)/d(current) of the ports (H, whole machine) at a solved field: exact, by the tangent
    /// matrix there (its inverse between the ports' sources).
    Result<std::vector<PortValues>> incremental_inductance(const FieldSolution& field);

    const FieldModel& model() const { return *m_model; }

  private:
    void set_angle(double angle);
    void set_sources(const PortValues& current);
    void multiply_linear(const std::vector<double>& potential);
    double assemble(const std::vector<double>& potential, bool with_matrix);
    bool factorise(FieldSolution& solution);
    void move_knees(const std::vector<double>& potential);
    bool approach(FieldSolution& solution);
    double find_direction();
    bool step(FieldSolution& solution, double decrement);
    void finish(FieldSolution& solution);
    std::string hardest_part() const;

    std::shared_ptr<const FieldModel> m_model;
    std::unique_ptr<Cholesky> m_factor;
    bool m_factored = false; ///< there is a factor, of whatever age
    Corrections m_corrections;
    std::vector<double> m_knee; ///< of each nonlinear point of quadrature, T; empty: the curves as they are
    double m_angle;
    Eigen::MatrixXd m_coupling;   ///< of the gap's two sides, at this angle
    std::vector<double> m_base;   ///< matrix of the linear parts at this angle
    std::vector<double> m_values; ///< tangent matrix, of the iron as it was when last factorised
    std::vector<double> m_sources, m_residual, m_direction, m_product, m_trial;
};

/// The torque is this times the slope over alpha of s . coupling(alpha) r of one sector and one metre.
double torque_scale(const FieldModel& model);
/// Slope of the torque (N.m, whole machine) over every potential.
std::vector<double> torque_slope(const FieldModel& model, const FieldSolution& field);

} // namespace mavlo
