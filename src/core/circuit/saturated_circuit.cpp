#include "circuit/saturated_circuit.h"

#include "quantity/search.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

constexpr double least_frequency = 1e-9; ///< of the rotor, Hz: none

} // namespace

double straight_between(const std::vector<double>& xs, const std::vector<double>& ys, double x) {
    assert(!xs.empty() && xs.size() == ys.size());
    const auto above = std::upper_bound(xs.begin(), xs.end(), x);
    if (above == xs.begin()) return ys.front();
    if (above == xs.end()) return ys.back();
    const auto k = std::size_t(above - xs.begin());
    const double share = (x - xs[k - 1]) / (xs[k] - xs[k - 1]);
    return ys[k - 1] + share * (ys[k] - ys[k - 1]);
}

double CircuitTable::iron(double emf, double f) const {
    if (iron_frequency.empty() || iron_emf <= 0) return 0;
    return straight_between(iron_frequency, iron_loss, f) * std::pow(emf / f / iron_emf, 2);
}

SaturatedCircuit::SaturatedCircuit(CircuitTable table, int pole_pairs, double friction)
    : SlipMachine(pole_pairs)
    , m_table(std::move(table))
    , m_friction(friction) {
    for (double& f : m_table.rotor_frequency) f = std::log(f);
}

Result<SlipPoint> SaturatedCircuit::at(double voltage, double frequency, double slip) {
    const double scale = frequency / m_table.frequency, rotor_frequency = std::abs(slip) * frequency,
                 at = std::log(std::max(rotor_frequency, least_frequency));
    const auto element = [&](const std::vector<double>& of) {
        return straight_between(m_table.rotor_frequency, of, at);
    };
    const Complex z1(m_table.r1, scale * element(m_table.x1));
    const double r2 = element(m_table.r2), main_share = slip == 0 ? 1 : element(m_table.main_share);
    const Complex rotor = slip == 0 ? Complex() : 1.0 / Complex(r2 / slip, scale * element(m_table.x2));
    // The EMF that the main path's reactance at that EMF leaves.
    const auto inside = [&](double emf) {
        const double xm = straight_between(m_table.emf_per_hertz, m_table.xm, emf / frequency);
        const Complex main(0, scale * main_share * xm);
        const double iron = emf > 0 ? m_table.iron(emf, frequency) / (3 * emf * emf) : 0;
        return 1.0 / (1.0 / main + iron + rotor);
    };
    const auto left = [&](double emf) {
        const Complex z = inside(emf);
        return emf - voltage * std::abs(z / (z1 + z));
    };
    const auto emf = rising_root(left, 0, 3 * voltage);
    if (!emf) return Problem{"circuit", "The circuit has no working point at this voltage."};
    const Complex z = inside(*emf), current = voltage / (z1 + z), phasor = current * z;
    SlipPoint p;
    p.slip = slip;
    p.speed = (1 - slip) * synchronous_speed(frequency);
    p.current = std::abs(current);
    p.rotor_current = std::abs(phasor * rotor);
    p.input = 3 * voltage * current.real();
    p.power_factor = p.current > 0 ? p.input / (3 * voltage * p.current) : 0;
    p.copper_stator = 3 * m_table.r1 * std::norm(current);
    p.copper_rotor = 3 * r2 * p.rotor_current * p.rotor_current;
    p.iron = m_table.iron(*emf, frequency);
    p.torque = slip == 0 ? 0 : p.copper_rotor / slip / synchronous_speed(frequency);
    p.friction = p.speed != 0 ? m_friction : 0;
    return p;
}

} // namespace mavlo
