// Whether the magnets survive a current along -d: what is lost, and the back-EMF afterwards.

#include "figure/weakening.h"
#include "map/search.h"
#include "quantity/constants.h"
#include "question/flux_grid.h"
#include "question/period.h"
#include "question/sudden_short.h"
#include "question/supply_inputs.h"

#include <cmath>
#include <fmt/format.h>
#include <optional>

namespace mavlo::question_demagnetisation {
namespace {

constexpr int points = 36, weakening_rounds = 16, current_rounds = 12, circuit_rounds = 6, curve_steps = 8;

const std::string as_given = "given", steady = "short-circuit", sudden = "sudden-short-circuit";

/// Where the currents of a sudden short circuit swing to, over the steady one's.
FluxGrid sudden_grid(double current, const Machine& machine) {
    FluxGrid grid;
    for (int k = 0; k <= 9; ++k) grid.id.push_back(current * (-2.7 + 0.35 * k)); // -2.7 ... 0.45
    for (int k = machine.symmetry.mirrored ? 0 : -4; k <= 4; ++k) grid.iq.push_back(current * 0.5 * k);
    grid.points = 18;
    return grid;
}

int solves(const Machine& machine, const Inputs& inputs) {
    const std::string& which = inputs.word("case");
    const int rounds =
        weakening_rounds + current_rounds + 2 + curve_steps + (which != as_given ? circuit_rounds : 0);
    const FluxGrid grid = which == sudden ? sudden_grid(1, machine) : FluxGrid{{}, {}, 0};
    return rounds * period_solves(machine, points) +
           int(grid.id.size() * grid.iq.size()) * (grid.points > 0 ? period_solves(machine, grid.points) : 0);
}

using Share = Weakening::Share;

/// The machine with its magnets as they are or weakened, solved over a period.
class Magnets {
  public:
    Magnets(QuestionContext& context, const Machine& machine)
        : m_c(context)
        , m_machine(machine)
        , m_magnet(*machine.magnet())
        , m_mu(mu0 * m_magnet.material.magnet.recoil_mu_r)
        , m_knee(m_magnet.material.magnet.knee_at(m_magnet.temperature)) {}

    double knee() const { return m_knee; }

    Result<PeriodWithLoci> period(Dq current, const Share& share) {
        ModelOptions options = m_c.mesh;
        options.remanence_share = share;
        if (!m_model || share != m_share) {
            const auto model = prepare_model(m_c, m_machine, options);
            if (!model) return model.problems();
            m_model = *model;
            m_share = share;
        }
        const auto result = sweep_period_with_loci(m_model, points, current, m_c.threads, {{}, m_c.watch.stop});
        if (!result) return result;
        for (const auto& r : result->results) m_c.answer.effort.newton_steps += r.newton_steps;
        m_c.answer.effort.solves += period_solves(m_machine, points);
        if (m_c.watch.progress)
            m_c.watch.progress(m_c.answer.effort.solves,
                               std::max(m_c.answer.effort.solves + 1, solves(m_machine, m_c.inputs)));
        return result;
    }

    Result<std::vector<MagnetElement>> elements(Dq current, const Share& share = {}) {
        const auto result = period(current, share);
        if (!result) return result.problems();
        return magnet_elements(*m_model, result->loci.rotor);
    }

    /// What each element keeps after this current.
    Result<Share> weakened(Dq current) {
        std::optional<Weakening> weakening;
        for (int round = 0; round < weakening_rounds; ++round) {
            const auto list = elements(current, weakening ? weakening->share() : Share{});
            if (!list) return list.problems();
            if (!weakening) weakening.emplace(m_magnet.own_remanence(), m_knee, m_mu, m_model->elements.size());
            const bool settled = weakening->update(*list);
            m_residual = weakening->residual();
            if (settled) break;
        }
        return weakening->share();
    }
    /// How far the worst element still was from its curve, as a share of the remanence.
    double residual() const { return m_residual; }

  private:
    QuestionContext& m_c;
    const Machine& m_machine;
    const Substance& m_magnet;
    double m_mu, m_knee, m_residual = 0;
    std::shared_ptr<const MachineModel> m_model;
    Share m_share;
};

double fundamental(const PeriodWithLoci& period) {
    return std::abs(harmonics(period_series(period.results).flux_linkage[0])[1]);
}

/// The current along -d at which psi_d is zero: that of a symmetrical short circuit at high speed, where the
/// resistance does not matter.
Result<double> short_circuit_current(QuestionContext& c, Magnets& magnets) {
    double low = 0, high = c.input("current") > 0 ? c.input("current") : 1, psi_low = 0, psi_high = 0;
    const auto psi = [&](double current) -> Result<double> {
        const auto period = magnets.period({-current, 0}, {});
        if (!period) return period.problems();
        return mean_flux_linkage(c.machine, period_series(period->results)).d;
    };
    const auto first = psi(0), second = psi(high);
    if (!first) return first;
    if (!second) return second;
    psi_low = *first;
    psi_high = *second;
    double current = high;
    for (int i = 0; i < circuit_rounds && std::abs(psi_high) > 2e-3 * *first; ++i) {
        current = low + (high - low) * psi_low / (psi_low - psi_high);
        const auto value = psi(current);
        if (!value) return value;
        low = high, psi_low = psi_high;
        high = current, psi_high = *value;
    }
    return current;
}

/// The current along -d at which one per cent of the magnets is lost; empty beyond ten times the given one.
Result<std::optional<double>> critical_current(Magnets& magnets, double given) {
    double low = 0, high = given;
    const auto lost = [&](double current) -> Result<bool> {
        const auto list = magnets.elements({-current, 0});
        if (!list) return list.problems();
        return share_below(*list, magnets.knee()) >= 0.01;
    };
    for (int i = 0; i < 4; ++i) {
        const auto is = lost(high);
        if (!is) return is.problems();
        if (*is) break;
        if (i == 3) return std::optional<double>{};
        low = high;
        high *= 2.2;
    }
    while (high - low > 0.01 * high) {
        const auto is = lost((low + high) / 2);
        if (!is) return is.problems();
        (*is ? high : low) = (low + high) / 2;
    }
    return std::optional((low + high) / 2);
}

/// What is lost and the least flux density, over the current up to `most`.
Problems add_curves(QuestionContext& c, Magnets& magnets, double most) {
    Curve lost{"share_lost", "1", "current", "A", {}, {}},
        least{"flux_density_least", "T", "current", "A", {}, {}},
        knee{"flux_density_knee", "T", "current", "A", {}, {}};
    for (int k = 0; k <= curve_steps; ++k) {
        const double current = most * k / curve_steps;
        const auto list = magnets.elements({-current, 0});
        if (!list) return list.problems();
        for (Curve* curve : {&lost, &least, &knee}) curve->x.push_back(current);
        lost.y.push_back(share_below(*list, magnets.knee()));
        least.y.push_back(exceeded_by_all_but(*list, 0.01));
        knee.y.push_back(magnets.knee());
    }
    c.answer.curves = {std::move(least), std::move(knee), std::move(lost)};
    return {};
}

/// The worst vector of all: joined without load, or under the rated one.
Result<SuddenShort> worst_short(QuestionContext& c, double steady_current) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const auto map = solve_flux_map(*model, sudden_grid(steady_current, c.machine), c.points, c.threads,
                                    c.watch, c.answer.effort);
    if (!map) return map.problems();
    const Conductor conductor = machine_conductor(c.machine);
    std::optional<SuddenShort> worst;
    for (const Dq before : {Dq{0, 0}, current_vector(c.machine.rating.current, c.machine.rating.advance)}) {
        const auto found = sudden_short_circuit(*map, c.machine, conductor.resistance, conductor.end_inductance,
                                                c.input("speed"), before, stop_of(c));
        if (c.watch.stop.stop_requested()) return stopped();
        if (!found) return found.problems();
        if (!worst || found->worst.d < worst->worst.d) worst = *found;
    }
    return *worst;
}

Problems checked(const QuestionContext& c) {
    if (c.machine.magnet()->material.magnet.coercivity <= 0)
        return {{"rotor.magnet.grade",
                 "This grade's coercivity is not known, so its knee is not; give \"coercivity\" in "
                 "the material, or take another grade."}};
    if (c.inputs.word("case") != sudden) return {};
    if (c.machine.winding.phases != 3 || !c.machine.facts().dq_frame)
        return {
            {"--with case", "A sudden short circuit is followed for three phases with magnets on the rotor."}};
    if (c.input("speed") <= 0)
        return {{"--with speed",
                 "A short circuit drives currents in a machine that turns: give a speed above zero."}};
    return {};
}

Problems run(QuestionContext& c) {
    if (auto problems = checked(c); !problems.empty()) return problems;
    const Machine& machine = c.machine;
    const double temperature = machine.magnet()->temperature;
    Magnets magnets(c, machine);
    Dq vector{-c.input("current"), 0};
    std::optional<SuddenShort> instant;
    if (c.inputs.word("case") != as_given) {
        const auto found = short_circuit_current(c, magnets);
        if (!found) return found.problems();
        vector = {-*found, 0};
    }
    if (c.inputs.word("case") == sudden) {
        const auto found = worst_short(c, -vector.d);
        if (!found) return found.problems();
        instant = *found;
        vector = instant->worst;
    }
    const double current = -vector.d;
    const auto elements = magnets.elements(vector);
    if (!elements) return elements.problems();
    const double lost = share_below(*elements, magnets.knee()), least = exceeded_by_all_but(*elements, 0.01);
    const auto before = magnets.period({}, {});
    if (!before) return before.problems();
    double left = 1;
    if (lost > 0) {
        const auto share = magnets.weakened(vector);
        if (!share) return share.problems();
        const auto after = magnets.period({}, *share);
        if (!after) return after.problems();
        left = fundamental(*after) / fundamental(*before);
    }
    const auto critical = critical_current(magnets, std::max(current, 1e-3));
    if (!critical) return critical.problems();
    if (auto problems = add_curves(c, magnets, 1.2 * std::max(current, critical->value_or(current)));
        !problems.empty())
        return problems;
    c.answer.figures = {{"current", current, "A"},
                        {"share_lost", lost, "1"},
                        {"flux_density_least", least, "T"},
                        {"knee", magnets.knee(), "T"},
                        {"margin", least - magnets.knee(), "T"},
                        {"back_emf_left", left, "1"},
                        {"weakening_residual", magnets.residual(), "1"},
                        {"current_for_one_percent", *critical, "A"},
                        {"current_across", instant ? std::optional(vector.q) : std::nullopt, "A"},
                        {"instant", instant ? std::optional(instant->time) : std::nullopt, "s"}};
    c.answer.sentence = fmt::format(
        "With {:.4g} A peak along -d{} and the magnets at {:.3g} °C, {:.2g} % of them fall below "
        "the knee at {:.3g} T",
        current,
        instant ? fmt::format(", reached {:.3g} ms after the terminals are joined,", 1e3 * instant->time) : "",
        temperature - 273.15, 100 * lost, magnets.knee());
    c.answer.sentence += lost > 0
                             ? fmt::format("; afterwards the back-EMF is {:.2f} % of what it was.", 100 * left)
                             : fmt::format("; {:.3g} T are left to it.", least - magnets.knee());
    c.answer.sentence += *critical ? fmt::format(" One per cent is lost from {:.4g} A on.", **critical)
                                   : " Ten times that current does not bring one per cent down.";
    return {};
}

std::vector<QuestionInput> inputs() {
    QuestionInput which{
        "case", "Current from", "", "given",
        "given: the current below; short-circuit: the steady symmetrical one; "
        "sudden-short-circuit: the worst instant after all terminals are joined, without load or "
        "at the rated one."};
    which.kind = InputKind::Choice;
    which.words = {as_given, steady, sudden};
    return {which,
            {"current", "Current along -d (peak)", "A", "= rating.max_current",
             "Peak value of the phase current.", 0, 1e6},
            {"speed", "Speed", "rpm", "= rating.max_speed", "At which the terminals are joined suddenly.", 0,
             500000}};
}

const RegisterQuestion registered{
    {"demagnetisation",
     "With current",
     "Demagnetisation",
     "How much of the magnets a current along -d or a short circuit takes away for good.",
     inputs(),
     solves,
     run,
     38,
     {need_winding, need_magnets},
     false}};

} // namespace
} // namespace mavlo::question_demagnetisation
