// Torque, flux linkage and voltage with sinusoidal currents over one electrical period.

#include "figure/balance.h"
#include "question/period.h"
#include "question/skew_inputs.h"
#include "question/stroke_inputs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;

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

int solves(const Machine& machine, const Inputs& inputs) {
    if (inputs.at("short_phase") > 0) return 4 * int(inputs.at("points")); // about
    return period_solves(machine, int(inputs.at("points")),
                         wave_of(machine, inputs).alike(machine.facts().switched)) *
           int(skew_slices(inputs).size());
}

struct Electrical {
    std::vector<std::vector<double>> voltage;
    double voltage_peak, power; ///< fundamental phase voltage; mean input power
};

/// Terminal voltage v = R i + d psi/dt (motor convention) and the mean power it brings in.
Electrical electrical_side(const QuestionContext& c, const PeriodSeries& series,
                           const std::vector<double>& resistance) {
    Electrical out{induced_voltage(series, c.machine, c.input("speed")), 0, 0};
    const std::size_t n = series.torque.size();
    for (std::size_t k = 0; k < out.voltage.size(); ++k)
        for (std::size_t i = 0; i < n; ++i) {
            out.voltage[k][i] += resistance[k] * series.current[k][i];
            out.power += out.voltage[k][i] * series.current[k][i] / double(n);
        }
    const auto fine = resampled(out.voltage[0], 8);
    for (double v : fine) out.voltage_peak = std::max(out.voltage_peak, std::abs(v));
    return out;
}

void add_losses(Answer& answer, const Balance& b, const FieldLosses& losses, const Machine& m, double f) {
    const Substance *stator = m.substance("stator.steel"), *rotor = m.substance("rotor.steel"),
                    *magnet = m.magnet(), *shaft = m.substance("rotor.shaft_resistivity");
    const bool iron = stator && stator->material.loss.known(),
               rotor_iron = rotor && rotor->material.loss.known(), magnets = magnet && magnet->resistivity > 0;
    const auto known = [](bool is, double value) { return is ? std::optional(value) : std::nullopt; };
    auto& out = answer.figures;
    out.push_back({"copper_loss", b.copper, "W"});
    out.push_back({"copper_loss_dc", b.copper_dc, "W"});
    out.push_back({"iron_loss_stator", known(iron, b.iron_stator), "W"});
    out.push_back({"iron_loss_rotor", known(rotor_iron, b.iron_rotor), "W"});
    out.push_back({"magnet_loss", known(magnets, b.magnets), "W"});
    out.push_back({"shaft_loss", known(shaft && shaft->resistivity > 0, b.shaft_eddy), "W"});
    out.push_back({"bearing_loss", b.mechanical.bearings, "W"});
    out.push_back({"windage_loss", b.mechanical.windage, "W"});
    const bool all = iron && rotor_iron && (magnets || !magnet);
    out.push_back({"total_loss", known(all, b.total()), "W"});
    out.push_back({"mechanical_power", b.air_gap, "W"});
    out.push_back({"electrical_power", b.electrical, "W"});
    out.push_back({"shaft_power", known(all, b.shaft()), "W"});
    out.push_back({"efficiency", all ? b.efficiency() : std::nullopt, "1"});
    const auto parts = [&](const char* of, const IronLoss& loss, bool is) {
        const std::string name = of;
        is = is && loss.power == 0; // a power law knows no parts
        out.push_back({"hysteresis_loss_" + name, known(is, f * loss.hysteresis), "W"});
        out.push_back({"classical_loss_" + name, known(is, f * f * loss.classical), "W"});
        out.push_back({"excess_loss_" + name, known(is, std::pow(f, 1.5) * loss.excess), "W"});
    };
    parts("stator", losses.stator, iron);
    parts("rotor", losses.rotor, rotor_iron);
    const double order_frequency = losses.magnet_order * f;
    const bool skin = magnets && order_frequency > 0;
    out.push_back({"magnet_skin_depth",
                   skin ? std::optional(skin_depth(magnet->resistivity, order_frequency,
                                                   magnet->material.magnet.recoil_mu_r))
                        : std::nullopt,
                   "m"});
}

/// A star without a neutral carries no sum of currents.
std::string sum_of_currents(const Machine& m, const PeriodSeries& series) {
    double largest = 0, sums = 0;
    for (std::size_t i = 0; i < series.torque.size(); ++i) {
        double sum = 0;
        for (const auto& phase : series.current) {
            sum += phase[i];
            largest = std::max(largest, std::abs(phase[i]));
        }
        sums = std::max(sums, std::abs(sum));
    }
    const bool free = !m.winding.star() || m.winding.phases % 3 != 0;
    return free || sums < 1e-6 * largest
               ? ""
               : " (these currents do not sum to zero, so that the star needs a neutral)";
}

void fill(QuestionContext& c, const PeriodSeries& series, const FieldLosses& losses) {
    const double current = c.input("current"), speed = c.input("speed");
    const Conductor conductor = machine_conductor(c.machine);
    const Electrical side = electrical_side(c, series, conductor.phase_resistance);
    const Dq psi = mean_flux_linkage(c.machine, series);
    const double torque = mean(series.torque), f = electrical_frequency(c.machine, speed);
    double apparent = 0; // sum of the phases' rms voltage times rms current
    for (std::size_t k = 0; k < side.voltage.size(); ++k)
        apparent += rms(side.voltage[k]) * rms(series.current[k]);
    const auto none = std::optional<double>{};
    const bool switched = c.machine.facts().switched;
    const Balance balance = balance_of(c.machine, losses, copper_loss(c.machine, series.current, f, losses),
                                       speed, torque, side.power);
    c.answer.figures = {{"torque_mean", torque, "N.m"},
                        {"torque_peak_to_peak", peak_to_peak(series.torque), "N.m"},
                        {"torque_std", standard_deviation(series.torque), "N.m"},
                        {"flux_linkage_d", switched ? none : psi.d, "Wb"},
                        {"flux_linkage_q", switched ? none : psi.q, "Wb"},
                        {"phase_resistance", conductor.resistance, "Ohm"},
                        {"voltage_phase_peak", side.voltage_peak, "V"},
                        {"power_factor", apparent > 0 ? std::optional(side.power / apparent) : none, "1"}};
    add_losses(c.answer, balance, losses, c.machine, f);
    auto& curves = c.answer.curves;
    const std::size_t phases = side.voltage.size();
    curves.push_back(over_angle("torque", "N.m", series, series.torque));
    for (std::size_t k = 0; k < phases; ++k)
        curves.push_back(over_angle("flux_linkage_" + phase_suffix(k), "Wb", series, series.flux_linkage[k]));
    for (std::size_t k = 0; k < phases; ++k)
        curves.push_back(over_angle("current_" + phase_suffix(k), "A", series, series.current[k]));
    for (std::size_t k = 0; k < phases; ++k)
        curves.push_back(over_angle("voltage_" + phase_suffix(k), "V", series, side.voltage[k]));
    const std::string currents =
        switched ? fmt::format("With strokes of {:.4g} A from {:.3g}° to {:.3g}° of the aligned positions",
                               current, c.input("turn_on") * 180 / pi, c.input("turn_off") * 180 / pi)
                 : fmt::format("With {:.4g} A peak at {:.3g}° electrical advance", current,
                               c.input("advance") * 180 / pi);
    c.answer.sentence = fmt::format(
        "{} the torque is {:.4g} N·m on average and wavers by {:.3g} N·m; it needs {:.4g} "
        "V peak a phase at {:.4g} rpm, where {:.4g} W are lost",
        currents, torque, peak_to_peak(series.torque), side.voltage_peak, speed * 30 / pi, balance.total());
    const auto efficiency = c.answer.figure("efficiency");
    c.answer.sentence += sum_of_currents(c.machine, series);
    c.answer.sentence += efficiency ? fmt::format(": {:.1f} % efficiency.", 100 * *efficiency) : ".";
}

/// The whole stack: means over its slices.
struct Stack {
    PeriodSeries series;
    FieldLosses losses;
};

void add(IronLoss& to, const IronLoss& from, double share) {
    to.hysteresis += share * from.hysteresis;
    to.classical += share * from.classical;
    to.excess += share * from.excess;
    to.power += share * from.power;
    to.alpha = from.alpha;
}

/// A slice turned ahead sees the same currents turned back against its own magnets.
Problems add_slice(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                   const CurrentWave& wave, const Slice& slice, Stack& stack) {
    const CurrentWave seen_here = wave.advanced(-c.machine.pole_pairs() * slice.turn);
    const auto period = sweep_period_with_loci(model, int(c.input("points")), seen_here, c.threads, c.watch);
    if (!period) return period.problems();
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
    add(stack.losses.stator, losses.stator, slice.share);
    add(stack.losses.rotor, losses.rotor, slice.share);
    stack.losses.shaft += slice.share * losses.shaft;
    if (losses.strands) stack.losses.strands = stack.losses.strands.value_or(0) + slice.share * *losses.strands;
    stack.losses.magnets += slice.share * losses.magnets;
    stack.losses.magnet_order = std::max(stack.losses.magnet_order, losses.magnet_order);
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
                 start = electrical_angle(m, 0);
    const auto linkage = [&](const Eigen::VectorXd& current) -> Result<Eigen::VectorXd> {
        wave.set_series(phase, start, {current.begin(), current.end()});
        const auto period = sweep_period(model, n, wave, c.threads, {{}, c.watch.stop});
        if (!period) return period.problems();
        Eigen::VectorXd psi(n);
        for (int i = 0; i < n; ++i) psi[i] = (*period)[std::size_t(i)].flux_linkage[std::size_t(phase)];
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
        const Eigen::VectorXd next = a.partialPivLu().solve(right);
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
    if (c.input("skew") > 0)
        return {{"--with skew", "A shorted phase is taken without skew; set the skew to 0."}};
    return {};
}

Problems run(QuestionContext& c) {
    if (auto problems = shorted_problems(c); !problems.empty()) return problems;
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
    for (const Slice& slice : skew_slices(c.inputs))
        if (auto problems = add_slice(c, *model, wave, slice, stack); !problems.empty()) return problems;
    fill(c, stack.series, stack.losses);
    return {};
}

const RegisterQuestion registered{
    {"load",
     "With current",
     "Torque over a turn",
     "Torque, voltage and losses with given currents over one electrical period.",
     with_skew(
         {{"current", "Current (phase, peak)", "A", "= rating.current", "Peak value of the phase current.", 0,
           1e6, false},
          choice_of_wave(),
          list_of("wave", "Table of the wave", "",
                  "Shares of the peak over one electrical period, evenly spaced from "
                  "the wave's peak on; used by the form “table”.",
                  -10, 10),
          list_of("amplitudes", "Shares of the phases", "", "Of the current, one a phase; auto: all 1.", -10,
                  10),
          list_of("offsets", "Offsets of the phases", "A", "Direct current of each phase; auto: none.", -1e6,
                  1e6),
          list_of("lags", "Lags of the phases", "deg", "Electrical, of each phase beyond its own; auto: none.",
                  -360, 360),
          {"open_phase", "Open phase", "", "0", "The phase that carries nothing, 1 for U; 0: none.", 0, 9,
           true},
          {"short_phase", "Shorted phase", "", "0",
           "The phase whose ends are joined, 1 for U: its current is what its flux linkage drives; 0: none.", 0,
           9, true},
          {"advance", "Advance (electrical)", "deg", "= rating.advance", "From +q towards -d.", -360, 360,
           false},
          turn_on_input(),
          turn_off_input(),
          {"speed", "Speed", "rpm", "= rating.speed", "Speed of the shaft.", 0, 500000, false},
          {"points", "Positions", "", "120", "Rotor positions over one electrical period.", 8, 2000, true}}),
     solves,
     run,
     30,
     {need_winding, need_no_shell}}};

} // namespace
} // namespace mavlo
