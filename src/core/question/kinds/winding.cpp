// The winding by itself: factors, resistance, fill and MMF. No field is solved.

#include "quantity/constants.h"
#include "question/question.h"
#include "question/winding_curves.h"
#include "winding/alternatives.h"
#include "winding/balance.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace mavlo::question_winding {
namespace {

int solves(const Machine&, const Inputs&) {
    return 0;
}

/// R_ac/R_dc up to the frequency where strands are two skin depths thick, or ten times the rated one.
void add_ac_factor(const Machine& m, const Conductor& conductor, Answer& answer) {
    const AcResistance alternating(m);
    const double rated = electrical_frequency(m, m.rating.speed),
                 thick = std::max(conductor.size.diameter, conductor.size.height),
                 highest = std::max(10 * rated, 4 * m.winding.resistivity() / (pi * mu0 * thick * thick));
    answer.figures.push_back({"ac_factor", alternating.factor(rated), "1"});
    answer.figures.push_back({"sharing_factor", alternating.sharing_factor(rated), "1"});
    const auto [whole, slot] = ac_factor_curves(alternating, highest);
    answer.curves.push_back(whole);
    answer.curves.push_back(slot);
}

Problems run(QuestionContext& c) {
    const Machine& m = c.machine;
    const Conductor conductor = machine_conductor(m);
    const MachineWinding& w = m.winding;
    const int p = m.winding.layout.main_order();
    const double factor = std::abs(winding_factor(w.layout, p));
    const WindingBalance balance = judge_balance(w.layout);
    const SlotFilling filling = fill_slot(m, fullest_slot(m), Packing::Measured);
    const auto line = conductor.line_resistance(w.connection);
    double series = 0;
    for (double turns : balance.turns) series += turns / (w.phases * w.paths);
    c.answer.figures = {
        {"winding_factor", factor, "1"},
        {"phase_resistance", conductor.resistance, "Ohm"},
        {"line_resistance", line, "Ohm"},
        {"slot_fill", conductor.size.fill, "1"},
        {"insulated_fill", conductor.size.insulated_fill, "1"},
        {"conductors_wanted", double(std::accumulate(filling.wanted.begin(), filling.wanted.end(), 0)), "1"},
        {"conductors_fit", double(std::accumulate(filling.fit.begin(), filling.fit.end(), 0)), "1"},
        {"coils_per_phase", double(w.layout.coils_per_phase()), "1"},
        {"turns_in_series", series, "1"},
        {"turn_length", conductor.turn_length, "m"},
        {"strand_diameter", conductor.size.is_round() ? std::optional(conductor.size.diameter) : std::nullopt,
         "m"},
        {"copper_mass", conductor.copper_volume * w.conductor_material.density, "kg"},
        {"end_winding_inductance", conductor.end_inductance, "H"},
        {"harmonic_leakage", harmonic_leakage(w.layout), "1"},
        {"unbalance", balance.unbalance < 1e-12 ? 0 : balance.unbalance, "1"}};
    Curve electrical{"winding_factor", "1", "electrical_order", "1", {}, {}};
    for (int k = 1; k <= 49; k += 2) {
        electrical.x.push_back(k);
        electrical.y.push_back(std::abs(winding_factor(w.layout, k * p)));
    }
    // MMF of all phases at the instant of phase U's peak current, rated current.
    std::vector<double> currents;
    for (double lag : w.layout.lags) currents.push_back(m.rating.current / w.paths * std::cos(lag));
    const auto [forward, backward] = mmf_spectrum(m, 50);
    c.answer.curves = {electrical, winding_factor_curve(w.layout, std::max(50, 3 * p)),
                       mmf_curve(w.layout, currents, 1440), forward, backward};
    add_ac_factor(m, conductor, c.answer);
    c.answer.sentence = fmt::format("{} coils a phase with winding factor {:.4f}; {:.4g} Ω a phase at {:.4g} "
                                    "°C, {:.1f} % of the slot is copper.",
                                    w.layout.coils_per_phase(), factor, conductor.resistance,
                                    w.temperature - 273.15, 100 * conductor.size.fill);
    if (!filling.fits()) c.answer.sentence += " The conductors do not fit into the slot.";
    for (const std::string& sentence : balance.sentences) c.answer.sentence += " " + sentence;
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
} // namespace mavlo::question_winding
