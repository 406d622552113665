// How machines cog whose slots are not quite alike: mouths and teeth that are off each by itself, and a bore
// that is not round.

#include "figure/skew.h"
#include "machine/displacement.h"
#include "machine/off_centre.h"
#include "quantity/constants.h"
#include "question/eccentric.h"
#include "question/question.h"
#include "question/spectrum_curve.h"
#include "question/spread.h"
#include "question/swings.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace mavlo::question_stator_scatter {
namespace {

constexpr double solved_share = 0.01; ///< of a mouth's width, or of the gap: displacements that are solved

/// Over a tile of the rotor, so many in each cogging period: a whole number of them in every slot's pitch.
int positions_of(const Machine& m, int points) {
    return m.slots > 0 ? points * std::lcm(m.slots, rotor_tiles(m)) / rotor_tiles(m) : points;
}

bool has_mouth(const Machine& m, const Inputs& inputs) {
    return inputs.at("opening") > 0 && mouth_width(m).has_value();
}

int solves(const Machine& m, const Inputs& inputs) {
    const int runs = 2 + has_mouth(m, inputs) + (inputs.at("place") > 0) + 2 * (inputs.at("oval") > 0);
    return runs * positions_of(m, int(inputs.at("points")));
}

/// Torque over a tile of the rotor, and what one metre of each fault does to it, N.m and N.
struct Influences {
    std::vector<double> alike, mouth, place, oval, oval_across; ///< of the first slot; empty: none
    int slots = 0, step = 0;                                    ///< positions in a slot's pitch
    std::size_t draws() const {
        return (mouth.empty() ? 0u : std::size_t(slots)) + (place.empty() ? 0u : std::size_t(slots)) +
               (oval.empty() ? 0u : 2u);
    }
};

/// Standard deviations, m.
struct Scatter {
    double mouth = 0, place = 0, oval = 0;
};

/// A slot further on sees the rotor as the first one did a pitch before.
void add_slots(std::vector<double>& torque, const std::vector<double>& first, double scale, const double* draws,
               const Influences& in) {
    const int n = int(torque.size());
    for (int slot = 0; slot < in.slots; ++slot)
        for (int i = 0; i < n; ++i) {
            const int from = ((i - slot * in.step) % n + n) % n;
            torque[std::size_t(i)] += scale * draws[slot] * first[std::size_t(from)];
        }
}

/// Straight in all that is off.
std::vector<double> waveform(const Influences& in, const Scatter& scatter, const std::vector<double>& draws) {
    std::vector<double> torque = in.alike;
    const double* next = draws.data();
    if (!in.mouth.empty()) {
        add_slots(torque, in.mouth, scatter.mouth, next, in);
        next += in.slots;
    }
    if (!in.place.empty()) {
        add_slots(torque, in.place, scatter.place, next, in);
        next += in.slots;
    }
    if (in.oval.empty()) return torque;
    for (std::size_t i = 0; i < torque.size(); ++i)
        torque[i] += scatter.oval * (next[0] * in.oval[i] + next[1] * in.oval_across[i]);
    return torque;
}

/// What a metre of a displacement does, from one that is `by` long.
Result<std::vector<double>> influence(EccentricMachine& machine, const Displacement& displacement, double by) {
    const auto off = machine.deformed(displacement);
    if (!off) return off.problems();
    std::vector<double> out;
    const std::vector<double>& alike = machine.centred().torque;
    for (std::size_t i = 0; i < off->torque.size(); ++i) out.push_back((off->torque[i] - alike[i]) / by);
    return out;
}

Result<Influences> find(QuestionContext& c) {
    const Machine& m = c.machine;
    const int count = positions_of(m, int(c.input("points"))), tiles = rotor_tiles(m);
    std::vector<Position> at;
    for (int i = 0; i < count; ++i)
        at.push_back({2 * pi / tiles * i / count, PortValues(std::size_t(m.winding.phases), 0.0)});
    Influences out;
    // On the machine's own mesh: the layer that lets the stator move is a rough one, good for differences.
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const auto alike = sweep(*model, at, c.threads, {{}, c.watch.stop});
    if (!alike) return alike.problems();
    for (const PositionResult& r : *alike) out.alike.push_back(r.torque);
    c.answer.effort.solves += count;
    auto machine = EccentricMachine::of(c, std::move(at), solves(m, c.inputs) / count - 2);
    if (!machine) return machine.problems();
    out.slots = m.slots;
    out.step = count * tiles / m.slots;
    const double mouth = solved_share * mouth_width(m).value_or(m.gap), radius = solved_share * m.gap;
    const auto add = [&](std::vector<double>& to, const Displacement& displacement,
                         double by) -> std::optional<Problem> {
        auto found = influence(*machine, displacement, by);
        if (!found) return found.problems().front();
        to = std::move(*found);
        return std::nullopt;
    };
    if (has_mouth(m, c.inputs))
        if (auto problem = add(out.mouth, wider_mouth(m, mouth), mouth)) return *problem;
    if (c.input("place") > 0)
        if (auto problem = add(out.place, moved_slot(m, mouth), mouth)) return *problem;
    if (c.input("oval") > 0) {
        if (auto problem = add(out.oval, oval_bore(m, radius, 0), radius)) return *problem;
        if (auto problem = add(out.oval_across, oval_bore(m, radius, pi / 4), radius)) return *problem;
    }
    for (auto* series : {&out.alike, &out.mouth, &out.place, &out.oval, &out.oval_across})
        if (!series->empty()) *series = skewed(*series, 2 * pi / tiles, m.skew);
    return out;
}

void add_curves(QuestionContext& c, const Influences& in, const std::vector<double>& scattered,
                const Swings& swings) {
    std::vector<double> degrees;
    const double tile = 360.0 / rotor_tiles(c.machine);
    for (std::size_t i = 0; i < in.alike.size(); ++i)
        degrees.push_back(tile * double(i) / double(in.alike.size()));
    const auto add = [&](const char* name, std::vector<double> torque) {
        c.answer.curves.push_back({name, "N.m", "rotor_angle", "deg", degrees, std::move(torque)});
    };
    const auto of_little = [](std::vector<double> influence) {
        for (double& t : influence) t *= 1e-5;
        return influence;
    };
    add("torque", in.alike);
    add("torque_scattered", scattered);
    c.answer.curves.push_back(swings.distribution());
    if (!in.mouth.empty()) add("influence_of_10_um_mouth", of_little(in.mouth));
    if (!in.place.empty()) add("influence_of_10_um_place", of_little(in.place));
    const double order = rotor_tiles(c.machine);
    for (const auto& [name, torque] : {std::pair{"torque", &in.alike}, {"torque_scattered", &scattered}})
        c.answer.curves.push_back(
            spectrum_curve(name, "N.m", *torque, {"mechanical_order", "1", order, 1, 40}));
}

Problems run(QuestionContext& c) {
    if (c.machine.slots == 0)
        return {{"stator.slot.kind", "A stator without slots has no mouths or teeth that could differ."}};
    const double opening = c.input("opening"), place = c.input("place"), oval = c.input("oval");
    if (opening <= 0 && place <= 0 && oval <= 0)
        return {{"--with opening", "Nothing is off: give opening, place or oval above zero."}};
    if (oval > 2 * c.machine.gap)
        return {{"--with oval", fmt::format("A bore that is {:.4g} mm out of round leaves no gap of {:.4g} mm.",
                                            oval * 1e3, c.machine.gap * 1e3)}};
    const auto found = find(c);
    if (!found) return found.problems();
    const Influences& in = *found;
    // The largest diameter less the smallest is four times the radius's wave.
    const Scatter scatter{opening / 3, place / 3, oval / 4 / 3};
    const auto draws = normal_draws(in.draws(), int(c.input("machines")), unsigned(c.input("seed")));
    const auto swings_of = [&](const Scatter& one) {
        return Swings(draws, [&](const std::vector<double>& row) { return waveform(in, one, row); });
    };
    const Swings swings = swings_of(scatter);
    const auto alone = [&](bool is, const Scatter& one) {
        return is ? std::optional(swings_of(one).at(Swings::high)) : std::nullopt;
    };
    const double worst = swings.at(Swings::high), alike = peak_to_peak(in.alike), limit = c.input("limit");
    c.answer.figures = {
        {"cogging_peak_to_peak", alike, "N.m"},
        {"cogging_scattered_median", swings.at(0.5), "N.m"},
        {"cogging_scattered_high", worst, "N.m"},
        {"cogging_by_opening", alone(!in.mouth.empty(), {scatter.mouth, 0, 0}), "N.m"},
        {"cogging_by_tooth_place", alone(!in.place.empty(), {0, scatter.place, 0}), "N.m"},
        {"cogging_by_oval_bore", alone(!in.oval.empty(), {0, 0, scatter.oval}), "N.m"},
        {"share_within_limits", limit > 0 ? std::optional(swings.within(limit)) : std::nullopt, "1"}};
    add_curves(c, in, waveform(in, scatter, draws[swings.row_at(Swings::high)]), swings);
    c.answer.sentence =
        fmt::format("Of machines whose {} slots differ, 19 in 20 cog by {:.3g} mN·m at most from "
                    "peak to peak; with all alike it is {:.3g} mN·m.",
                    c.machine.slots, worst * 1e3, alike * 1e3);
    if (opening > 0 && in.mouth.empty())
        c.answer.sentence += " No dimension says how wide these slots' mouths are: they are left alike.";
    c.answer.sentence += " Straight in what is off, without current.";
    return {};
}

const RegisterQuestion registered{
    {"stator-scatter",
     "Choosing",
     "Stators that differ",
     "Cogging of machines whose slot mouths and teeth are off each by itself, and whose bore is not round.",
     {{"opening", "Slot mouths", "mm", "0.1", "Each mouth's own width: three standard deviations.", 0, 100},
      {"place", "Place of the slots", "mm", "0.1",
       "Each slot's own place along the gap, between its teeth's middles: three standard deviations.", 0, 100},
      {"oval", "Bore out of round", "mm", "0.05",
       "Largest less smallest diameter, towards anywhere: three standard deviations.", 0, 100},
      {"limit", "Limit", "N.m", "0", "Cogging torque, peak to peak, that may be; 0: none.", 0, 1e9},
      {"points", "Positions", "", "8", "Rotor positions over one cogging period of slots alike.", 4, 200, true},
      {"machines", "Machines", "", "1000", "How many are drawn by lot.", 20, 100000, true},
      {"seed", "Seed", "", "1", "Another one draws others.", 0, 1e9, true}},
     solves,
     run,
     921,
     {need_round, need_magnets},
     true,
     true}};

} // namespace
} // namespace mavlo::question_stator_scatter
