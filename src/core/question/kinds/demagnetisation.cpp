// Whether the magnets survive a current or a fault: what is lost, and the back-EMF and torque afterwards.

#include "quantity/constants.h"
#include "question/flux_grid.h"
#include "question/magnet_states.h"
#include "question/period.h"
#include "question/sudden_short.h"
#include "question/supply_inputs.h"
#include "question/supply_run.h"
#include "question/time_map.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <fmt/format.h>
#include <optional>

namespace mavlo::question_demagnetisation {
namespace {

constexpr int points = 36, current_rounds = 12, circuit_rounds = 6, curve_steps = 8;

const std::string as_given = "given", steady = "short-circuit", sudden = "sudden-short-circuit",
                  two_phase = "sudden-two-phase", to_neutral = "sudden-phase-to-neutral";

bool is_sudden(const Inputs& inputs) {
    return inputs.word("case").starts_with("sudden");
}

Fault fault_of_case(const Inputs& inputs) {
    const std::string& which = inputs.word("case");
    return which == two_phase    ? Fault::TwoPhase
           : which == to_neutral ? Fault::PhaseToNeutral
                                 : Fault::ThreePhase;
}

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
    const int rounds = MagnetStates::weakening_rounds + current_rounds + 2 + curve_steps +
                       (which != as_given ? circuit_rounds : 0);
    const FluxGrid grid = is_sudden(inputs) ? sudden_grid(1, machine) : FluxGrid{{}, {}, 0};
    const int common =
        is_sudden(inputs) && has_common_current(fault_of_case(inputs), machine) ? zero_sequence_solves : 0;
    return common + rounds * int(machine.skew.slices().size()) * period_solves(machine, points) +
           int(grid.id.size() * grid.iq.size()) * (grid.points > 0 ? period_solves(machine, grid.points) : 0);
}

std::complex<double> fundamental(const PeriodWithLoci& period) {
    return harmonics(period_series(period.results).flux_linkage[0])[1];
}

/// The current along -d at which psi_d is zero: that of a symmetrical short circuit at high speed, where the
/// resistance does not matter.
Result<double> short_circuit_current(QuestionContext& c, MagnetStates& magnets) {
    double low = 0, high = c.input("current") > 0 ? c.input("current") : 1, psi_low = 0, psi_high = 0;
    const auto psi = [&](double current) -> Result<double> {
        double sum = 0;
        for (const Slice& slice : magnets.slices()) {
            const auto period = magnets.period({-current, 0}, {}, slice);
            if (!period) return period.problems();
            const Dq own = mean_flux_linkage(c.machine, period_series(period->results));
            sum += slice.share * turned(own, c.machine.pole_pairs() * slice.turn).d;
        }
        return sum;
    };
    auto first = psi(0), second = psi(high);
    if (!first) return first;
    if (!second) return second;
    psi_low = *first;
    psi_high = *second;
    double current = high;
    for (int i = 0; i < circuit_rounds && std::abs(psi_high) > 2e-3 * *first; ++i) {
        current = low + (high - low) * psi_low / (psi_low - psi_high);
        auto value = psi(current);
        if (!value) return value;
        low = high, psi_low = psi_high;
        high = current, psi_high = *value;
    }
    return current;
}

/// A current of this size (peak) along the vector that is looked at.
struct Direction {
    Dq unit{-1, 0};
    Dq of(double current) const { return {current * unit.d, current * unit.q}; }
};

/// The current at which one per cent of the magnets is lost; empty beyond ten times the given one.
Result<std::optional<double>> critical_current(MagnetStates& magnets, const Direction& along, double given) {
    double low = 0, high = given;
    const auto lost = [&](double current) -> Result<bool> {
        const auto list = magnets.elements(along.of(current));
        if (!list) return list.problems();
        return magnets.lost(*list) >= 0.01;
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
Problems add_curves(QuestionContext& c, MagnetStates& magnets, const Direction& along, double most) {
    Curve lost{"share_lost", "1", "current", "A", {}, {}},
        least{"flux_density_least", "T", "current", "A", {}, {}},
        knee{"flux_density_knee", "T", "current", "A", {}, {}};
    for (int k = 0; k <= curve_steps; ++k) {
        const double current = most * k / curve_steps;
        const auto list = magnets.elements(along.of(current));
        if (!list) return list.problems();
        for (Curve* curve : {&lost, &least, &knee}) curve->x.push_back(current);
        lost.y.push_back(magnets.lost(*list));
        least.y.push_back(exceeded_by_all_but(*list, 0.01));
        knee.y.push_back(magnets.knee());
    }
    c.answer.curves = {std::move(least), std::move(knee), std::move(lost)};
    return {};
}

/// Where the magnets are how far above their knee, element by element of the sector that is computed; those of
/// several slices lie over each other.
void add_places(QuestionContext& c, const MagnetStates& magnets, std::vector<MagnetElement> list) {
    // The worst last, so that a picture shows it where slices of a stack lie over each other.
    std::sort(list.begin(), list.end(), [&](const MagnetElement& a, const MagnetElement& b) {
        return magnets.margin(a) > magnets.margin(b);
    });
    Curve margin{"magnet_margin", "T", "magnet_element", "1", {}, {}};
    Curve x = margin, y = margin, area = margin;
    x.name = "magnet_place_x", y.name = "magnet_place_y", area.name = "magnet_element_area";
    x.unit = y.unit = "m", area.unit = "m2";
    for (const MagnetElement& element : list) {
        for (Curve* curve : {&margin, &x, &y, &area}) curve->x.push_back(double(margin.y.size()));
        margin.y.push_back(magnets.margin(element));
        x.y.push_back(element.middle.x);
        y.y.push_back(element.middle.y);
        area.y.push_back(element.area);
    }
    for (Curve* curve : {&margin, &x, &y, &area}) c.answer.curves.push_back(std::move(*curve));
}

/// The worst vector of all: joined without load, or under the rated one.
Result<SuddenShort> worst_short(QuestionContext& c, double steady_current) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const auto map = solve_flux_map(*model, sudden_grid(steady_current, c.machine), c.points, c.threads,
                                    c.watch, c.answer.effort);
    if (!map) return map.problems();
    double common = 0;
    if (has_common_current(fault_of_case(c.inputs), c.machine)) {
        const auto found = zero_sequence_inductance(c);
        if (!found) return found.problems();
        common = *found;
    }
    const Conductor conductor = machine_conductor(c.machine);
    const PhasesByMap phases(PositionMap(*map), conductor.end_inductance, common, c.machine.pole_pairs());
    const FaultCircuit circuit =
        fault_circuit(fault_of_case(c.inputs), is_delta(c.machine), conductor.resistance);
    std::optional<SuddenShort> worst;
    for (const Dq before : {Dq{0, 0}, current_vector(c.machine.rating.current, c.machine.rating.advance)}) {
        const auto found = sudden_short_circuit(phases, circuit, c.machine.pole_pairs(),
                                                {c.input("speed"), 0, before}, stop_of(c));
        if (c.watch.stop.stop_requested()) return stopped();
        if (!found) return found.problems();
        if (!worst || found->worst.d < worst->worst.d) worst = *found;
    }
    return *worst;
}

Problems checked(const QuestionContext& c) {
    if (!is_sudden(c.inputs)) return {};
    if (c.machine.winding.phases != 3 || !c.machine.facts().dq_frame)
        return {
            {"--with case", "A sudden short circuit is followed for three phases with magnets on the rotor."}};
    if (auto problems = fault_problems("--with case", fault_of_case(c.inputs), c.machine); !problems.empty())
        return problems;
    if (c.input("speed") <= 0)
        return {{"--with speed",
                 "A short circuit drives currents in a machine that turns: give a speed above zero."}};
    return {};
}

/// The vector that the case is about, and when it is reached.
struct Load {
    Dq vector{};
    std::optional<double> instant{};
    bool is_given = false;
    double current() const { return is_given ? std::hypot(vector.d, vector.q) : -vector.d; }
    Direction along() const {
        const double size = std::hypot(vector.d, vector.q);
        return is_given && size > 0 ? Direction{{vector.d / size, vector.q / size}} : Direction{};
    }
};

Result<Load> load_of(QuestionContext& c, MagnetStates& magnets) {
    if (c.inputs.word("case") == as_given) {
        const double advance = c.input("advance");
        return Load{std::isnan(advance) ? Dq{-c.input("current"), 0}
                                        : current_vector(c.input("current"), advance),
                    {},
                    !std::isnan(advance)};
    }
    const auto symmetrical = short_circuit_current(c, magnets);
    if (!symmetrical) return symmetrical.problems();
    if (!is_sudden(c.inputs)) return Load{{-*symmetrical, 0}};
    const auto found = worst_short(c, *symmetrical);
    if (!found) return found.problems();
    return Load{found->worst, found->time};
}

/// Back-EMF and torque at the rating with the magnets as they are then, over those before.
struct Left {
    double emf = 1, torque = 1;
};
Result<Left> left_after(QuestionContext& c, MagnetStates& magnets,
                        const std::vector<MagnetStates::Share>& shares) {
    const Dq rated = current_vector(c.machine.rating.current, c.machine.rating.advance);
    std::complex<double> emf[2] = {};
    double torque[2] = {};
    for (const bool after : {false, true})
        for (std::size_t k = 0; k < shares.size(); ++k) {
            const Slice& slice = magnets.slices()[k];
            const MagnetStates::Share share = after ? shares[k] : MagnetStates::Share{};
            const auto idle = magnets.period({}, share, slice);
            if (!idle) return idle.problems();
            const auto loaded = magnets.period(rated, share, slice);
            if (!loaded) return loaded.problems();
            emf[after] += std::polar(slice.share, c.machine.pole_pairs() * slice.turn) * fundamental(*idle);
            for (const PositionResult& r : loaded->results) torque[after] += slice.share * r.torque;
        }
    return Left{std::abs(emf[1]) / std::abs(emf[0]), torque[1] / torque[0]};
}

std::string in_words(const QuestionContext& c, const Load& load) {
    if (load.instant) {
        const char* fault = fault_of_case(c.inputs) == Fault::TwoPhase ? "two terminals are joined"
                            : fault_of_case(c.inputs) == Fault::PhaseToNeutral
                                ? "a terminal is joined to the neutral"
                                : "the terminals are joined";
        return fmt::format("{:.4g} A peak along -d, reached {:.3g} ms after {},", load.current(),
                           1e3 * *load.instant, fault);
    }
    if (load.is_given)
        return fmt::format("{:.4g} A peak at {:.4g}° of advance", load.current(),
                           c.input("advance") * 180 / pi);
    return fmt::format("{:.4g} A peak along -d", load.current());
}

Problems run(QuestionContext& c) {
    if (auto problems = checked(c); !problems.empty()) return problems;
    MagnetStates magnets(c, points, solves(c.machine, c.inputs));
    const auto load = load_of(c, magnets);
    if (!load) return load.problems();
    const double current = load->current();
    const auto elements = magnets.elements(load->vector);
    if (!elements) return elements.problems();
    const double lost = magnets.lost(*elements), least = exceeded_by_all_but(*elements, 0.01),
                 margin = magnets.margin(*elements);
    Left left;
    if (lost > 0 || magnets.is_measured()) {
        const auto share = magnets.weakened(load->vector);
        if (!share) return share.problems();
        const auto after = left_after(c, magnets, *share);
        if (!after) return after.problems();
        left = *after;
    }
    const auto critical = critical_current(magnets, load->along(), std::max(current, 1e-3));
    if (!critical) return critical.problems();
    if (auto problems =
            add_curves(c, magnets, load->along(), 1.2 * std::max(current, critical->value_or(current)));
        !problems.empty())
        return problems;
    add_places(c, magnets, *elements);
    c.answer.figures = {
        {"current", current, "A"},
        {"share_lost", lost, "1"},
        {"flux_density_least", least, "T"},
        {"knee", magnets.knee(), "T"},
        {"margin", margin, "T"},
        {"back_emf_left", left.emf, "1"},
        {"torque_left", c.machine.rating.current > 0 ? std::optional(left.torque) : std::nullopt, "1"},
        {"weakening_residual", magnets.residual(), "1"},
        {"current_for_one_percent", *critical, "A"},
        {"current_across", load->instant ? std::optional(load->vector.q) : std::nullopt, "A"},
        {"instant", load->instant, "s"}};
    c.answer.sentence =
        fmt::format("With {} and the magnets at {:.3g} °C, {:.2g} % of them fall below the knee at {:.3g} T",
                    in_words(c, *load), c.machine.magnet()->temperature - 273.15, 100 * lost, magnets.knee());
    c.answer.sentence +=
        lost > 0
            ? fmt::format("; afterwards the back-EMF is {:.2f} % of what it was and the torque at the rated "
                          "current {:.2f} %.",
                          100 * left.emf, 100 * left.torque)
            : fmt::format("; {:.3g} T are left to it.", margin);
    c.answer.sentence += *critical ? fmt::format(" One per cent is lost from {:.4g} A on.", **critical)
                                   : " Ten times that current does not bring one per cent down.";
    if (load->instant) c.answer.sentence += " That vector is taken at every position of the rotor.";
    if (magnets.is_mixed())
        c.answer.sentence +=
            " Every grade is judged by its own knee; the figure names that of the first magnets.";
    c.answer.sentence += magnets.is_measured() ? " What is left follows the measured curves."
                                               : " Beyond the knee the curve is taken as straight down.";
    return {};
}

std::vector<QuestionInput> inputs() {
    QuestionInput which{
        "case", "Current from", "", "given",
        "given: the current below; short-circuit: the steady symmetrical one; "
        "sudden-…: the worst instant after all terminals are joined, two of them, or one with the neutral, "
        "without load or at the rated one."};
    which.kind = InputKind::Choice;
    which.words = {as_given, steady, sudden, two_phase, to_neutral};
    QuestionInput advance{"advance",
                          "Advance (electrical)",
                          "deg",
                          "auto",
                          "Of the given current, from +q towards -d; auto: along -d.",
                          -180,
                          180};
    advance.auto_allowed = true;
    return {
        which,
        {"current", "Current (peak)", "A", "= rating.max_current", "Peak value of the phase current.", 0, 1e6},
        advance,
        {"speed", "Speed", "rpm", "= rating.max_speed", "At which the terminals are joined suddenly.", 0,
         500000}};
}

const RegisterQuestion registered{{"demagnetisation",
                                   "With current",
                                   "Demagnetisation",
                                   "How much of the magnets a current or a short circuit takes away for good.",
                                   inputs(),
                                   solves,
                                   run,
                                   38,
                                   {need_winding, need_magnets},
                                   false,
                                   true}};

} // namespace
} // namespace mavlo::question_demagnetisation
