#include "winding/layout.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

namespace mavlo {
namespace {

constexpr std::complex<double> i_unit{0, 1};

/// Ampere-turns of every slot for currents, or their phasors.
template <typename Number>
std::vector<Number> in_slots(const WindingLayout& layout, const std::vector<Number>& currents) {
    std::vector<Number> slots(std::size_t(layout.input.slots), Number(0));
    for (const Coil& coil : layout.coils) {
        const Number amperes = coil.sign * coil.turns * currents[std::size_t(coil.phase)];
        slots[std::size_t(coil.go.slot)] += amperes;
        if (coil.back.slot != outside_core) slots[std::size_t(coil.back.slot)] -= amperes;
    }
    return slots;
}

/// sum_j I_j e^{i order theta_j}
template <typename Number>
std::complex<double> wave_sum(const std::vector<Number>& slots, int order) {
    std::complex<double> sum = 0;
    for (std::size_t j = 0; j < slots.size(); ++j)
        sum += slots[j] * std::polar(1.0, 2 * pi * order * double(j) / double(slots.size()));
    return sum;
}

} // namespace

const std::vector<std::string>& winding_forms() {
    static const std::vector<std::string> words{"lap", "concentric", "ring", "pole"};
    return words;
}

std::string to_string(WindingForm form) {
    return winding_forms()[std::size_t(form)];
}

WindingForm winding_form(const std::string& word) {
    const auto& words = winding_forms();
    return WindingForm(std::find(words.begin(), words.end(), word) - words.begin());
}

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

std::complex<double> coil_phasor(const Coil& coil, int slots, int order) {
    const double step = 2 * pi * order / slots, sense = coil.sign * coil.turns;
    std::complex<double> sum = sense * std::polar(1.0, -step * coil.go.slot);
    if (coil.back.slot != outside_core) sum -= sense * std::polar(1.0, -step * coil.back.slot);
    return sum;
}

std::complex<double> winding_factor(const WindingLayout& layout, int order, int phase) {
    std::complex<double> sum = 0;
    double turns = 0;
    for (const Coil& coil : layout.coils) {
        if (coil.phase != phase) continue;
        sum += coil_phasor(coil, layout.input.slots, order);
        turns += coil.back.slot == outside_core ? coil.turns : 2 * coil.turns;
    }
    return turns > 0 ? sum / turns : 0;
}

namespace {

/// Middle of the first coil of the phase.
double coil_axis(const WindingLayout& layout, int phase) {
    const auto coil =
        std::find_if(layout.coils.begin(), layout.coils.end(), [&](const Coil& c) { return c.phase == phase; });
    if (coil == layout.coils.end()) return 0;
    const int slots = layout.input.slots;
    return 2 * pi / slots * (coil->go.slot + 0.5 * span_of(*coil, slots));
}

} // namespace

double phase_axis(const WindingLayout& layout, int phase) {
    if (layout.switched()) return std::fmod(coil_axis(layout, phase), 2 * pi / layout.periods());
    // A north pole on angle x has B_r ~ cos p(theta - x), so A_z ~ sin p(theta - x), and the flux linkage, the
    // sum of A over the sides with their sign, is Im(sum sign e^{ip(theta - x)}) = Im(conj(k) e^{-ipx}):
    // largest where that is +i.
    const int p = layout.input.poles / 2;
    const double phi = std::arg(std::conj(winding_factor(layout, p, phase)));
    const double axis = (phi - pi / 2) / p, period = 2 * pi / p;
    const double wrapped = axis - period * std::floor(axis / period);
    return period - wrapped < 1e-12 ? 0 : wrapped;
}

std::vector<double> switched_lags(const WindingLayout& layout) {
    std::vector<double> lags;
    for (int k = 0; k < layout.input.phases; ++k) {
        const double turns = layout.periods() * (coil_axis(layout, k) - coil_axis(layout, 0)) / (2 * pi);
        const double share = turns - std::floor(turns + 1e-9);
        lags.push_back(2 * pi * (share < 1e-9 ? 0 : share));
    }
    return lags;
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
    return in_slots(layout, currents);
}

std::vector<double> tooth_mmf(const WindingLayout& layout, const std::vector<double>& currents) {
    std::vector<double> teeth = slot_ampere_turns(layout, currents);
    const double slots = layout.input.slots, rest = std::accumulate(teeth.begin(), teeth.end(), 0.0) / slots;
    // Enclosed current counted from angle 0; the tooth after slot j sees the sum of slots 0 … j.
    double enclosed = 0, mean = 0;
    for (double& tooth : teeth) {
        enclosed += tooth - rest;
        tooth = -enclosed; // go before back: flux inward for the go side first
        mean += tooth / slots;
    }
    for (double& tooth : teeth) tooth -= mean;
    return teeth;
}

std::size_t tooth_at(const WindingLayout& layout, double theta) {
    const int slots = layout.input.slots;
    const double turns = theta / (2 * pi), place = (turns - std::floor(turns)) * slots;
    return std::size_t(std::min(int(place), slots - 1));
}

double mmf(const WindingLayout& layout, const std::vector<double>& currents, double theta) {
    return tooth_mmf(layout, currents)[tooth_at(layout, theta)];
}

std::complex<double> mmf_wave(const WindingLayout& layout, const std::vector<double>& currents, int order) {
    // dF/dtheta = -sum of slot currents at their angles: F_n = 2/(2 pi) sum_j (-I_j) e^{in theta_j}/(-in).
    return wave_sum(slot_ampere_turns(layout, currents), order) / (pi * order * i_unit);
}

TravellingMmf travelling_mmf(const WindingLayout& layout, int order) {
    // Slot currents as phasors, I_j(t) = Re(S_j e^{jwt}); the wave of order n is the sum of one that goes with
    // e^{j(wt - n theta)} and of one that goes with e^{j(wt + n theta)}, from the same sum as mmf_wave().
    std::vector<std::complex<double>> phasors;
    for (double lag : layout.lags) phasors.push_back(std::polar(1.0, -lag));
    std::vector<std::complex<double>> slots = in_slots(layout, phasors);
    const double with = std::abs(wave_sum(slots, order));
    for (auto& slot : slots) slot = std::conj(slot);
    return {with / (2 * pi * order), std::abs(wave_sum(slots, order)) / (2 * pi * order)};
}

} // namespace mavlo
