// Apparent and incremental inductances, along d and q and of the phases over the rotor's position.

#include "quantity/constants.h"
#include "question/period.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_inductances {
namespace {

using Inductance = std::vector<PhaseValues>;

/// Positions of half an electrical period: after it every sign is turned and the inductances are the same.
int half(const Inputs& inputs) {
    return int(inputs.at("points")) / 2;
}

int solves(const Machine&, const Inputs& inputs) {
    return 2 * half(inputs);
}

struct DqInductance {
    double d, q, dq;
};

/// L_dq = P L P^T with the amplitude-invariant transformation of park.h.
DqInductance in_dq(const Inductance& phases, double theta, const std::vector<double>& lags) {
    const auto column = [&](Dq unit) {
        const PhaseValues i = to_phases(unit, theta, lags);
        PhaseValues psi(phases.size(), 0.0);
        for (std::size_t j = 0; j < psi.size(); ++j)
            for (std::size_t k = 0; k < psi.size(); ++k) psi[j] += phases[j][k] * i[k];
        return to_dq(psi, theta, lags);
    };
    const Dq by_d = column({1, 0}), by_q = column({0, 1});
    return {by_d.d, by_q.q, (by_d.q + by_q.d) / 2};
}

Dq flux_linkage(const Machine& machine, const FieldSolution& field) {
    return to_dq(field.flux_linkage, electrical_angle(machine, field.angle), machine.winding.layout.lags);
}

/// One field after the other over half the period, with what is taken from each.
template <typename Take>
Problems over_half(QuestionContext& c, FieldSolver& solver, Dq current, int done, Take take) {
    auto positions = electrical_period(c.machine, 2 * half(c.inputs), current);
    positions.resize(std::size_t(half(c.inputs)));
    std::optional<FieldSolution> last;
    for (const Position& p : positions) {
        if (c.watch.stop.stop_requested()) return {stopped()};
        auto field = solver.solve(p.angle, p.current, last ? &*last : nullptr);
        if (!field) return field.problems();
        c.answer.effort.newton_steps += field->newton_steps;
        if (auto problems = take(*field); !problems.empty()) return problems;
        last = std::move(*field);
        if (c.watch.progress) c.watch.progress(++done, solves(c.machine, c.inputs));
    }
    return {};
}

void add_phase_curves(Answer& answer, const std::vector<double>& degrees, const std::vector<Inductance>& list) {
    const auto curve = [&](const std::string& name, std::size_t j, std::size_t k) {
        Curve out{name, "H", "rotor_angle", "deg", degrees, {}};
        for (const Inductance& l : list) out.y.push_back(l[j][k]);
        answer.curves.push_back(std::move(out));
    };
    const std::size_t count = list.front().size();
    for (std::size_t k = 0; k < count; ++k) curve("inductance_" + phase_suffix(k), k, k);
    for (std::size_t k = 0; k < count; ++k) {
        const std::size_t next = (k + 1) % count;
        curve("mutual_inductance_" + phase_suffix(k) + phase_suffix(next), k, next);
    }
}

Problems run(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    FieldSolver solver(*model);
    solver.use_two_cores();
    const Dq current = current_vector(c.input("current"), c.input("advance"));
    std::vector<double> degrees;
    std::vector<Inductance> phases;
    std::array<Curve, 3> along{Curve{"incremental_inductance_d", "H", "rotor_angle", "deg", {}, {}},
                               Curve{"incremental_inductance_q", "H", "rotor_angle", "deg", {}, {}},
                               Curve{"incremental_inductance_dq", "H", "rotor_angle", "deg", {}, {}}};
    const double n = half(c.inputs);
    Dq psi, without_d;
    DqInductance mean_inductance{};
    auto wrong = over_half(c, solver, current, 0, [&](const FieldSolution& field) -> Problems {
        const auto l = solver.incremental_inductance(field);
        if (!l) return l.problems();
        const DqInductance dq =
            in_dq(*l, electrical_angle(c.machine, field.angle), c.machine.winding.layout.lags);
        const Dq linkage = flux_linkage(c.machine, field);
        psi = {psi.d + linkage.d / n, psi.q + linkage.q / n};
        mean_inductance = {mean_inductance.d + dq.d / n, mean_inductance.q + dq.q / n,
                           mean_inductance.dq + dq.dq / n};
        degrees.push_back(field.angle * 180 / pi);
        phases.push_back(*l);
        along[0].y.push_back(dq.d);
        along[1].y.push_back(dq.q);
        along[2].y.push_back(dq.dq);
        return {};
    });
    if (!wrong.empty()) return wrong;
    wrong = over_half(c, solver, {0, current.q}, int(n), [&](const FieldSolution& field) -> Problems {
        const Dq linkage = flux_linkage(c.machine, field);
        without_d = {without_d.d + linkage.d / n, without_d.q + linkage.q / n};
        return {};
    });
    if (!wrong.empty()) return wrong;
    c.answer.effort.solves = solves(c.machine, c.inputs);
    add_phase_curves(c.answer, degrees, phases);
    for (Curve& curve : along) {
        curve.x = degrees;
        c.answer.curves.push_back(std::move(curve));
    }
    const auto apparent = [](double change, double by) {
        return std::abs(by) > 1e-9 ? std::optional(change / by) : std::nullopt;
    };
    c.answer.figures = {{"inductance_d_apparent", apparent(psi.d - without_d.d, current.d), "H"},
                        {"inductance_q_apparent", apparent(psi.q, current.q), "H"},
                        {"inductance_d_incremental", mean_inductance.d, "H"},
                        {"inductance_q_incremental", mean_inductance.q, "H"},
                        {"inductance_dq_incremental", mean_inductance.dq, "H"},
                        {"saliency", mean_inductance.q / mean_inductance.d, "1"},
                        {"flux_linkage_without_id", without_d.d, "Wb"}};
    c.answer.sentence = fmt::format(
        "At {:.4g} A along d and {:.4g} A along q small changes of current see {:.4g} mH along d and {:.4g} "
        "mH along q, {:.4g} mH across. The end turns' leakage is left out.",
        current.d + 0.0, current.q + 0.0, 1e3 * mean_inductance.d, 1e3 * mean_inductance.q,
        1e3 * mean_inductance.dq);
    return {};
}

const RegisterQuestion registered{
    {"inductances",
     "With current",
     "Inductances",
     "Apparent and incremental inductances along d and q, and of the phases over the rotor's position.",
     {{"current", "Current (phase, peak)", "A", "= rating.current", "Peak value of the phase current.", 0, 1e6},
      {"advance", "Advance (electrical)", "deg", "= rating.advance", "From +q towards -d.", -360, 360},
      {"points", "Positions", "", "48", "Rotor positions over one electrical period; half are solved.", 8, 2000,
       true}},
     solves,
     run,
     36,
     {need_winding},
     false}};

} // namespace
} // namespace mavlo::question_inductances
