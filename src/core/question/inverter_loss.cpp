#include "question/inverter_loss.h"

#include "figure/loss.h"
#include "figure/sheet_skin.h"
#include "quantity/constants.h"
#include "question/supply_inputs.h"
#include "question/sweep.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace mavlo {
namespace {

constexpr int samples = 8; ///< of a wave of one period
constexpr int vectors = 3, positions = 2, fields = 3;
constexpr double nudge = 0.04; ///< of the largest current
enum Function : Eigen::Index { IronDd, IronDq, IronQq, Skin, MagnetsDd, MagnetsDq, MagnetsQq, functions };

using Potential = std::vector<double>;

/// Losses at 1 Hz of a field that goes as `wave` cos(2 pi t), W.
FieldLosses losses_of_wave(const MachineModel& model, const Potential& wave) {
    std::vector<Potential> series;
    for (int k = 0; k < samples; ++k) {
        series.push_back(wave);
        for (double& a : series.back()) a *= std::cos(2 * pi * k / samples);
    }
    return field_losses(model, make_loci(model, series, std::nullopt));
}

Potential combined(const Potential& a, double factor_a, const Potential& b, double factor_b) {
    Potential out(a.size());
    for (std::size_t k = 0; k < a.size(); ++k) out[k] = factor_a * a[k] + factor_b * b[k];
    return out;
}

/// Of the three fields at one vector and position: with none, d and q moved by `step` (A).
Eigen::Matrix<double, functions, 1> functions_of(const MachineModel& model,
                                                 const std::array<Potential, fields>& at, double step) {
    const Potential d = combined(at[1], 1 / step, at[0], -1 / step),
                    q = combined(at[2], 1 / step, at[0], -1 / step);
    const FieldLosses of_d = losses_of_wave(model, d), of_q = losses_of_wave(model, q),
                      of_both = losses_of_wave(model, combined(d, 1, q, 1));
    IronLoss iron_d = of_d.stator, iron_q = of_q.stator, both = of_both.stator;
    iron_d.add(of_d.rotor, 1);
    iron_q.add(of_q.rotor, 1);
    both.add(of_both.rotor, 1);
    const auto magnets = [](const FieldLosses& l) { return l.magnets + l.shaft; };
    Eigen::Matrix<double, functions, 1> out;
    out << iron_d.classical, (both.classical - iron_d.classical - iron_q.classical) / 2, iron_q.classical,
        both.skin, magnets(of_d), (magnets(of_both) - magnets(of_d) - magnets(of_q)) / 2, magnets(of_q);
    return out;
}

/// Currents from -most (or 0) to most.
std::vector<double> axis(double most, bool both) {
    return both ? std::vector<double>{-most, 0, most} : std::vector<double>{-most, -most / 2, 0};
}

} // namespace

Result<RippleLoss> RippleLoss::find(QuestionContext& c, double most, bool positive_d) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const Machine& m = c.machine;
    const std::vector<double> id = axis(most, positive_d), iq = m.symmetry.mirrored
                                                                    ? std::vector<double>{0, most / 2, most}
                                                                    : axis(most, true);
    const double step = nudge * most, pitch = 2 * pi / m.slots;
    std::vector<Position> list;
    for (double q : iq)
        for (double d : id)
            for (int p = 0; p < positions; ++p)
                for (int f = 0; f < fields; ++f) {
                    const double angle = pitch * p / positions;
                    const Dq current{d + (f == 1 ? step : 0), q + (f == 2 ? step : 0)};
                    list.push_back(
                        {angle, to_phases(current, electrical_angle(m, angle), m.winding.layout.lags)});
                }
    std::vector<Potential> potentials(list.size());
    const auto solved =
        sweep(*model, list, c.threads, c.watch,
              [&](std::size_t place, const FieldSolution& field) { potentials[place] = field.potential; });
    if (!solved) return solved.problems();
    c.answer.effort.solves += int(list.size());
    Eigen::MatrixXd values = Eigen::MatrixXd::Zero(vectors * vectors, functions);
    for (Eigen::Index v = 0; v < values.rows(); ++v)
        for (int p = 0; p < positions; ++p) {
            const auto first = std::size_t((v * positions + p) * fields);
            values.row(v) +=
                functions_of(**model, {potentials[first], potentials[first + 1], potentials[first + 2]}, step)
                    .transpose() /
                positions;
        }
    RippleLoss out;
    out.m_functions = GridFunctions(id, iq, values);
    out.m_mirrored = m.symmetry.mirrored;
    return out;
}

RippleLoss::Watts RippleLoss::at(Dq i, const CarrierRipple& ripple) const {
    const double sign = m_mirrored && i.q < 0 ? -1 : 1;
    const Eigen::VectorXd v = m_functions.at(i.d, sign * i.q).col(0);
    const Eigen::Matrix2d& r = ripple.rate;
    // A wave of 1 A at 1 Hz has a mean square rate of (2 pi)^2/2.
    const auto quadratic = [&](Function dd, Function dq, Function qq) {
        const double sum = v[dd] * r(0, 0) + 2 * sign * v[dq] * r(0, 1) + v[qq] * r(1, 1);
        return std::max(0.0, sum) * 2 / std::pow(2 * pi, 2);
    };
    const double left = share_by_corner(v[Skin], ripple.frequency());
    return {left * quadratic(IronDd, IronDq, IronQq), quadratic(MagnetsDd, MagnetsDq, MagnetsQq)};
}

InverterLoss::InverterLoss(const Machine& machine, const FluxMap& map, Carrier carrier, RippleLoss loss)
    : m_map(map)
    , m_carrier(carrier)
    , m_loss(std::move(loss))
    , m_alternating(machine)
    , m_resistance(machine_conductor(machine).resistance)
    , m_pairs(machine.pole_pairs())
    , m_phases(machine.winding.phases) {}

Eigen::Matrix2d InverterLoss::inductance_at(Dq i) const {
    const double step = 0.02 * m_map.iq().back();
    Eigen::Matrix2d out;
    for (int k = 0; k < 2; ++k) {
        const Dq a{i.d - (k == 0 ? step : 0), i.q - (k == 1 ? step : 0)},
            b{i.d + (k == 0 ? step : 0), i.q + (k == 1 ? step : 0)};
        const Dq low = m_map.flux_linkage(a), high = m_map.flux_linkage(b);
        out.col(k) << (high.d - low.d) / (2 * step), (high.q - low.q) / (2 * step);
    }
    return out;
}

double InverterLoss::add(OperatingPoint& p) const {
    const double omega = m_pairs * p.speed;
    const Eigen::Vector2d current(p.current.d, p.current.q),
        voltage = m_resistance * current + omega * Eigen::Vector2d(-p.flux_linkage.q, p.flux_linkage.d);
    const CarrierRipple ripple = carrier_ripple(m_carrier, voltage, current, inductance_at(p.current));
    const auto [iron, magnets] = m_loss.at(p.current, ripple);
    p.power[LossPart::Copper] +=
        m_phases / 2.0 * m_resistance * m_alternating.factor(ripple.frequency()) * ripple.current.trace();
    p.power[LossPart::CarrierIron] = iron;
    p.power[LossPart::CarrierMagnets] = magnets;
    p.power[LossPart::Switches] = ripple.valves;
    return ripple.phase_rms();
}

std::vector<QuestionInput> inverter_inputs() {
    std::vector<QuestionInput> list{
        choice_input("supply", "Supply", {"sine", "space-vector", "sine-triangle"},
                     "Sinusoidal currents, or an inverter whose carrier adds its own losses."),
        {"carrier_frequency", "Carrier frequency", "Hz", "8000", "Of pulse-width modulation.", 1, 1e6}};
    for (const QuestionInput& input : valve_inputs()) list.push_back(input);
    return list;
}

bool has_carrier(const Inputs& inputs) {
    return inputs.word("supply") != "sine";
}

Result<InverterLoss> make_inverter_loss(QuestionContext& c, const Drive& drive) {
    const SupplySettings settings = supply_settings(c.inputs, 0);
    Carrier carrier{settings.bridge, settings.carrier_frequency, c.inputs.word("supply") == "space-vector",
                    is_delta(c.machine)};
    auto loss = RippleLoss::find(c, drive.map().iq().back(), drive.map().id().back() > 0);
    if (!loss) return loss.problems();
    return InverterLoss(c.machine, drive.map(), carrier, std::move(*loss));
}

} // namespace mavlo
