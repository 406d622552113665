#pragma once
// Newton's method for the field at one rotor angle and set of port currents.

#include "field/conductance.h"
#include "field/corrections.h"
#include "field/model.h"
#include "field/net_ranks.h"

#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace mavlo {

struct Position {
    double angle = 0;     ///< rotor, mechanical, rad
    PortValues current{}; ///< A, each port; left out: none
};

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

/// What a stage of an implicit step in time adds to the functional, with M' of the conductors:
///   (A - from) . M' (A - from) / (2 tau)
/// and the work of the currents that rings at their ends keep up.
struct StepTerm {
    const Conductance* conductance;
    double per_time; ///< 1/tau, 1/s
    const std::vector<double>* from;
    const Eigen::VectorXd* segments; ///< of the rings, as the stage remembers them, A; empty without rings
};

/// One thread's workspace: its own matrix values and factor over a shared model.
class FieldSolver {
  public:
    explicit FieldSolver(std::shared_ptr<const FieldModel> model);
    /// The square of the error that may be left, in the energy norm over the field's own; less than a solve's
    /// standard serves where fields follow each other closely.
    void set_tolerance(double squared) { m_tolerance = squared; }
    /// Shares each field with a second core where there is one, for fields that follow from one another; last
    /// digits are then others, the same with any number of cores.
    void use_two_cores();

    /// Minimises the convex functional F(A) = int w(B) - sources . A along quasi-Newton directions with an
    /// Armijo rule (J. Nocedal, S. Wright, Numerical Optimization, 2nd ed., ch. 3 and 7.2), so each step
    /// descends. The factor of an earlier tangent matrix, with the gap's root taken anew at this angle and
    /// limited-memory BFGS corrections, serves as long as it converges fast; a fresh one takes its place when
    /// it does not. Stops after the step that leaves an error in the energy norm below 3e-8 (draft: 1e-5;
    /// set_tolerance) of the field's own, judged by the rate so far. `start` may be another solution of the
    /// same model. Currents that are left out are zero. With a step in time its term is a part of what is
    /// minimised; adjoints and inductances are then, until the next solve, those of the step.
    Result<FieldSolution> solve(double angle, const PortValues& current, const FieldSolution* start = nullptr,
                                const StepTerm* term = nullptr);

    /// The adjoint field of each figure whose slope over every potential is given: what the tangent matrix at a
    /// solved field makes of the slope. A small source s then changes the figure by s . adjoint.
    Result<std::vector<std::vector<double>>> adjoints(const FieldSolution& field,
                                                      std::vector<std::vector<double>> slopes);

    /// d(flux linkage)/d(current) of the ports (H, whole machine) at a solved field: exact, by the tangent
    /// matrix there (its inverse between the ports' sources).
    Result<std::vector<PortValues>> incremental_inductance(const FieldSolution& field);

    const FieldModel& model() const { return *m_model; }

  private:
    void set_step(const StepTerm* term);
    void put_coupling(std::vector<double>& values) const;
    void set_angle(double angle);
    void set_sources(const PortValues& current, const StepTerm* term);
    void take_precision(Precision precision);
    void solve_with_factor(std::vector<double>& values);
    void solve_exactly(std::vector<double>& values);
    void prepare_nets();
    double work_of_sources(const std::vector<double>& potential) const;
    void multiply_gap(const std::vector<double>& potential);
    double add_blocks(std::size_t from, std::size_t to, const std::vector<double>& potential, bool with_matrix);
    double assemble(const std::vector<double>& potential, bool with_matrix);
    bool factorise(FieldSolution& solution);
    void move_knees(const std::vector<double>& potential);
    bool approach(FieldSolution& solution);
    double find_direction();
    bool step(FieldSolution& solution, double decrement);
    void finish(FieldSolution& solution);
    bool stands_at(const FieldSolution& start, const StepTerm* term) const;
    double move_sources(const std::vector<double>& potential, const std::vector<double>& before);
    std::string hardest_part() const;

    std::shared_ptr<const FieldModel> m_model;
    Precision m_precision;
    std::unique_ptr<Cholesky> m_factor;
    bool m_factored = false; ///< there is a factor, of whatever age
    Corrections m_corrections;
    std::vector<double> m_knee; ///< of each nonlinear point of quadrature, T; empty: the curves as they are
    double m_angle, m_tolerance;
    bool m_begins_far = false; ///< the last field of a map could not use an old factor, nor will the next
    std::vector<Eigen::MatrixXd> m_coupling; ///< of each gap's two sides, at this angle; none before one is set
    std::vector<double> m_base;              ///< matrix of the linear parts at this angle
    std::vector<double> m_values;            ///< tangent matrix, of the iron as it was when last factorised
    std::vector<double> m_sources, m_residual, m_before, m_direction, m_product, m_trial;
    std::vector<double> m_forces; ///< of the steel, and behind them what its second half has again
    std::vector<Eigen::VectorXd> m_outer_product, m_inner_product; ///< of the gaps' sides
    std::vector<double> m_eddy_product;
    bool m_two_cores = false;
    /// Where the residual is that of the last solution.
    struct Stand {
        double angle = 0;
        const Conductance* conductance = nullptr;
        double per_time = 0, functional = 0;
        std::vector<double> potential{};
    };
    Stand m_stands;
    const Conductance* m_conductance = nullptr; ///< of the step in time; null: a static field
    double m_per_time = 0;                      ///< of the step
    std::optional<ConductingStage> m_stage;
    std::vector<double> m_memory; ///< what the step remembers, M' from / tau, which m_sources hold too
    NetRanks m_nets;              ///< of the factor
    double m_factored_per_time = 0;
};

/// The torque is this times the slope over alpha of s . coupling(alpha) r of one sector and one metre.
double torque_scale(const FieldModel& model);
/// Slope of the torque (N.m, whole machine) over every potential.
std::vector<double> torque_slope(const FieldModel& model, const FieldSolution& field);

} // namespace mavlo
