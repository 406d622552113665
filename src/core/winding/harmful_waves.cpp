#include "winding/harmful_waves.h"

#include <algorithm>
#include <fmt/format.h>

namespace mavlo {
namespace {

std::string causes_of(int n, bool forward, const WindingLayout& layout) {
    const int p = layout.main_order(), slots = layout.input.slots, m = layout.input.phases;
    std::string text;
    const auto add = [&](const std::string& what) { text += (text.empty() ? "" : "; ") + what; };
    if (n < p)
        add("a sub-harmonic that reaches deep into the rotor: loss in magnets and yoke");
    else
        add(forward ? "passes the rotor at another pace: loss in magnets and solid parts"
                    : "turns against the rotor: loss in magnets and solid parts");
    if (n % p == 0 && m % 3 == 0 && n / p > 1) {
        const int ripple = forward ? n / p - 1 : n / p + 1;
        add(fmt::format("with magnets of the same order, torque ripple of {} times the electrical frequency",
                        ripple));
    }
    if ((n - p) % slots == 0 || (n + p) % slots == 0) add("a slot harmonic, that no span weakens");
    // The main wave goes forward: their product has the difference of the orders, or their sum.
    const int force = std::abs(forward ? n - p : n + p);
    const int other = std::abs(forward ? n + p : n - p);
    if (const int low = std::min(force, other); low > 0 && low <= 4)
        add(fmt::format(
            "with the main wave, a radial force of {} period{} round the bore, which bends the stator", low,
            low == 1 ? "" : "s"));
    return text;
}

} // namespace

std::vector<HarmfulWave> harmful_waves(const WindingLayout& layout, double least) {
    const int p = layout.main_order();
    const auto main = travelling_mmf(layout, p);
    const double size = std::max(main.forward, main.backward);
    std::vector<HarmfulWave> list;
    if (size <= 0) return list;
    for (int n = 1; n <= std::max(50, 3 * p); ++n) {
        const auto [forward, backward] = travelling_mmf(layout, n);
        for (bool with : {true, false}) {
            const double share = (with ? forward : backward) / size;
            if (share < least || (n == p && with == (main.forward >= main.backward))) continue;
            list.push_back({n, with, share, causes_of(n, with, layout)});
        }
    }
    std::stable_sort(list.begin(), list.end(),
                     [](const HarmfulWave& a, const HarmfulWave& b) { return a.share > b.share + 1e-12; });
    return list;
}

} // namespace mavlo
