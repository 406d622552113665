// Torque, flux linkage and voltage with sinusoidal currents over one electrical period.

#include "figure/balance.h"
#include "question/period.h"
#include "question/skew_inputs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;

int solves(const Machine& machine, const Inputs& inputs) {
    return period_solves(machine, int(inputs.at("points"))) * int(skew_slices(inputs).size());
}

struct Electrical {
    std::vector<std::vector<double>> voltage;
    double voltage_peak, power; ///< fundamental phase voltage; mean input power
};

/// Terminal voltage v = R i + d psi/dt (motor convention) and the mean power it brings in.
Electrical electrical_side(const QuestionContext& c, const PeriodSeries& series, double resistance) {
    Electrical out{induced_voltage(series, c.machine, c.input("speed")), 0, 0};
    const std::size_t n = series.torque.size();
    for (std::size_t k = 0; k < out.voltage.size(); ++k)
        for (std::size_t i = 0; i < n; ++i) {
            out.voltage[k][i] += resistance * series.current[k][i];
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

void fill(QuestionContext& c, const PeriodSeries& series, const FieldLosses& losses) {
    const double current = c.input("current"), speed = c.input("speed");
    const double resistance = machine_conductor(c.machine).resistance;
    const Electrical side = electrical_side(c, series, resistance);
    const Dq psi = mean_flux_linkage(c.machine, series);
    const double torque = mean(series.torque), f = electrical_frequency(c.machine, speed);
    double apparent = 0; // sum of the phases' rms voltage times rms current
    for (std::size_t k = 0; k < side.voltage.size(); ++k)
        apparent += rms(side.voltage[k]) * rms(series.current[k]);
    const auto none = std::optional<double>{};
    const Balance balance = balance_of(c.machine, losses, current, speed, torque, side.power);
    c.answer.figures = {{"torque_mean", torque, "N.m"},
                        {"torque_peak_to_peak", peak_to_peak(series.torque), "N.m"},
                        {"torque_std", standard_deviation(series.torque), "N.m"},
                        {"flux_linkage_d", psi.d, "Wb"},
                        {"flux_linkage_q", psi.q, "Wb"},
                        {"phase_resistance", resistance, "Ohm"},
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
    c.answer.sentence = fmt::format("With {:.4g} A peak at {:.3g}° electrical advance the torque is {:.4g} N·m "
                                    "on average and wavers by {:.3g} N·m; it needs {:.4g} V peak a phase at "
                                    "{:.4g} rpm, where {:.4g} W are lost",
                                    current, c.input("advance") * 180 / pi, torque, peak_to_peak(series.torque),
                                    side.voltage_peak, speed * 30 / pi, balance.total());
    const auto efficiency = c.answer.figure("efficiency");
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
Problems add_slice(QuestionContext& c, const std::shared_ptr<const MachineModel>& model, const Slice& slice,
                   Stack& stack) {
    const Dq vector =
        current_vector(c.input("current"), c.input("advance") - c.machine.pole_pairs() * slice.turn);
    const auto period = sweep_period_with_loci(model, int(c.input("points")), vector, c.threads, c.watch);
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
        const auto middle = electrical_period(c.machine, int(c.input("points")),
                                              current_vector(c.input("current"), c.input("advance")));
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
    stack.losses.magnets += slice.share * losses.magnets;
    stack.losses.magnet_order = std::max(stack.losses.magnet_order, losses.magnet_order);
    return {};
}

Problems run(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    c.answer.effort.solves = solves(c.machine, c.inputs);
    Stack stack;
    for (const Slice& slice : skew_slices(c.inputs))
        if (auto problems = add_slice(c, *model, slice, stack); !problems.empty()) return problems;
    fill(c, stack.series, stack.losses);
    return {};
}

const RegisterQuestion registered{
    {"load", "With current", "Torque over a turn",
     "Torque, voltage and copper loss with sinusoidal currents over one electrical period.",
     with_skew(
         {{"current", "Current (phase, peak)", "A", "= rating.current", "Peak value of the phase current.", 0,
           1e6, false},
          {"advance", "Advance (electrical)", "deg", "= rating.advance", "From +q towards -d.", -360, 360,
           false},
          {"speed", "Speed", "rpm", "= rating.speed", "Speed of the shaft.", 0, 500000, false},
          {"points", "Positions", "", "120", "Rotor positions over one electrical period.", 8, 2000, true}}),
     solves, run, 30}};

} // namespace
} // namespace mavlo
