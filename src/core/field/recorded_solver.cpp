#include "field/recorded_solver.h"

namespace mavlo {

Result<FieldSolution> RecordedSolver::solve(double angle, const PortValues& current, const FieldSolution* start,
                                            const StepTerm* term) {
    const FieldQuery query{angle, current, term ? term->per_time : 0};
    if (m_record)
        if (auto kept = m_record->next_field(query)) return std::move(*kept);
    auto field = m_solver.solve(angle, current, start, term);
    if (!field) return field;
    ++m_solves;
    m_newton_steps += field->newton_steps;
    if (m_record) m_record->add(query, *field);
    return field;
}

Result<std::vector<PortValues>> RecordedSolver::incremental_inductance(const FieldSolution& field) {
    if (m_record)
        if (auto kept = m_record->next_inductance()) return std::move(*kept);
    auto inductance = m_solver.incremental_inductance(field);
    if (inductance && m_record) m_record->add(*inductance);
    return inductance;
}

} // namespace mavlo
