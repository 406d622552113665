#include "circuit/induction_circuit.h"

#include "quantity/constants.h"

#include <cassert>
#include <cmath>

namespace mavlo {

InductionCircuit::InductionCircuit(const InductionElements& elements, int pole_pairs, double friction)
    : m_elements(elements)
    , m_pairs(pole_pairs)
    , m_friction(friction) {
    assert(elements.xm > 0 && elements.r2 > 0 && elements.frequency > 0 && pole_pairs > 0);
}

double InductionCircuit::synchronous_speed(double frequency) const {
    return 2 * pi * frequency / m_pairs;
}

InductionCircuit::Complex InductionCircuit::stator(double frequency) const {
    return {m_elements.r1, m_elements.x1 * frequency / m_elements.frequency};
}

InductionCircuit::Complex InductionCircuit::magnetising(double frequency) const {
    const Complex reactance(0, m_elements.xm * frequency / m_elements.frequency);
    return m_elements.rfe > 0 ? reactance * m_elements.rfe / (reactance + m_elements.rfe) : reactance;
}

/// Of a slip that is not zero.
InductionCircuit::Complex InductionCircuit::rotor(double frequency, double slip) const {
    return {m_elements.r2 / slip, m_elements.x2 * frequency / m_elements.frequency};
}

SlipPoint InductionCircuit::at(double voltage, double frequency, double slip) const {
    const Complex z1 = stator(frequency), zm = magnetising(frequency);
    const bool turns_in_step = slip == 0;
    const Complex z2 = turns_in_step ? Complex() : rotor(frequency, slip),
                  inside = turns_in_step ? zm : zm * z2 / (zm + z2), current = voltage / (z1 + inside),
                  emf = current * inside, rotor_current = turns_in_step ? Complex() : emf / z2;
    SlipPoint p;
    p.slip = slip;
    p.speed = (1 - slip) * synchronous_speed(frequency);
    p.current = std::abs(current);
    p.rotor_current = std::abs(rotor_current);
    p.input = 3 * voltage * current.real();
    p.power_factor = p.current > 0 ? p.input / (3 * voltage * p.current) : 0;
    p.copper_stator = 3 * m_elements.r1 * std::norm(current);
    p.copper_rotor = 3 * m_elements.r2 * std::norm(rotor_current);
    p.iron = m_elements.rfe > 0 ? 3 * std::norm(emf) / m_elements.rfe : 0;
    p.torque = turns_in_step ? 0 : p.copper_rotor / slip / synchronous_speed(frequency);
    p.friction = p.speed != 0 ? m_friction : 0;
    return p;
}

PullOut InductionCircuit::pull_out(double voltage, double frequency, bool as_motor) const {
    const Complex z1 = stator(frequency), zm = magnetising(frequency), seen = z1 * zm / (z1 + zm),
                  series = seen + Complex(0, rotor(frequency, 1).imag());
    const double slip = (as_motor ? 1 : -1) * m_elements.r2 / std::abs(series);
    return {slip, at(voltage, frequency, slip).torque};
}

std::optional<double> InductionCircuit::slip_for(double output, double voltage, double frequency) const {
    const double most = pull_out(voltage, frequency, output >= 0).slip;
    double low = 0, high = most;
    const auto beyond = [&](double slip) {
        const double given = at(voltage, frequency, slip).output();
        return output >= 0 ? given >= output : given <= output;
    };
    if (!beyond(high)) return std::nullopt;
    for (int k = 0; k < 200 && std::abs(high - low) > 1e-15 * std::abs(most); ++k) {
        const double middle = (low + high) / 2;
        (beyond(middle) ? high : low) = middle;
    }
    return high;
}

} // namespace mavlo
