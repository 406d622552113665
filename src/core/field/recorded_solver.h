#pragma once
// A solver whose fields are kept in the order they are solved, so that a run that is begun again need not solve
// them anew.

#include "field/solver.h"

#include <optional>

namespace mavlo {

/// What a field was solved for.
struct FieldQuery {
    double angle = 0; ///< of the rotor, mechanical, rad
    PortValues current{};
    double per_time = 0; ///< 1/s: of the step's term; 0: static
    bool operator==(const FieldQuery&) const = default;
};

/// The fields of one run, whose course follows from them alone: run again it asks for the same ones in the same
/// order. What was kept is given back as long as that holds; from the first other query on all is new.
class FieldRecord {
  public:
    virtual ~FieldRecord() = default;
    virtual std::optional<FieldSolution> next_field(const FieldQuery& query) = 0;
    virtual std::optional<std::vector<PortValues>> next_inductance() = 0;
    virtual void add(const FieldQuery& query, const FieldSolution& field) = 0;
    virtual void add(const std::vector<PortValues>& inductance) = 0;
    /// What each field has as many of; others are of another model.
    virtual void expect(std::size_t unknowns, std::size_t ports) = 0;
};

/// FieldSolver for a run in time. Without a record it is that alone.
class RecordedSolver {
  public:
    explicit RecordedSolver(std::shared_ptr<const FieldModel> model, FieldRecord* record = nullptr)
        : m_solver(std::move(model))
        , m_record(record) {
        m_solver.use_two_cores(); // each field waits for the one before
        if (m_record)
            m_record->expect(std::size_t(this->model().unknowns()), std::size_t(this->model().ports()));
    }

    FieldSolver& solver() { return m_solver; }
    const FieldModel& model() const { return m_solver.model(); }

    /// See FieldSolver.
    Result<FieldSolution> solve(double angle, const PortValues& current, const FieldSolution* start,
                                const StepTerm* term = nullptr);
    Result<std::vector<PortValues>> incremental_inductance(const FieldSolution& field);

    int solves() const { return m_solves; } ///< that were not on the record
    int newton_steps() const { return m_newton_steps; }

  private:
    FieldSolver m_solver;
    FieldRecord* m_record;
    int m_solves = 0, m_newton_steps = 0;
};

} // namespace mavlo
