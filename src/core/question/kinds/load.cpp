// Torque, flux linkage and voltage with sinusoidal currents over one electrical period.

#include "question/kinds/periods.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;

int solves(const Machine& machine, const std::map<std::string, double>& inputs) {
    return period_solves(machine, int(inputs.at("points")));
}

struct Electrical {
    std::array<std::vector<double>, 3> voltage;
    double voltage_peak, power; ///< fundamental phase voltage; mean input power
};

/// Terminal voltage v = R i + d psi/dt (motor convention) and the mean power it brings in.
Electrical electrical_side(const QuestionContext& c, const PeriodSeries& series, double resistance) {
    Electrical out{induced_voltage(series, c.machine, c.input("speed")), 0, 0};
    const std::size_t n = series.torque.size();
    for (std::size_t k = 0; k < 3; ++k)
        for (std::size_t i = 0; i < n; ++i) {
            out.voltage[k][i] += resistance * series.current[k][i];
            out.power += out.voltage[k][i] * series.current[k][i] / double(n);
        }
    const auto fine = resampled(out.voltage[0], 8);
    for (double v : fine) out.voltage_peak = std::max(out.voltage_peak, std::abs(v));
    return out;
}

Dq mean_flux_linkage(const Machine& machine, const PeriodSeries& series) {
    Dq sum;
    const double n = double(series.torque.size());
    for (std::size_t i = 0; i < series.torque.size(); ++i) {
        const double theta = electrical_angle(machine, series.angle_deg[i] * pi / 180);
        const Dq psi =
            to_dq({series.flux_linkage[0][i], series.flux_linkage[1][i], series.flux_linkage[2][i]}, theta);
        sum.d += psi.d / n;
        sum.q += psi.q / n;
    }
    return sum;
}

void fill(QuestionContext& c, const PeriodSeries& series) {
    const double current = c.input("current"), speed = c.input("speed");
    const double resistance = machine_conductor(c.machine).resistance;
    const Electrical side = electrical_side(c, series, resistance);
    const Dq psi = mean_flux_linkage(c.machine, series);
    const double torque = mean(series.torque), copper = 1.5 * current * current * resistance;
    double apparent = 0; // sum of the phases' rms voltage times rms current
    for (std::size_t k = 0; k < 3; ++k) apparent += rms(side.voltage[k]) * rms(series.current[k]);
    const auto none = std::optional<double>{};
    c.answer.figures = {{"torque_mean", torque, "N.m"},
                        {"torque_peak_to_peak", peak_to_peak(series.torque), "N.m"},
                        {"torque_std", standard_deviation(series.torque), "N.m"},
                        {"flux_linkage_d", psi.d, "Wb"},
                        {"flux_linkage_q", psi.q, "Wb"},
                        {"phase_resistance", resistance, "Ohm"},
                        {"copper_loss", copper, "W"},
                        {"iron_loss_stator", none, "W"},
                        {"iron_loss_rotor", none, "W"},
                        {"magnet_loss", none, "W"},
                        {"mechanical_power", torque * speed, "W"},
                        {"efficiency", none, "1"},
                        {"voltage_phase_peak", side.voltage_peak, "V"},
                        {"power_factor", apparent > 0 ? std::optional(side.power / apparent) : none, "1"}};
    auto& curves = c.answer.curves;
    curves.push_back(over_angle("torque", "N.m", series, series.torque));
    for (std::size_t k = 0; k < 3; ++k)
        curves.push_back(over_angle("flux_linkage_" + phase_suffix[k], "Wb", series, series.flux_linkage[k]));
    for (std::size_t k = 0; k < 3; ++k)
        curves.push_back(over_angle("current_" + phase_suffix[k], "A", series, series.current[k]));
    for (std::size_t k = 0; k < 3; ++k)
        curves.push_back(over_angle("voltage_" + phase_suffix[k], "V", series, side.voltage[k]));
    c.answer.sentence = fmt::format("With {:.4g} A peak at {:.3g}° electrical advance the torque is {:.4g} N·m "
                                    "on average and wavers by {:.3g} N·m; the winding "
                                    "loses {:.4g} W and needs {:.4g} V peak a phase at {:.4g} rpm.",
                                    current, c.input("advance") * 180 / pi, torque, peak_to_peak(series.torque),
                                    copper, side.voltage_peak, speed * 30 / pi);
}

Problems run(QuestionContext& c) {
    const auto model = prepare_field(c.machine, c.mesh);
    if (!model) return model.problems();
    const int points = int(c.input("points"));
    const Dq vector = current_vector(c.input("current"), c.input("advance"));
    const auto results = sweep_period(*model, points, vector, c.threads, c.watch);
    if (!results) return results.problems();
    const PeriodSeries series = period_series(*results);
    c.answer.effort.newton_steps = series.newton_steps;
    c.answer.effort.solves = period_solves(c.machine, points);
    count_mesh(c.answer.effort, **model);
    fill(c, series);
    return {};
}

const RegisterQuestion registered{
    {"load",
     "With current",
     "Torque over a turn",
     "Torque, voltage and copper loss with sinusoidal currents over one electrical period.",
     {{"current", "Current (phase, peak)", "A", "= rating.current", "Peak value of the phase current.", 0, 1e6,
       false},
      {"advance", "Advance (electrical)", "deg", "= rating.advance", "From +q towards -d.", -360, 360, false},
      {"speed", "Speed", "rpm", "= rating.speed", "Speed of the shaft.", 0, 500000, false},
      {"points", "Positions", "", "120", "Rotor positions over one electrical period.", 8, 2000, true}},
     solves,
     run,
     30}};

} // namespace
} // namespace mavlo
