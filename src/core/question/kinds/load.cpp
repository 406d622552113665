// Torque, flux linkage and voltage over one electrical period, with currents given or those a supply drives.

#include "quantity/constants.h"
#include "quantity/dense.h"
#include "question/load_answer.h"
#include "question/load_inputs.h"
#include "question/skew_inputs.h"
#include "question/stray_field.h"
#include "question/stroke_inputs.h"
#include "question/supply_run.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_load {
namespace {

/// The currents as the inputs give them.
CurrentWave wave_of(const Machine& machine, const Inputs& inputs) {
    const double current = inputs.at("current"), advance = inputs.at("advance"), periods = machine.pole_pairs();
    const std::string& word = inputs.word("waveform");
    const WaveForm form = word != "auto"             ? wave_form(word)
                          : machine.facts().switched ? WaveForm::Stroke
                                                     : WaveForm::Sine;
    const bool alike = inputs.list("amplitudes").empty() && inputs.list("offsets").empty() &&
                       inputs.list("lags").empty() && inputs.at("open_phase") == 0 &&
                       inputs.at("short_phase") == 0;
    if (form == WaveForm::Sine && alike) return current_vector(current, advance);
    CurrentWave wave(form, current, advance);
    wave.set_stroke(periods * inputs.at("turn_on"), periods * inputs.at("turn_off"));
    wave.set_table(inputs.list("wave"));
    wave.set_amplitudes(inputs.list("amplitudes"));
    wave.set_offsets(inputs.list("offsets"));
    wave.set_own_lags(inputs.list("lags"));
    if (const int open = int(inputs.at("open_phase")); open > 0) wave.open(open - 1);
    return wave;
}

constexpr int most_rounds = 8;
const std::string given_currents = "currents";

bool on_supply(const Inputs& inputs) {
    return inputs.word("supply") != given_currents;
}

int solves(const Machine& machine, const Inputs& inputs) {
    if (inputs.at("short_phase") > 0) return 4 * int(inputs.at("points")); // about
    if (on_supply(inputs))
        return time_map_solves(machine, inputs) + zero_sequence_of_terminals_solves(machine) +
               int(inputs.at("points"));
    const int points = int(inputs.at("points")),
              sweep = period_solves(machine, points, wave_of(machine, inputs).alike(machine.facts().switched));
    return (sweep + solid_loss_solves(machine, inputs.at("speed"), points)) *
           int(skew_of(machine, inputs).slices().size());
}

/// How the sentence begins.
std::string current_words(const QuestionContext& c) {
    return on_supply(c.inputs)
               ? fmt::format(
                     "With the currents that {} drives (by the flux map; a carrier's ripple is evened out "
                     "over a position's step)",
                     c.inputs.word("supply"))
           : c.machine.facts().switched
               ? fmt::format("With strokes of {:.4g} A from {:.3g}° to {:.3g}° of the aligned positions",
                             c.input("current"), c.input("turn_on") * 180 / pi, c.input("turn_off") * 180 / pi)
               : fmt::format("With {:.4g} A peak at {:.3g}° electrical advance", c.input("current"),
                             c.input("advance") * 180 / pi);
}

/// The whole stack: means over its slices.
struct Stack {
    PeriodSeries series;
    FieldLosses losses;
    LoadBeside beside;
};

/// A slice turned ahead sees the same currents turned back against its own magnets.
Problems add_slice(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                   const CurrentWave& wave, const Slice& slice, Stack& stack) {
    const CurrentWave seen_here = wave.advanced(-c.machine.pole_pairs() * slice.turn);
    StrayField outside(*model);
    const auto period = sweep_period_with_loci(model, int(c.input("points")), seen_here, c.threads, c.watch,
                                               outside.observer());
    if (!period) return period.problems();
    const auto solid = solid_loss(c, model, seen_here);
    if (!solid) return solid.problems();
    stack.beside.solid.add(*solid, slice.share);
    if (const auto here = outside.largest())
        stack.beside.stray = std::max(stack.beside.stray.value_or(0), *here);
    const PeriodSeries own = period_series(period->results);
    const FieldLosses losses = field_losses(*model, period->loci);
    c.answer.effort.newton_steps += own.newton_steps;
    PeriodSeries& all = stack.series;
    if (all.torque.empty()) {
        const auto zero = std::vector<double>(own.torque.size(), 0.0);
        all.angle_deg = own.angle_deg;
        all.torque = zero;
        all.flux_linkage.assign(own.flux_linkage.size(), zero);
        all.current.resize(own.flux_linkage.size());
        const auto middle = electrical_period(c.machine, int(c.input("points")), wave);
        for (const Position& position : middle)
            for (std::size_t k = 0; k < all.current.size(); ++k) all.current[k].push_back(position.current[k]);
    }
    const double turn = 2 * pi / c.machine.pole_pairs();
    const auto take = [&](std::vector<double>& to, const std::vector<double>& from) {
        const auto seen = shifted(from, turn, slice.turn);
        for (std::size_t i = 0; i < to.size(); ++i) to[i] += slice.share * seen[i];
    };
    take(all.torque, own.torque);
    for (std::size_t k = 0; k < own.flux_linkage.size(); ++k) take(all.flux_linkage[k], own.flux_linkage[k]);
    stack.losses.add(losses, slice.share);
    return {};
}

QuestionInput choice_of_wave() {
    QuestionInput input{
        "waveform", "Waveform", "", "auto",
        "In phase with the no-load EMF where the advance is 0: sinusoidal, blocks on for 120 or 180 "
        "degrees, a trapezoid with 120 degrees flat, or a table; strokes are on from turn-on to turn-off. "
        "Auto: "
        "a sine, of switched phases strokes."};
    input.kind = InputKind::Choice;
    input.words = wave_words();
    input.words.insert(input.words.begin(), "auto");
    return input;
}

QuestionInput list_of(const char* key, const char* label, const char* unit, const char* help, double low,
                      double high) {
    QuestionInput input = auto_list_input(key, label, unit, help, low, high);
    input.any_order = true;
    return input;
}

/// The periodic current of a phase whose ends are joined: R i + omega d psi/d theta = 0 with psi as the field
/// says. The linkage is taken as straight in the current between the last two rounds, the derivative as that of
/// the band-limited series, and the linear equations of all positions are solved at once; repeated until the
/// current stays.
Result<CurrentWave> with_shorted_phase(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                                       CurrentWave wave) {
    const int phase = int(c.input("short_phase")) - 1, n = int(c.input("points"));
    const Machine& m = c.machine;
    const double omega = m.pole_pairs() * c.input("speed"),
                 resistance = machine_conductor(m).phase_resistance[std::size_t(phase)],
                 start = electrical_angle(m, 0), ends = given_end_inductance(c);
    const auto linkage = [&](const Eigen::VectorXd& current) -> Result<Eigen::VectorXd> {
        wave.set_series(phase, start, {current.begin(), current.end()});
        const auto period = sweep_period(model, n, wave, c.threads, {{}, c.watch.stop});
        if (!period) return period.problems();
        Eigen::VectorXd psi(n);
        for (int i = 0; i < n; ++i)
            psi[i] = (*period)[std::size_t(i)].flux_linkage[std::size_t(phase)] + ends * current[i];
        return psi;
    };
    Eigen::VectorXd before = Eigen::VectorXd::Zero(n);
    auto psi_before = linkage(before);
    if (!psi_before) return psi_before.problems();
    const double step = std::max(1e-3, 0.2 * m.rating.current);
    Eigen::VectorXd current = Eigen::VectorXd::Constant(n, step);
    for (int round = 0; round < most_rounds; ++round) {
        const auto psi = linkage(current);
        if (!psi) return psi.problems();
        Eigen::VectorXd inductance(n);
        for (int i = 0; i < n; ++i) {
            const double apart = current[i] - before[i];
            inductance[i] = std::abs(apart) > 1e-6 * step ? ((*psi)[i] - (*psi_before)[i]) / apart : -1;
        }
        // Where the current did not move, the mean of the others.
        double sum = 0;
        int known = 0;
        for (double l : inductance)
            if (l > 0) sum += l, ++known;
        for (double& l : inductance)
            if (l <= 0) l = known ? sum / known : 1e-3;
        const Eigen::MatrixXd d = differentiation(n);
        const Eigen::MatrixXd diagonal = inductance.asDiagonal();
        const Eigen::MatrixXd a = resistance * Eigen::MatrixXd::Identity(n, n) + omega * d * diagonal;
        const Eigen::VectorXd right = omega * d * (inductance.cwiseProduct(current) - *psi);
        const Eigen::VectorXd next = solved(a, right);
        const double change = (next - current).cwiseAbs().maxCoeff();
        before = current;
        psi_before = psi;
        current = next;
        if (change < 1e-4 * std::max(step, current.cwiseAbs().maxCoeff())) break;
    }
    wave.set_series(phase, start, {current.begin(), current.end()});
    return wave;
}

/// What a shorted phase needs; nothing where there is none.
Problems shorted_problems(const QuestionContext& c) {
    if (c.input("short_phase") == 0) return {};
    if (c.input("short_phase") > c.machine.winding.phases)
        return {{"--with short_phase", "There is no such phase."}};
    if (c.input("speed") <= 0) return {{"--with speed", "A shorted phase carries current only at a speed."}};
    if (!skew_of(c.machine, c.inputs).none())
        return {{"--with skew", "A shorted phase is taken without skew; set the skew to 0."}};
    return {};
}

Problems supply_problems(const QuestionContext& c) {
    const Facts facts = c.machine.facts();
    if (facts.switched || !facts.dq_frame || c.machine.winding.phases != 3)
        return {{"--with supply", "The currents a supply drives come from the flux map, which knows three "
                                  "phases and the rotor's axes; give the currents here."}};
    if (auto problems = terminal_problems(c.machine); !problems.empty()) return problems;
    if (c.input("speed") <= 0)
        return {{"--with speed", "A speed above 0 rpm is wanted: the supply's period follows from it."}};
    if (!(skew_of(c.machine, c.inputs) == c.machine.skew))
        return {{"--with skew", "On a supply the machine has the design's skew; leave it auto."}};
    if (c.input("open_phase") > 0 || c.input("short_phase") > 0)
        return {
            {"--with supply", "A phase that is open or shorted takes given currents; say supply=currents."}};
    return {};
}

Result<CurrentWave> wave_on_supply(QuestionContext& c, std::string& words) {
    const int points = int(c.input("points"));
    const auto found =
        run_supply_by_map(c, c.machine.pole_pairs() * c.input("speed"), std::max(360, points), SteadyOptions{});
    if (!found) return found.problems();
    words = found->words;
    return wave_of_run(found->run, electrical_angle(c.machine, 0), points);
}

Problems run(QuestionContext& c) {
    if (auto problems = shorted_problems(c); !problems.empty()) return problems;
    if (on_supply(c.inputs))
        if (auto problems = supply_problems(c); !problems.empty()) return problems;
    if (c.inputs.word("waveform") == "table" && c.inputs.list("wave").size() < 2)
        return {
            {"--with wave", "The form “table” needs at least two values; give them as \"1, 0.5, -1, -0.5\"."}};
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    c.answer.effort.solves = solves(c.machine, c.inputs);
    Stack stack;
    CurrentWave wave = wave_of(c.machine, c.inputs);
    if (c.input("short_phase") > 0) {
        auto shorted = with_shorted_phase(c, *model, wave);
        if (!shorted) return shorted.problems();
        wave = *shorted;
    }
    std::string found;
    if (on_supply(c.inputs)) {
        auto driven = wave_on_supply(c, found);
        if (!driven) return driven.problems();
        wave = *driven;
    }
    for (const Slice& slice : skew_of(c.machine, c.inputs).slices())
        if (auto problems = add_slice(c, *model, wave, slice, stack); !problems.empty()) return problems;
    if (!on_supply(c.inputs)) { // a supply's currents have it in them
        auto round = delta_round_of(c, stack.series);
        if (!round) return round.problems();
        stack.beside.round = *round;
    }
    tell_load(c, stack.series, stack.losses, stack.beside, current_words(c));
    if (!found.empty()) c.answer.sentence += " " + found;
    return {};
}

std::vector<std::string> supply_words() {
    std::vector<std::string> words{given_currents};
    for (const std::string& name : registry<SupplyKind>().names()) words.push_back(name);
    return words;
}

} // namespace
} // namespace mavlo::question_load

namespace mavlo {

std::vector<QuestionInput> load_inputs() {
    using namespace question_load;
    QuestionInput supply =
        choice_input("supply", "Supply", {given_currents},
                     "The currents as given, or those that a supply drives, by the flux map.");
    supply.more_words = supply_words;
    std::vector<QuestionInput> all{
        {"current", "Current (phase, peak)", "A", "= rating.current", "Peak value of the phase current.", 0,
         1e6, false},
        choice_of_wave(),
        list_of("wave", "Table of the wave", "",
                "Shares of the peak over one electrical period, evenly spaced from "
                "the wave's peak on; used by the form “table”.",
                -10, 10),
        list_of("amplitudes", "Shares of the phases", "", "Of the current, one a phase; auto: all 1.", -10, 10),
        list_of("offsets", "Offsets of the phases", "A", "Direct current of each phase; auto: none.", -1e6,
                1e6),
        list_of("lags", "Lags of the phases", "deg", "Electrical, of each phase beyond its own; auto: none.",
                -360, 360),
        {"open_phase", "Open phase", "", "0", "The phase that carries nothing, 1 for U; 0: none.", 0, 9, true},
        {"short_phase", "Shorted phase", "", "0",
         "The phase whose ends are joined, 1 for U: its current is what its flux linkage drives; 0: none.", 0,
         9, true},
        {"advance", "Advance (electrical)", "deg", "= rating.advance", "From +q towards -d.", -360, 360, false},
        turn_on_input(),
        turn_off_input(),
        {"speed", "Speed", "rpm", "= rating.speed", "Speed of the shaft.", 0, 500000, false},
        {"points", "Positions", "", "120", "Rotor positions over one electrical period.", 8, 2000, true},
        supply};
    for (auto& list : {supply_inputs(), winding_inputs(), time_map_inputs()})
        for (const QuestionInput& input : list)
            if (input.key != "current" && input.key != "advance") all.push_back(input);
    return with_skew(all);
}

} // namespace mavlo

namespace mavlo::question_load {
namespace {

const RegisterQuestion registered{
    {"load",
     "With current",
     "Torque over a turn",
     "Torque, voltage and losses over one electrical period, with given currents or those of a supply.",
     load_inputs(),
     solves,
     run,
     30,
     {need_winding, need_no_shell},
     true,
     true}};

} // namespace
} // namespace mavlo::question_load
