#include "winding/layout.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <numeric>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;
constexpr std::complex<double> i_unit{0, 1};

} // namespace

double WindingLayout::turns_of_phase(int phase) const {
    double turns = 0;
    for (const Coil& coil : coils)
        if (coil.phase == phase) turns += coil.turns;
    return turns;
}

int span_of(const Coil& coil, int slots) {
    if (coil.back.slot == outside_core) return 0;
    const int span = ((coil.back.slot - coil.go.slot) % slots + slots) % slots;
    return span == 0 ? slots : span;
}

std::complex<double> winding_factor(const WindingLayout& layout, int order, int phase) {
    std::complex<double> sum = 0;
    double turns = 0;
    const double step = 2 * pi * order / layout.input.slots;
    for (const Coil& coil : layout.coils) {
        if (coil.phase != phase) continue;
        const double sense = coil.sign * coil.turns;
        sum += sense * std::polar(1.0, -step * coil.go.slot);
        turns += coil.turns;
        if (coil.back.slot == outside_core) continue;
        sum -= sense * std::polar(1.0, -step * coil.back.slot);
        turns += coil.turns;
    }
    return turns > 0 ? sum / turns : 0;
}

double phase_axis(const WindingLayout& layout, int phase) {
    // A north pole on angle x has B_r ~ cos p(theta - x), so A_z ~ sin p(theta - x), and the flux linkage, the
    // sum of A over the sides with their sign, is Im(sum sign e^{ip(theta - x)}) = Im(conj(k) e^{-ipx}):
    // largest where that is +i.
    const int p = layout.input.poles / 2;
    const double phi = std::arg(std::conj(winding_factor(layout, p, phase)));
    const double axis = (phi - pi / 2) / p, period = 2 * pi / p;
    const double wrapped = axis - period * std::floor(axis / period);
    return period - wrapped < 1e-12 ? 0 : wrapped;
}

bool repeats_after(const WindingLayout& layout, int slots, int sign, const PhaseStep* step) {
    // (slot, layer) -> turns of each phase, with their sign.
    std::map<std::array<int, 2>, std::map<int, double>> sides;
    for (const Coil& coil : layout.coils) {
        sides[{coil.go.slot, coil.go.layer}][coil.phase] += coil.sign * coil.turns;
        if (coil.back.slot != outside_core)
            sides[{coil.back.slot, coil.back.layer}][coil.phase] -= coil.sign * coil.turns;
    }
    for (const auto& [where, what] : sides) {
        const auto turned = sides.find({(where[0] + slots) % layout.input.slots, where[1]});
        if (turned == sides.end() || turned->second.size() != what.size()) return false;
        for (const auto& [phase, turns] : turned->second) {
            const int from = step ? step->from[std::size_t(phase)] : phase;
            const int sense = step ? step->sign[std::size_t(phase)] : 1;
            const auto same = what.find(from);
            if (same == what.end() || std::abs(same->second * sign - sense * turns) > 1e-9) return false;
        }
    }
    return true;
}

std::vector<double> slot_ampere_turns(const WindingLayout& layout, const std::vector<double>& currents) {
    std::vector<double> slots(std::size_t(layout.input.slots), 0.0);
    for (const Coil& coil : layout.coils) {
        const double amperes = coil.sign * coil.turns * currents[std::size_t(coil.phase)];
        slots[std::size_t(coil.go.slot)] += amperes;
        if (coil.back.slot != outside_core) slots[std::size_t(coil.back.slot)] -= amperes;
    }
    return slots;
}

double mmf(const WindingLayout& layout, const std::vector<double>& currents, double theta) {
    const int slots = layout.input.slots;
    const double pitch = 2 * pi / slots;
    std::vector<double> slot = slot_ampere_turns(layout, currents);
    const double rest = std::accumulate(slot.begin(), slot.end(), 0.0) / slots;
    for (double& amperes : slot) amperes -= rest;
    // Enclosed current counted from angle 0; the tooth after slot j sees the sum of slots 0 … j.
    const auto tooth = [&](int j) { return std::accumulate(slot.begin(), slot.begin() + j + 1, 0.0); };
    double mean = 0;
    for (int j = 0; j < slots; ++j) mean += tooth(j) / slots;
    const double turned = theta / pitch - std::floor(theta / pitch / slots) * slots;
    return mean - tooth(std::min(int(turned), slots - 1)); // go before back: flux inward for the go side first
}

std::complex<double> mmf_wave(const WindingLayout& layout, const std::vector<double>& currents, int order) {
    // dF/dtheta = -sum of slot currents at their angles: F_n = 2/(2 pi) sum_j (-I_j) e^{in theta_j}/(-in).
    const std::vector<double> slot = slot_ampere_turns(layout, currents);
    std::complex<double> sum = 0;
    for (std::size_t j = 0; j < slot.size(); ++j)
        sum += slot[j] * std::polar(1.0, 2 * pi * order * double(j) / double(slot.size()));
    return sum / (pi * order * i_unit);
}

TravellingMmf travelling_mmf(const WindingLayout& layout, int order) {
    // Slot currents as phasors, I_j(t) = Re(S_j e^{jwt}); the wave of order n is the sum of one that goes with
    // e^{j(wt - n theta)} and of one that goes with e^{j(wt + n theta)}, from the same sum as mmf_wave().
    std::vector<std::complex<double>> slots(std::size_t(layout.input.slots), 0.0);
    for (const Coil& coil : layout.coils) {
        const auto amperes = coil.sign * coil.turns * std::polar(1.0, -layout.lags[std::size_t(coil.phase)]);
        slots[std::size_t(coil.go.slot)] += amperes;
        if (coil.back.slot != outside_core) slots[std::size_t(coil.back.slot)] -= amperes;
    }
    std::complex<double> with = 0, against = 0;
    for (std::size_t j = 0; j < slots.size(); ++j) {
        const auto place = std::polar(1.0, 2 * pi * order * double(j) / double(slots.size()));
        with += slots[j] * place;
        against += std::conj(slots[j]) * place;
    }
    return {std::abs(with) / (2 * pi * order), std::abs(against) / (2 * pi * order)};
}

} // namespace mavlo
