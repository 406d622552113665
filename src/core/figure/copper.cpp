#include "figure/copper.h"

#include "machine/axial.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

namespace mavlo {
namespace {

/// What the sides of a slot carry, relative to the first: slots alike in it are alike in their loss.
std::string kind_of(const Machine& m, int slot, const std::vector<std::complex<double>>& currents) {
    std::map<int, std::pair<std::complex<double>, double>> sides;
    for (const Coil& coil : m.winding.layout.coils)
        for (const auto& [side, sense] : {std::pair{coil.go, 1.0}, {coil.back, -1.0}})
            if (side.slot == slot)
                sides[side.layer] = {sense * coil.sign * currents[std::size_t(coil.phase)], coil.turns};
    std::string text;
    if (sides.empty()) return text;
    const std::complex<double> first = sides.begin()->second.first;
    for (const auto& [layer, side] : sides) {
        const std::complex<double> relative = side.first / first;
        text += fmt::format("{} {:.6f} {:.6f} {:g};", layer, relative.real() + 0.0, std::abs(relative.imag()),
                            side.second);
    }
    return text;
}

} // namespace

AcResistance::AcResistance(const Machine& m) {
    if (!m.wound()) return;
    const Conductor conductor = machine_conductor(m);
    const ConductorSize& size = conductor.size;
    if (!(size.area > 0) || !(m.winding.slot_area > 0) || m.section.bodies.empty()) return;
    m_length_ratio = conductor.turn_length / (2 * m.stack_length);
    m_in_slot = std::min(1.0, 1 / m_length_ratio);
    m_shares = size.shape != ConductorShape::Litz && size.strands > 1;
    const StrandShape shape = m_shape = {size.is_round(), size.is_round() ? size.diameter : size.height,
                                         size.width, m.winding.resistivity()};
    const SlotProfile profile = slot_profile(m);
    std::vector<std::complex<double>> currents;
    for (double lag : m.winding.layout.lags) currents.push_back(std::polar(1.0, -lag));
    std::map<std::string, std::pair<int, int>> kinds; // kind -> first slot, count
    for (int slot = 0; slot < m.slots; ++slot)
        if (const std::string kind = kind_of(m, slot, currents); !kind.empty())
            ++kinds.try_emplace(kind, slot, 0).first->second.second;
    for (const auto& [name, kind] : kinds) {
        const SlotFilling filling = fill_slot(m, kind.first, Packing::Rows);
        auto strands = placed_strands(m, kind.first, filling, currents);
        if (size.shape == ConductorShape::Litz) {
            // A bundle as its strands, all at its middle's depth.
            for (PlacedStrand& s : strands) s.share /= double(size.strands);
            const auto bundles = strands;
            for (int k = 1; k < size.strands; ++k)
                strands.insert(strands.end(), bundles.begin(), bundles.end());
        }
        std::set<int> sides;
        for (const PlacedStrand& s : strands) sides.insert(s.side);
        Kind added{SlotStrands(std::move(strands), profile, shape), {}, double(kind.second)};
        for (int side : sides)
            if (m_shares) added.sides.push_back(added.strands.coupling(side));
        m_kinds.push_back(std::move(added));
    }
    m_leakage = find_leakage();
}

/// From a frequency at which strands are much thinner than the skin.
double AcResistance::find_leakage() const {
    constexpr double thin = 0.1; // strand over skin depth
    const double f = m_shape.resistivity / (pi * mu0) * std::pow(thin / m_shape.height, 2),
                 own = m_shape.round ? round_skin_factor(thin / 2) : 1;
    return m_in_slot * (slot_factor(f) - own) / (f * f);
}

double AcResistance::slot_factor(double frequency) const {
    double sum = 0, weight = 0;
    for (const Kind& kind : m_kinds) {
        sum += kind.weight * kind.strands.factor(frequency);
        weight += kind.weight;
    }
    return weight > 0 ? sum / weight : 1;
}

double AcResistance::sharing_factor(double frequency) const {
    if (!m_shares) return 1;
    double sum = 0, weight = 0;
    for (const Kind& kind : m_kinds)
        for (const auto& side : kind.sides) {
            sum += kind.weight * kind.strands.sharing(side, frequency, m_length_ratio).loss_factor;
            weight += kind.weight;
        }
    return weight > 0 ? sum / weight : 1;
}

double AcResistance::whole(double sharing, double frequency) const {
    return sharing + m_in_slot * (slot_factor(frequency) - 1);
}

double AcResistance::alone(double sharing, double frequency) const {
    if (frequency <= 0 || !m_shape.round) return whole(sharing, frequency);
    const double x = m_shape.height / 2 / skin_depth(m_shape.resistivity, frequency);
    return sharing + m_in_slot * (round_skin_factor(x) - 1);
}

double AcResistance::factor(double frequency) const {
    return whole(sharing_factor(frequency), frequency);
}

double AcResistance::without_neighbours(double frequency) const {
    return alone(sharing_factor(frequency), frequency);
}

double AcResistance::crossing_share(double frequency) const {
    if (frequency <= 0 || m_kinds.empty()) return 1;
    const double over = m_shape.height / skin_depth(m_shape.resistivity, frequency);
    if (over < 1e-2) return 1;
    if (m_shape.round) return round_proximity_factor(over / 2) / (pi * std::pow(over / 2, 4));
    const BarFactors bar = bar_factors(over); // the same field on both sides
    return 6 * (bar.a - bar.b) / std::pow(over, 3);
}

StrandRates AcResistance::at(double f) const {
    const double growth = f * f * crossing_share(f), sharing = sharing_factor(f), all = whole(sharing, f);
    return {m_shape.round, all, m_shape.round ? alone(sharing, f) : all, m_leakage * growth, growth};
}

namespace {

double end_faces_loss(const Air& air, double omega, double r) {
    const double reynolds = omega * r * r / air.viscosity;
    if (reynolds < 1) return 0;
    const double moment = reynolds < 3e5 ? 3.87 / std::sqrt(reynolds) : 0.146 * std::pow(reynolds, -0.2);
    return moment * air.density * std::pow(omega, 3) * std::pow(r, 5) / 2;
}

/// Between the winding's temperature and that of the rotor's magnets.
double air_temperature(const Machine& m) {
    const Substance* magnet = m.magnet();
    const double winding = m.wound() ? m.winding.temperature : magnet ? magnet->temperature : 333.15;
    return magnet ? (winding + magnet->temperature) / 2 : winding;
}

} // namespace

Air air_at(double kelvin) {
    constexpr double pressure = 101325, gas = 287.05;
    const double density = pressure / (gas * kelvin),
                 viscosity = 1.458e-6 * std::pow(kelvin, 1.5) / (kelvin + 110.4);
    return {density, viscosity / density};
}

double salient_drag(const Machine& m) {
    constexpr double from = 0.06;
    const double depth = m.pole_depth / m.rotor_radius();
    const auto measured = [](double x) { return 8.5 * x + 2.2; };
    return depth < from ? 1 + depth / from * (measured(from) - 1) : measured(depth);
}

MechanicalLoss mechanical_loss(const Machine& m, double speed) {
    MechanicalLoss out;
    const Air air = air_at(air_temperature(m));
    const double omega = std::abs(speed), r = m.rotor_radius();
    out.bearings = m.friction_torque * omega;
    if (m.facts().linear) return out; // the air that it moves in the open is left out
    if (m.facts().axial) {            // discs in free air; what a narrow gap changes is left out
        const AxialForm form = axial_form(m.values);
        out.windage = (form.stator_between ? 2 : 1) * end_faces_loss(air, omega, form.outer);
        return out;
    }
    const double reynolds = omega * r * m.gap / air.viscosity;
    if (reynolds < 1) return out;
    // 1/x = 2.04 + 1.768 ln(Re x) with x = sqrt(C_d): the left falls and the right rises, so there is one root.
    double low = 1e-4,
           high = 2; // Re x near 1 is the law's own end; at low speeds the rim loses next to nothing
    for (int i = 0; i < 60; ++i) {
        const double x = (low + high) / 2;
        (1 / x > 2.04 + 1.768 * std::log(reynolds * x) ? low : high) = x;
    }
    const double root = low;
    out.windage = salient_drag(m) * pi * root * root * air.density * std::pow(r, 4) * std::pow(omega, 3) *
                      m.stack_length +
                  end_faces_loss(air, omega, m.outer_rotor() ? m.section.outer_radius() : r);
    return out;
}

} // namespace mavlo
