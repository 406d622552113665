#include "winding/layout.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <numbers>
#include <numeric>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;

/// The span nearest to a pole pitch; the shorter coil where two are as near.
int full_pitch_span(const WindingInput& in) {
    return std::max(1, (2 * in.slots + in.poles - 1) / (2 * in.poles));
}

struct Belt {
    int phase, sign;
};

/// The phase whose axis lies `share` shares of half a turn ahead, and in which sense.
Belt belt_at(int share, int phases) {
    const auto lags = phase_lags(phases);
    for (int k = 0; k < phases; ++k) {
        const double shares = lags[std::size_t(k)] * phases / pi;
        for (int sign : {1, -1})
            if (std::abs(std::remainder(shares + (sign < 0 ? phases : 0) - share, 2.0 * phases)) < 1e-6)
                return {k, sign};
    }
    return {0, 1};
}

/// Phase and sign of each phasor of a star in which item j of `count` stands at the electrical angle
/// 360 p j/count. Phasors are folded on half a turn (an opposite one is taken with reversed sign) and dealt to
/// as many belts as there are phases (three: U, -W, V of 60 degrees each). Empty when they cannot be dealt
/// evenly.
std::vector<Belt> deal(int count, int pole_pairs, int phases) {
    const int spokes = count / std::gcd(count, pole_pairs); // distinct phasors
    const int axes = spokes % 2 ? spokes : spokes / 2;
    if (axes % phases != 0) return {};
    const int turns = pole_pairs / std::gcd(count, pole_pairs);
    std::vector<Belt> belts;
    for (int j = 0; j < count; ++j) {
        // angle in units of half a turn / spokes, so that everything stays whole
        const int angle = int((2LL * j * turns) % (2LL * spokes));
        const int sign = angle < spokes ? 1 : -1;
        const int folded = angle % spokes; // 0 … spokes-1 means 0 … 180 deg
        const int axis = spokes % 2 ? folded : folded / 2;
        const Belt belt = belt_at(axis / (axes / phases), phases);
        belts.push_back({belt.phase, sign * belt.sign});
    }
    return belts;
}

Problem uneven(const WindingInput& in, const char* what) {
    return {
        "stator.slots",
        fmt::format(
            "{} slots with {} poles cannot carry a balanced winding of {} phases {}: {} / ({} x {}) must be a "
            "whole number. Change the slots, the poles or the layers.",
            in.slots, in.poles, in.phases, what, in.slots, in.phases, std::gcd(in.slots, in.poles / 2))};
}

/// Single layer with an odd span: the coils begin in every other slot, and the star is that of the coils.
std::vector<Coil> coils_in_alternate_slots(const WindingInput& in, const std::vector<Belt>& belts) {
    std::vector<Coil> coils;
    for (int j = 0; j < in.slots; j += 2) {
        const Belt belt = belts[std::size_t(j / 2)];
        coils.push_back({belt.phase, belt.sign, {j, 0}, {(j + in.span) % in.slots, 0}});
    }
    return coils;
}

/// Single layer with an even span: slots are dealt to belts, and each positive side is joined to the next
/// negative side of its phase.
std::vector<Coil> coils_from_slot_belts(const WindingInput& in, const std::vector<Belt>& belts) {
    std::vector<Coil> coils;
    for (int phase = 0; phase < in.phases; ++phase) {
        std::vector<int> go, back;
        for (int j = 0; j < in.slots; ++j)
            if (belts[std::size_t(j)].phase == phase) (belts[std::size_t(j)].sign > 0 ? go : back).push_back(j);
        if (go.size() != back.size()) return {};
        if (go.empty()) return {};
        const auto first = std::upper_bound(back.begin(), back.end(), go.front()) - back.begin();
        for (std::size_t i = 0; i < go.size(); ++i)
            coils.push_back({phase, 1, {go[i], 0}, {back[(std::size_t(first) + i) % back.size()], 0}});
    }
    return coils;
}

/// Two layers: a coil leaves from layer 1 of every slot. Side by side that is the half next to the tooth it
/// goes round.
std::vector<Coil> coils_in_every_slot(const WindingInput& in, const std::vector<Belt>& belts) {
    const int go_layer = 1, back_layer = 0;
    std::vector<Coil> coils;
    for (int j = 0; j < in.slots; ++j) {
        const Belt belt = belts[std::size_t(j)];
        coils.push_back({belt.phase, belt.sign, {j, go_layer}, {(j + in.span) % in.slots, back_layer}});
    }
    return coils;
}

Problems check(const WindingInput& in) {
    Problems problems;
    if (in.phases < 2 || in.phases > 9 || in.phases == 8)
        problems.push_back(
            {"winding.phases",
             fmt::format("{} phases are wanted; 2, 3, 4, 5, 6, 7 and 9 are possible.", in.phases)});
    if (in.slots < in.phases)
        problems.push_back(
            {"stator.slots", fmt::format("At least {} slots are needed for {} phases.", in.phases, in.phases)});
    if (in.poles < 2 || in.poles % 2)
        problems.push_back({"rotor.poles", "The number of poles must be even and at least 2."});
    if (in.layers != 1 && in.layers != 2)
        problems.push_back({"winding.layers", "A winding has one or two layers."});
    if (in.span < 0 || (in.span >= in.slots && in.slots > 0))
        problems.push_back(
            {"winding.span", fmt::format("The coil span must lie between 1 and {} slots.", in.slots - 1)});
    if (in.layers == 1 && in.slots % 2)
        problems.push_back(
            {"winding.layers", "A single layer needs an even number of slots; take two layers."});
    return problems;
}

} // namespace

std::vector<double> phase_lags(int phases) {
    std::vector<double> lags;
    for (int k = 0; k < phases; ++k) {
        if (phases == 6)
            lags.push_back((k / 3) * pi / 6 + (k % 3) * 2 * pi / 3);
        else
            lags.push_back(phases % 2 ? 2 * pi * k / phases : pi * k / phases);
    }
    return lags;
}

PhaseStep phase_step(int phases) {
    // i_k = cos(theta - lag_k); theta goes on by pi/phases.
    const auto lags = phase_lags(phases);
    PhaseStep step;
    for (int k = 0; k < phases; ++k)
        for (int j = 0; j < phases; ++j)
            for (int sign : {1, -1}) {
                const double apart =
                    lags[std::size_t(k)] - pi / phases - lags[std::size_t(j)] + (sign < 0 ? pi : 0);
                if (std::abs(std::remainder(apart, 2 * pi)) > 1e-6) continue;
                step.from.push_back(j);
                step.sign.push_back(sign);
            }
    return step;
}

Result<WindingLayout> propose_winding(const WindingInput& wanted) {
    if (auto problems = check(wanted); !problems.empty()) return problems;
    WindingLayout layout;
    WindingInput& in = layout.input = wanted;
    const int pole_pairs = in.poles / 2;
    if (in.span == 0) {
        in.span = full_pitch_span(in);
        if (in.layers == 1 && in.span % 2 == 0 && in.slots % in.poles != 0) --in.span;
        in.span = std::max(1, in.span);
    }
    if (in.layers == 2) {
        const auto belts = deal(in.slots, pole_pairs, in.phases);
        if (belts.empty()) return uneven(in, "in two layers");
        layout.sharing = in.span == 1 ? SlotSharing::SideBySide : SlotSharing::Stacked;
        layout.coils = coils_in_every_slot(in, belts);
    } else if (in.span % 2 == 1) {
        layout.sharing = SlotSharing::Whole;
        const auto belts = deal(in.slots / 2, pole_pairs, in.phases);
        if (belts.empty()) return uneven(in, "in one layer");
        layout.coils = coils_in_alternate_slots(in, belts);
    } else {
        layout.sharing = SlotSharing::Whole;
        const auto belts = deal(in.slots, pole_pairs, in.phases);
        if (!belts.empty()) layout.coils = coils_from_slot_belts(in, belts);
        if (layout.coils.empty()) return uneven(in, "in one layer with an even span");
    }
    std::vector<int> count(std::size_t(in.phases), 0);
    for (const Coil& coil : layout.coils) ++count[std::size_t(coil.phase)];
    if (std::any_of(count.begin(), count.end(), [&](int n) { return n != count[0]; }))
        return uneven(in, "with this span");
    if (std::abs(winding_factor(layout, pole_pairs)) < 1e-6)
        return Problem{"winding.span",
                       fmt::format("With a span of {} slots the coils link no flux of the {} poles; take {}.",
                                   in.span, in.poles, full_pitch_span(in))};
    return layout;
}

std::complex<double> winding_factor(const WindingLayout& layout, int order, int phase) {
    std::complex<double> sum = 0;
    int coils = 0;
    const double step = 2 * pi * order / layout.input.slots;
    for (const Coil& coil : layout.coils) {
        if (coil.phase != phase) continue;
        ++coils;
        sum += double(coil.sign) *
               (std::polar(1.0, -step * coil.go.slot) - std::polar(1.0, -step * coil.back.slot));
    }
    return coils ? sum / (2.0 * coils) : 0;
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
    std::map<std::array<int, 2>, std::array<int, 2>> sides; // (slot, layer) -> (phase, sign)
    for (const Coil& coil : layout.coils) {
        sides[{coil.go.slot, coil.go.layer}] = {coil.phase, coil.sign};
        sides[{coil.back.slot, coil.back.layer}] = {coil.phase, -coil.sign};
    }
    for (const auto& [where, what] : sides) {
        const auto turned = sides.find({(where[0] + slots) % layout.input.slots, where[1]});
        if (turned == sides.end()) return false;
        auto [phase, sense] = turned->second;
        if (step) {
            sense *= step->sign[std::size_t(phase)];
            phase = step->from[std::size_t(phase)];
        }
        if (phase != what[0] || sense != sign * what[1]) return false;
    }
    return true;
}

double mmf(const WindingLayout& layout, const std::vector<double>& currents, double turns, double theta) {
    const double pitch = 2 * pi / layout.input.slots;
    std::vector<double> slot(std::size_t(layout.input.slots), 0.0);
    for (const Coil& coil : layout.coils) {
        const double amperes = coil.sign * turns * currents[std::size_t(coil.phase)];
        slot[std::size_t(coil.go.slot)] += amperes;
        slot[std::size_t(coil.back.slot)] -= amperes;
    }
    // Enclosed current counted from angle 0; the tooth after slot j sees the sum of slots 0 … j.
    const auto tooth = [&](int j) { return std::accumulate(slot.begin(), slot.begin() + j + 1, 0.0); };
    double mean = 0;
    for (int j = 0; j < layout.input.slots; ++j) mean += tooth(j) / layout.input.slots;
    const double turned = theta / pitch - std::floor(theta / pitch / layout.input.slots) * layout.input.slots;
    return mean - tooth(std::min(int(turned),
                                 layout.input.slots - 1)); // go before back: flux inward for the go side first
}

} // namespace mavlo
