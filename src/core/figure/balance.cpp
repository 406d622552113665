#include "figure/balance.h"

#include "figure/spectrum.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace mavlo {

TakenFrom taken_from(LossPart part) {
    switch (part) {
    case LossPart::Copper:
    case LossPart::CarrierIron:
    case LossPart::CarrierMagnets:
    case LossPart::Switches:
        return TakenFrom::Terminals;
    default:
        return TakenFrom::Shaft;
    }
}

std::optional<double> Balance::of(LossPart part) const {
    return unknown.has(part) ? std::nullopt : std::optional(known(part));
}

std::optional<double> Balance::iron() const {
    if (unknown.has(LossPart::IronStator) || unknown.has(LossPart::IronRotor)) return std::nullopt;
    return known(LossPart::IronStator) + known(LossPart::IronRotor);
}

void Balance::set(const MechanicalLoss& loss) {
    (*this)[LossPart::Bearings] = loss.bearings;
    (*this)[LossPart::Windage] = loss.windage;
}

double Balance::known_eddy() const {
    double sum = 0;
    for (const LossPart part : eddy_parts) sum += known(part);
    return sum;
}

double Balance::known_total() const {
    return std::accumulate(m_loss.begin(), m_loss.end(), 0.0);
}

double Balance::terminals() const {
    double power = electrical - copper_dc;
    for (const LossPart part : all_loss_parts)
        if (taken_from(part) == TakenFrom::Terminals) power += known(part);
    return power;
}

double Balance::known_shaft() const {
    double power = air_gap;
    for (const LossPart part : all_loss_parts) {
        const bool eddy = std::find(eddy_parts.begin(), eddy_parts.end(), part) != eddy_parts.end();
        if (taken_from(part) == TakenFrom::Shaft && !(eddy && eddy_in_field)) power -= known(part);
    }
    return power;
}

std::optional<double> Balance::efficiency() const {
    const auto out = shaft();
    if (!out) return std::nullopt;
    // What is left of a torque that is none on the mean gives nothing out.
    constexpr double nothing = 1e-3;
    if (std::abs(terminals()) < nothing * known_total()) return std::nullopt;
    if (*out > 0 && terminals() > 0) return *out / terminals();
    if (*out < 0 && terminals() < 0) return terminals() / *out;
    return std::nullopt;
}

double Balance::unaccounted(double other) const {
    const double losses = copper_dc + other + (eddy_in_field ? known_eddy() : 0),
                 largest = std::max({std::abs(electrical), std::abs(air_gap), losses});
    return largest > 0 ? (electrical - losses - air_gap) / largest : 0;
}

double direct_copper_loss(const Machine& machine, double peak_current) {
    return machine.winding.phases / 2.0 * peak_current * peak_current * machine_conductor(machine).resistance;
}

namespace {

/// Adds what a field that crosses the strands loses (W), of which the currents' own leakage makes `own`: beside
/// the phases' loss what is more than that, and in it the rest where it stands for their neighbours' field.
void add_crossing(CopperLoss& loss, double crossing, double own, bool for_neighbours) {
    loss.stray = std::max(0.0, crossing - own);
    if (for_neighbours) loss.alternating += crossing - loss.stray;
}

} // namespace

CopperLoss copper_loss(const AcResistance& alternating, double direct, const std::vector<double>& watts,
                       double frequency, std::optional<double> strands, bool by_field) {
    const bool by_strands = by_field && strands && alternating.is_round();
    CopperLoss loss{direct, direct};
    const double largest = watts.empty() ? 0 : *std::max_element(watts.begin(), watts.end());
    double own = 0; // W at 1 Hz, by the currents' own leakage
    for (std::size_t n = 1; n < watts.size(); ++n) {
        if (watts[n] <= 1e-18 * largest) continue;
        const double order = double(n), f = order * frequency;
        loss.alternating +=
            watts[n] * ((by_strands ? alternating.without_neighbours(f) : alternating.factor(f)) - 1);
        own += watts[n] * order * order * alternating.leakage_at_1hz();
    }
    if (!strands) return loss;
    const double growth = frequency * frequency * alternating.crossing_share(frequency);
    add_crossing(loss, *strands * growth, own * growth, by_strands);
    return loss;
}

CopperLoss copper_loss(const StrandRates& rates, double direct, std::optional<double> strands) {
    const bool by_strands = strands && rates.round;
    CopperLoss loss{direct, direct * (by_strands ? rates.alone : rates.whole)};
    if (strands) add_crossing(loss, *strands * rates.growth, direct * rates.leakage, by_strands);
    return loss;
}

CopperLoss copper_loss(const Machine& machine, const std::vector<std::vector<double>>& currents,
                       double frequency, const FieldLosses& losses) {
    const Conductor conductor = machine_conductor(machine);
    double direct = 0;
    std::vector<double> watts;
    for (std::size_t k = 0; k < currents.size(); ++k) {
        const double resistance = conductor.phase_resistance[k];
        direct += resistance * std::pow(rms(currents[k]), 2);
        const auto waves = harmonics(currents[k]);
        watts.resize(std::max(watts.size(), waves.size()));
        for (std::size_t n = 0; n < waves.size(); ++n) watts[n] += resistance * std::norm(waves[n]) / 2;
    }
    return copper_loss(AcResistance(machine), direct, watts, frequency, losses.strands);
}

Balance balance_of(const Machine& machine, const FieldLosses& losses, const CopperLoss& copper, double speed,
                   double torque, double electrical) {
    const double f = electrical_frequency(machine, speed);
    Balance b;
    b.copper_dc = copper.direct;
    b[LossPart::Copper] = copper.alternating;
    b[LossPart::WindingStray] = copper.stray;
    b[LossPart::IronStator] = losses.stator.at(f);
    b[LossPart::IronRotor] = losses.rotor.at(f);
    b[LossPart::Magnets] = losses.magnet(f);
    b[LossPart::Shaft] = losses.shaft_loss(f);
    b.set(mechanical_loss(machine, speed));
    b.unknown = unknown_losses(machine);
    b.air_gap = torque * speed;
    b.electrical = electrical;
    return b;
}

} // namespace mavlo
