// The winding by itself: factors, resistance, fill and MMF. No field is solved.

#include "question/question.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;

int solves(const Machine&, const Inputs&) {
    return 0;
}

Problems run(QuestionContext& c) {
    const Machine& m = c.machine;
    const Conductor conductor = machine_conductor(m);
    const MachineWinding& w = m.winding;
    const int p = m.pole_pairs();
    const double factor = std::abs(winding_factor(w.layout, p));
    c.answer.figures = {{"winding_factor", factor, "1"},
                        {"phase_resistance", conductor.resistance, "Ohm"},
                        {"slot_fill", conductor.fill, "1"},
                        {"coils_per_phase", double(w.layout.coils_per_phase()), "1"},
                        {"turn_length", conductor.turn_length, "m"},
                        {"strand_diameter", conductor.strand_diameter, "m"}};
    Curve electrical{"winding_factor", "1", "electrical_order", "1", {}, {}},
        mechanical{"winding_factor", "1", "mechanical_order", "1", {}, {}};
    for (int k = 1; k <= 49; k += 2) {
        electrical.x.push_back(k);
        electrical.y.push_back(std::abs(winding_factor(w.layout, k * p)));
    }
    for (int n = 1; n <= std::max(50, 3 * p); ++n) {
        mechanical.x.push_back(n);
        mechanical.y.push_back(std::abs(winding_factor(w.layout, n)));
    }
    // MMF of all phases at the instant of phase U's peak current, rated current.
    Curve wave{"mmf", "A", "gap_angle", "deg", {}, {}};
    std::vector<double> currents;
    for (double lag : phase_lags(w.phases)) currents.push_back(m.rating.current * std::cos(lag));
    for (int i = 0; i < 1440; ++i) {
        const double theta = 2 * pi * (i + 0.5) / 1440;
        wave.x.push_back(theta * 180 / pi);
        wave.y.push_back(mmf(w.layout, currents, w.turns / w.paths, theta));
    }
    c.answer.curves = {electrical, mechanical, wave};
    c.answer.sentence = fmt::format("{} coils a phase with winding factor {:.4f}; {:.4g} Ω a phase at {:.4g} "
                                    "°C, {:.1f} % of the slot is copper.",
                                    w.layout.coils_per_phase(), factor, conductor.resistance,
                                    w.temperature - 273.15, 100 * conductor.fill);
    return {};
}

const RegisterQuestion registered{{"winding",
                                   "No current",
                                   "Winding",
                                   "Winding factors, MMF, resistance and slot fill.",
                                   {},
                                   solves,
                                   run,
                                   5}};

} // namespace
} // namespace mavlo
