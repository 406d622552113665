#include "question/load_answer.h"

#include "figure/balance.h"
#include "quantity/constants.h"
#include "question/circumstances.h"
#include "question/line_values.h"
#include "question/stray_field.h"
#include "question/supply_inputs.h"
#include "question/unknown_losses.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

struct Electrical {
    std::vector<std::vector<double>> voltage;
    double voltage_peak, power; ///< fundamental phase voltage; mean input power
};

/// Terminal voltage v = R i + d psi/dt (motor convention), psi with the end windings' linkage, and the mean
/// power it brings in.
Electrical electrical_side(const QuestionContext& c, const PeriodSeries& series,
                           const std::vector<double>& resistance) {
    PeriodSeries whole = series;
    const std::size_t n = series.torque.size();
    const double ends = given_end_inductance(c);
    for (std::size_t k = 0; k < whole.flux_linkage.size(); ++k)
        for (std::size_t i = 0; i < n; ++i) whole.flux_linkage[k][i] += ends * series.current[k][i];
    Electrical out{induced_voltage(whole, c.machine, c.input("speed")), 0, 0};
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
    const Substance *magnet = m.magnet(), *shaft = m.substance("rotor.shaft_resistivity");
    const bool magnets = magnet && magnet->resistivity > 0;
    const auto known = [](bool is, std::optional<double> value) { return is ? value : std::nullopt; };
    auto& out = answer.figures;
    out.push_back({"copper_loss", b.of(LossPart::Copper), "W"});
    out.push_back({"copper_loss_dc", b.copper_dc, "W"});
    out.push_back(
        {"winding_stray_loss", known(losses.strands.has_value(), b.known(LossPart::WindingStray)), "W"});
    out.push_back({"iron_loss_stator", b.of(LossPart::IronStator), "W"});
    out.push_back({"iron_loss_rotor", b.of(LossPart::IronRotor), "W"});
    out.push_back({"magnet_loss", known(magnets, b.of(LossPart::Magnets)), "W"});
    out.push_back({"shaft_loss", known(shaft && shaft->resistivity > 0, b.of(LossPart::Shaft)), "W"});
    const LossParts massive = solid_losses_of(m);
    out.push_back(
        {"solid_loss_stator", known(massive.has(LossPart::SolidStator), b.of(LossPart::SolidStator)), "W"});
    out.push_back(
        {"solid_loss_rotor", known(massive.has(LossPart::SolidRotor), b.of(LossPart::SolidRotor)), "W"});
    out.push_back({"bearing_loss", b.of(LossPart::Bearings), "W"});
    out.push_back({"windage_loss", b.of(LossPart::Windage), "W"});
    out.push_back({"total_loss", b.total(), "W"});
    out.push_back({"mechanical_power", b.air_gap, "W"});
    out.push_back({"electrical_power", b.electrical, "W"});
    out.push_back({"shaft_power", b.shaft(), "W"});
    out.push_back({"efficiency", b.efficiency(), "1"});
    const auto parts = [&](const char* of, const IronLoss& loss, LossPart part) {
        const std::string name = of;
        const bool is = loss.has_parts() && !b.unknown.has(part);
        out.push_back({"hysteresis_loss_" + name, known(is, f * loss.hysteresis), "W"});
        out.push_back({"classical_loss_" + name, known(is, loss.classical_at(f)), "W"});
        out.push_back({"excess_loss_" + name, known(is, std::pow(f, 1.5) * loss.excess), "W"});
    };
    parts("stator", losses.stator, LossPart::IronStator);
    parts("rotor", losses.rotor, LossPart::IronRotor);
    const double order_frequency = losses.magnet_order * f;
    const bool skin = magnets && order_frequency > 0;
    out.push_back({"magnet_skin_depth",
                   skin ? std::optional(skin_depth(magnet->resistivity, order_frequency,
                                                   magnet->material.magnet.recoil_mu_r))
                        : std::nullopt,
                   "m"});
}

/// What the terminals see: voltages between the lines of a star, currents in those of a delta.
void add_lines(QuestionContext& c, const PeriodSeries& series,
               const std::vector<std::vector<double>>& voltage) {
    const bool star = c.machine.winding.star();
    const auto lines = star ? less_other(voltage, 1) : less_other(series.current, series.current.size() - 1);
    for (std::size_t k = 0; k < lines.size(); ++k)
        c.answer.curves.push_back(
            star ? over_angle("voltage_" + phase_suffix(k) + phase_suffix((k + 1) % lines.size()), "V", series,
                              lines[k])
                 : over_angle("line_current_" + phase_suffix(k), "A", series, lines[k]));
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
    return free || sums <= 1e-6 * largest
               ? ""
               : " (these currents do not sum to zero, so that the star needs a neutral)";
}

} // namespace

void tell_load(QuestionContext& c, const PeriodSeries& series, const FieldLosses& losses,
               const LoadBeside& beside, const std::string& currents) {
    const double speed = c.input("speed");
    const Conductor conductor = machine_conductor(c.machine);
    const Electrical side = electrical_side(c, series, conductor.phase_resistance);
    const Dq psi = mean_flux_linkage(c.machine, series);
    const double torque = mean(series.torque), f = electrical_frequency(c.machine, speed);
    double apparent = 0; // sum of the phases' rms voltage times rms current
    for (std::size_t k = 0; k < side.voltage.size(); ++k)
        apparent += rms(side.voltage[k]) * rms(series.current[k]);
    const auto none = std::optional<double>{};
    const bool switched = c.machine.facts().switched;
    // What the terminals bring is what the field turns into work and the winding into heat; by the voltages it
    // is the same but for what positions and mesh leave.
    CopperLoss copper = copper_loss(c.machine, series.current, f, losses);
    if (beside.round) {
        copper.direct += beside.round->loss;
        copper.alternating += beside.round->loss;
    }
    const double electrical = torque * speed + copper.direct,
                 largest = std::max(std::abs(torque * speed), copper.direct);
    Balance balance = balance_of(c.machine, losses, copper, speed, torque, electrical);
    for (const auto& [part, watts] : beside.solid.loss) balance[part] = watts;
    balance.unknown.remove(beside.solid.found);
    c.answer.figures = {{"torque_mean", torque, "N.m"},
                        {"torque_peak_to_peak", peak_to_peak(series.torque), "N.m"},
                        {"torque_std", standard_deviation(series.torque), "N.m"},
                        {"flux_linkage_d", switched ? none : psi.d, "Wb"},
                        {"flux_linkage_q", switched ? none : psi.q, "Wb"},
                        {"phase_resistance", conductor.resistance, "Ohm"},
                        {"voltage_phase_peak", side.voltage_peak, "V"},
                        {"power_factor", apparent > 0 ? std::optional(side.power / apparent) : none, "1"}};
    add_losses(c.answer, balance, losses, c.machine, f);
    c.answer.figures.push_back(
        {"power_unaccounted", largest > 0 ? std::optional((side.power - electrical) / largest) : none, "1"});
    c.answer.figures.push_back(end_inductance_figure(c));
    auto& curves = c.answer.curves;
    const std::size_t phases = side.voltage.size();
    curves.push_back(over_angle("torque", "N.m", series, series.torque));
    for (std::size_t k = 0; k < phases; ++k)
        curves.push_back(over_angle("flux_linkage_" + phase_suffix(k), "Wb", series, series.flux_linkage[k]));
    for (std::size_t k = 0; k < phases; ++k)
        curves.push_back(over_angle("current_" + phase_suffix(k), "A", series, series.current[k]));
    for (std::size_t k = 0; k < phases; ++k)
        curves.push_back(over_angle("voltage_" + phase_suffix(k), "V", series, side.voltage[k]));
    if (!switched) add_lines(c, series, side.voltage);
    c.answer.sentence =
        fmt::format("{} the torque is {:.4g} N·m on average and wavers by {:.3g} N·m; it needs {:.4g} "
                    "V peak a phase at {:.4g} rpm, where {}{:.4g} W are lost",
                    currents, torque, peak_to_peak(series.torque), side.voltage_peak, speed * 30 / pi,
                    balance.total() ? "" : "at least ", balance.known_total());
    const auto efficiency = c.answer.figure("efficiency");
    c.answer.sentence += sum_of_currents(c.machine, series);
    c.answer.sentence += efficiency ? fmt::format(": {:.1f} % efficiency.", 100 * *efficiency) : ".";
    tell_extrapolated_losses(c, losses, f);
    const double fundamental = std::abs(harmonics(side.voltage[0])[1]);
    for (const std::string& words :
         {switched ? std::string{} : beyond_link_in_words(c.machine, fundamental, speed),
          conditions_in_words(c.machine)})
        if (!words.empty()) c.answer.sentence += " " + words;
    tell_delta_round(c, beside.round);
    if (!beside.solid.words.empty()) c.answer.sentence += " " + beside.solid.words;
    tell_stray_field(c, beside.stray);
    tell_unknown_losses(c, beside.solid.found);
}

} // namespace mavlo
