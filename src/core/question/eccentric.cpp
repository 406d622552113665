#include "question/eccentric.h"

#include "figure/gap_stress.h"
#include "machine/off_centre.h"

#include <fmt/format.h>

namespace mavlo {

QuestionInput eccentricity_input(const char* help, double least) {
    QuestionInput input{"eccentricity", "Eccentricity", "mm", "10 %", help, least, 1000};
    input.percent_of = "gap";
    return input;
}

Problems eccentricity_problems(const Machine& machine, double distance) {
    if (distance <= most_eccentricity * machine.gap) return {};
    return {{"--with eccentricity",
             fmt::format("{:.4g} mm is more than half the gap of {:.4g} mm; up to there it can be told. Name "
                         "less, or a share of the gap such as 10 %.",
                         distance * 1e3, machine.gap * 1e3)}};
}

EccentricMachine::EccentricMachine(QuestionContext& context, std::vector<Position> positions, int displacements,
                                   Eccentricity kind)
    : m_context(&context)
    , m_kind(kind)
    , m_machine(whole_with_room(context.machine, kind))
    , m_positions(std::move(positions))
    , m_runs(1 + displacements) {}

Result<EccentricMachine> EccentricMachine::of(QuestionContext& context, std::vector<Position> positions,
                                              int displacements, Eccentricity kind) {
    EccentricMachine machine(context, std::move(positions), displacements, kind);
    std::vector<FieldSolution> fields;
    auto centred = machine.solve({}, &fields);
    if (!centred) return centred.problems();
    machine.m_centred = std::move(*centred);
    machine.m_fields = std::move(fields);
    return machine;
}

Result<OffCentre> EccentricMachine::solve(const Displacement& displacement, std::vector<FieldSolution>* keep) {
    QuestionContext& c = *m_context;
    ModelOptions options = c.mesh;
    options.displacement = displacement;
    options.displaces_rotor = m_kind == Eccentricity::Dynamic;
    const auto model = prepare_model(c, m_machine, options);
    if (!model) return model.problems();
    const int count = int(m_positions.size()), before = count * m_done++, all = count * m_runs;
    Watch watch{{}, c.watch.stop};
    if (c.watch.progress) watch.progress = [&](int done, int) { c.watch.progress(before + done, all); };
    OffCentre out;
    out.pull.resize(m_positions.size());
    if (keep) keep->resize(m_positions.size());
    const auto results = sweep(
        *model, m_positions, c.threads, watch,
        [&](std::size_t k, const FieldSolution& field) {
            out.pull[k] = rotor_pull(**model, field);
            if (keep) (*keep)[k] = field;
        },
        m_fields.empty() ? nullptr : &m_fields);
    if (!results) return results.problems();
    for (const PositionResult& r : *results) {
        out.torque.push_back(r.torque);
        c.answer.effort.newton_steps += r.newton_steps;
    }
    c.answer.effort.solves += count;
    return out;
}

} // namespace mavlo
