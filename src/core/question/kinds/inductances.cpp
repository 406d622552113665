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

int solves(const Machine& machine, const Inputs& inputs) {
    return 2 * half(inputs) * int(machine.skew.slices().size());
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

/// A slice's field at the stack's `position`, the how manieth, and the slice's share.
struct SliceField {
    const FieldSolution& field;
    std::size_t position;
    double share;
};

/// One field after the other over half the period, slice by slice, with what is taken from each.
template <typename Take>
Problems over_half(QuestionContext& c, FieldSolver& solver, const std::vector<Position>& positions, int done,
                   Take take) {
    for (const Slice& slice : c.machine.skew.slices()) {
        std::optional<FieldSolution> last;
        for (std::size_t k = 0; k < positions.size(); ++k) {
            if (c.watch.stop.stop_requested()) return {stopped()};
            auto field =
                solver.solve(positions[k].angle + slice.turn, positions[k].current, last ? &*last : nullptr);
            if (!field) return field.problems();
            c.answer.effort.newton_steps += field->newton_steps;
            if (auto problems = take({*field, k, slice.share}); !problems.empty()) return problems;
            last = std::move(*field);
            if (c.watch.progress) c.watch.progress(++done, solves(c.machine, c.inputs));
        }
    }
    return {};
}

std::vector<Position> half_period(const QuestionContext& c, Dq current) {
    auto positions = electrical_period(c.machine, 2 * half(c.inputs), current);
    positions.resize(std::size_t(half(c.inputs)));
    return positions;
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
    const auto ports = std::size_t(c.machine.winding.phases);
    const auto positions = half_period(c, current), without = half_period(c, {0, current.q});
    std::vector<double> degrees;
    std::vector<Inductance> phases(positions.size(), Inductance(ports, PhaseValues(ports, 0.0)));
    std::array<Curve, 3> along{Curve{"incremental_inductance_d", "H", "rotor_angle", "deg", {}, {}},
                               Curve{"incremental_inductance_q", "H", "rotor_angle", "deg", {}, {}},
                               Curve{"incremental_inductance_dq", "H", "rotor_angle", "deg", {}, {}}};
    const double n = half(c.inputs);
    const auto& lags = c.machine.winding.layout.lags;
    const auto theta = [&](std::size_t k) { return electrical_angle(c.machine, positions[k].angle); };
    const auto add_linkage = [&](Dq& mean, const SliceField& at) {
        const Dq linkage = to_dq(at.field.flux_linkage, theta(at.position), lags);
        mean = {mean.d + at.share * linkage.d / n, mean.q + at.share * linkage.q / n};
    };
    Dq psi, without_d;
    auto wrong = over_half(c, solver, positions, 0, [&](const SliceField& at) -> Problems {
        const auto l = solver.incremental_inductance(at.field);
        if (!l) return l.problems();
        for (std::size_t j = 0; j < ports; ++j)
            for (std::size_t k = 0; k < ports; ++k) phases[at.position][j][k] += at.share * (*l)[j][k];
        add_linkage(psi, at);
        return {};
    });
    if (!wrong.empty()) return wrong;
    wrong =
        over_half(c, solver, without, solves(c.machine, c.inputs) / 2, [&](const SliceField& at) -> Problems {
            add_linkage(without_d, at);
            return {};
        });
    if (!wrong.empty()) return wrong;
    DqInductance mean_inductance{};
    for (std::size_t k = 0; k < positions.size(); ++k) {
        const DqInductance dq = in_dq(phases[k], theta(k), lags);
        mean_inductance = {mean_inductance.d + dq.d / n, mean_inductance.q + dq.q / n,
                           mean_inductance.dq + dq.dq / n};
        degrees.push_back(positions[k].angle * 180 / pi);
        along[0].y.push_back(dq.d);
        along[1].y.push_back(dq.q);
        along[2].y.push_back(dq.dq);
    }
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
     false,
     true}};

} // namespace
} // namespace mavlo::question_inductances
