#include "figure/cage_field.h"

#include "figure/eddy.h"
#include "quantity/constants.h"

#include <cmath>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

constexpr int instants = 48; ///< of a period, for losses

std::vector<Complex> balanced_wave(const Machine& machine) {
    std::vector<Complex> wave;
    for (double lag : machine.winding.layout.lags) wave.push_back(std::polar(1.0, -lag));
    return wave;
}

} // namespace

CageField::CageField(std::shared_ptr<const MachineModel> model, double angle)
    : CageField(model, angle, conducting_bodies(*model),
                std::make_shared<const Conductance>(conductance_of(*model, conducting_bodies(*model)))) {}

CageField::CageField(std::shared_ptr<const MachineModel> model, double angle, std::vector<EddyBody> bodies,
                     std::shared_ptr<const Conductance> conductance)
    : m_model(std::move(model))
    , m_angle(angle)
    , m_bodies(std::move(bodies))
    , m_wave(balanced_wave(m_model->machine))
    , m_conductance(std::move(conductance))
    , m_solver(m_model, m_conductance, angle) {
    m_phases_moment = moment(m_model->machine.pole_pairs());
}

CageField CageField::fresh() const {
    return {m_model, m_angle, m_bodies, m_conductance};
}

Complex CageField::moment(int order) const {
    const Machine& machine = m_model->machine;
    Complex sum = 0;
    for (const Coil& coil : machine.winding.layout.coils)
        sum += m_wave[std::size_t(coil.phase)] * std::conj(coil_phasor(coil, machine.slots, order));
    return sum / double(machine.winding.paths);
}

CageField::Waves CageField::waves(const HarmonicField& field) const {
    const GapElement& gap = m_model->gap();
    const auto traces = [&](const std::vector<double>& potential) {
        return gap.traces(gather(gap.outer_unknowns(), potential), gather(gap.inner_unknowns(), potential),
                          m_model->turns(m_angle));
    };
    const auto re = traces(field.potential.re), im = traces(field.potential.im);
    Waves out{re, re};
    const auto part = [](const std::vector<Complex>& a, const std::vector<Complex>& b, auto& forward,
                         auto& backward) {
        for (std::size_t k = 0; k < a.size(); ++k) {
            forward[k] = std::conj(a[k]) + Complex(0, 1) * std::conj(b[k]);
            backward[k] = a[k] + Complex(0, 1) * b[k];
        }
    };
    part(re.outer, im.outer, out.forward.outer, out.backward.outer);
    part(re.inner, im.inner, out.forward.inner, out.backward.inner);
    return out;
}

/// Torque and loss, wave by wave: real fields of half the phasors have the same means.
void CageField::add_waves(const HarmonicField& field, double omega, CagePoint& out) const {
    const GapElement& gap = m_model->gap();
    Waves w = waves(field);
    const auto& bore = m_model->rotor == 0 ? w.forward.outer : w.forward.inner;
    const double pairs = m_model->machine.pole_pairs(), turning = omega * (1 - out.slip) / pairs,
                 sense = (m_model->rotor == 0 ? 1 : -1) * m_model->depth;
    for (std::size_t k = 0; k < gap.orders().size(); ++k)
        if (gap.orders()[k] == m_model->machine.pole_pairs())
            out.emf =
                Complex(0, omega) * m_model->depth * bore[k] * std::conj(m_phases_moment) / double(phases());
    for (auto* side : {&w.forward.outer, &w.forward.inner})
        for (Complex& value : *side) value = std::conj(value) / 2.0;
    for (auto* side : {&w.backward.outer, &w.backward.inner})
        for (Complex& value : *side) value /= 2.0;
    const auto forward = gap.torque_by_order(w.forward), backward = gap.torque_by_order(w.backward);
    for (std::size_t k = 0; k < gap.orders().size(); ++k) {
        const double n = gap.orders()[k];
        if (n == 0) continue;
        out.torque += sense * (forward[k] + backward[k]);
        out.rotor_loss += sense * (forward[k] * (omega / n - turning) - backward[k] * (omega / n + turning));
    }
}

/// Sum over all bars of current e^{jp theta}, A.
Complex CageField::bars_moment(const HarmonicField& field) const {
    const Tile& tile = m_model->machine.section.rotor().tile;
    const int p = m_model->machine.pole_pairs();
    Complex sum = 0;
    for (Eigen::Index k = 0; k < field.bar_current.size(); ++k)
        sum += field.bar_current[k] * std::polar(1.0, p * (m_angle + tile.turn + double(k) * tile.pitch));
    return double(m_model->sector.count) * sum;
}

Result<CagePoint> CageField::at(const CageSupply& supply, double slip, const CagePoint* start) {
    HarmonicFeed feed;
    feed.frequency = supply.frequency;
    feed.slip = slip;
    feed.wave = m_wave;
    feed.voltage = supply.voltage;
    feed.impedance = {supply.resistance, feed.omega() * supply.end_inductance};
    feed.waves = supply.waves;
    auto field = m_solver.solve(feed, start ? &start->field : nullptr);
    if (!field) return field.problems();
    CagePoint out;
    out.slip = slip;
    out.voltage = supply.voltage;
    out.current = field->current;
    const int m = phases();
    add_waves(*field, feed.omega(), out);
    out.rotor_current = -bars_moment(*field) / m_phases_moment;
    out.working_torque = 0.5 * m * m_model->machine.pole_pairs() / feed.omega() *
                         (out.emf * std::conj(out.rotor_current)).real();
    const auto losses = sorted_losses(*m_model, m_bodies, field->eddy_loss);
    if (const auto bars = losses.find(LossPart::Bars); bars != losses.end()) out.bar_loss = bars->second;
    out.ring_loss = field->ring_loss;
    out.input = 0.5 * m * (out.voltage * std::conj(out.current)).real();
    out.copper_loss = 0.5 * m * std::norm(out.current) * supply.resistance;
    out.field = std::move(*field);
    return out;
}

CageElements CageField::elements(const CageSupply& supply, const CagePoint& at) const {
    CageElements out;
    out.r1 = supply.resistance;
    out.x1 = ((at.voltage - supply.resistance * at.current - at.emf) / at.current).imag();
    out.xm = (at.emf / (at.current - at.rotor_current)).imag();
    if (at.slip == 0 || at.rotor_current == 0.0) return out;
    const Complex rotor = at.emf / at.rotor_current;
    out.r2 = at.slip * rotor.real();
    out.x2 = rotor.imag();
    return out;
}

IronLoss CageField::stator_iron(const CagePoint& point) const {
    std::vector<std::vector<double>> potentials;
    const PhasorPotential& a = point.field.potential;
    for (int k = 0; k < instants; ++k) {
        const double t = 2 * pi * k / instants;
        potentials.emplace_back(a.re.size());
        for (std::size_t i = 0; i < a.re.size(); ++i)
            potentials.back()[i] = a.re[i] * std::cos(t) - a.im[i] * std::sin(t);
    }
    return field_losses(*m_model, make_loci(*m_model, potentials, std::nullopt)).stator;
}

} // namespace mavlo
