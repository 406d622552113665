#include "winding/alternatives.h"

#include "winding/balance.h"
#include "winding/proposal.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace mavlo {
namespace {

/// What a layout is worth: k_w, less a share of its harmonics, of its end turns, of slots left empty, and of
/// the threading that coils round a closed yoke need.
double merit_of(const WindingAlternative& a) {
    return a.winding_factor - 0.03 * std::min(3.0, a.harmonic_leakage) - 0.06 * a.end_length -
           0.05 * double(a.empty_slots) / a.input.slots - (a.input.form == WindingForm::Ring ? 0.1 : 0);
}

WindingAlternative judged(const WindingLayout& layout) {
    WindingAlternative a;
    const int p = layout.main_order(), slots = layout.input.slots;
    a.input = layout.input;
    a.winding_factor = std::abs(winding_factor(layout, p));
    a.harmonic_leakage = harmonic_leakage(layout);
    std::set<int> used;
    double span = 0;
    for (const Coil& coil : layout.coils) {
        used.insert(coil.go.slot);
        if (coil.back.slot != outside_core) used.insert(coil.back.slot);
        // Round the yoke a turn is about as long as across a pole.
        const double own = coil.back.slot == outside_core
                               ? double(slots) / layout.input.poles
                               : std::min(span_of(coil, slots), slots - span_of(coil, slots));
        span += own / double(layout.coils.size());
    }
    a.end_length = span * layout.input.poles / slots;
    a.empty_slots = slots - int(used.size());
    a.paths = possible_paths(layout);
    a.merit = merit_of(a);
    return a;
}

} // namespace

double harmonic_leakage(const WindingLayout& layout) {
    // All waves together by Parseval's theorem: the mean square of the staircase at two instants a quarter of a
    // period apart is the sum over the orders of forward^2 + backward^2.
    std::vector<double> now, later;
    for (double lag : layout.lags) {
        now.push_back(std::cos(lag));
        later.push_back(std::sin(lag));
    }
    double all = 0;
    for (const auto& currents : {now, later})
        for (double tooth : tooth_mmf(layout, currents)) all += tooth * tooth / layout.input.slots;
    const auto [forward, backward] = travelling_mmf(layout, layout.main_order());
    const double main = forward * forward + backward * backward;
    return main > 0 ? all / main - 1 : 0;
}

std::vector<WindingAlternative> winding_alternatives(const WindingInput& asked, int limit) {
    std::vector<WindingAlternative> list;
    const int full = full_pitch_span(asked.slots, asked.poles);
    const auto offer = [&](int layers, int span, WindingForm form) {
        WindingInput in = asked;
        in.layers = layers;
        in.span = span;
        in.form = form;
        in.layer_shift = 0;
        const auto layout = propose_winding(in);
        if (layout) list.push_back(judged(*layout));
    };
    for (int layers : {2, 1})
        for (int span = std::max(1, full - 3); span <= full + 1; ++span)
            if (span < asked.slots) offer(layers, span, WindingForm::Lap);
    offer(4, full, WindingForm::Lap);
    offer(1, 0, WindingForm::Concentric);
    offer(1, 0, WindingForm::Ring);
    std::stable_sort(list.begin(), list.end(),
                     [](const auto& a, const auto& b) { return a.merit > b.merit + 1e-9; });
    if (int(list.size()) > limit) list.resize(std::size_t(limit));
    return list;
}

} // namespace mavlo
