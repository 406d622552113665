// A cage: bars in slots round the rotor, joined by a ring at either end.

#include "machine/rotors/cage.h"

#include "machine/rotors/pocket.h"
#include "machine/slots/slot_cut.h"

#include <algorithm>

namespace mavlo {
namespace {

using namespace parameter;

double bridge_of(const Values& v) {
    return v.number("rotor.bar.bridge");
}

/// The rotor as its slots see it: with a bridge their gap lies deeper.
TileFrame behind_bridge(const TileFrame& frame, const Values& v) {
    TileFrame cut = frame;
    cut.gap_radius = frame.radius(bridge_of(v));
    return cut;
}

SlotValues slot_values(const Values& v) {
    const SlotValues own(v, bars_of_rotor());
    return own.has("depth") ? own.with("depth", own.number("depth") - bridge_of(v)) : own;
}

Result<SlotContour> contour(const TileFrame& frame, const Values& v) {
    const double bridge = bridge_of(v);
    if (const SlotValues own(v, bars_of_rotor()); own.has("depth") && own.number("depth") < bridge + 1e-4)
        return Problem{"rotor.bar.bridge",
                       "The bridge leaves the bars no height; make it thinner, or the bars deeper."};
    if (bridge > 0 && bridge < 2e-5)
        return Problem{"rotor.bar.bridge", "A bridge is at least 0.02 mm thick; 0 leaves the bars open."};
    auto found = contour_of(behind_bridge(frame, v), slot_values(v));
    // Cast bars fill the mouth too.
    if (found && v.word("rotor.bar.filling") == "cast") found->conductor_from = 0;
    return found;
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    const auto slot = contour(frame, v);
    if (!slot) return slot.problems();
    return slot_tile(frame, *slot, slot_values(v), bridge_of(v));
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    auto list = slot_marks(behind_bridge(frame, v), slot_values(v));
    for (DimensionMark& mark : list)
        if (mark.path == "rotor.bar.depth") mark.a = frame.at(0, 0);
    if (const double bridge = bridge_of(v); bridge > 0)
        list.push_back({"rotor.bar.bridge",
                        DimensionMark::Kind::Length,
                        frame.at(0, 0),
                        frame.at(bridge, 0),
                        frame.at(bridge, 0),
                        {frame.dir(), 0}});
    list.push_back(far_side_mark(frame));
    return list;
}

std::vector<std::string> bar_names() {
    return kind_names(Side::Bar);
}

Parameter bar_kind() {
    Parameter p = choice("rotor.bar.kind", {"parallel-tooth"}, "Bar shape", "How the bar's sides run.");
    p.more_words = bar_names;
    return p;
}

std::vector<Parameter> bar_list() {
    return joined(
        {in_group("Rotor", "Bars", 230,
                  {whole("rotor.bars", "28", "Bars", "N", "Bars of the cage in a turn.", 3, 1000), bar_kind()}),
         in_group("Rotor", "Bars", 262,
                  {length("rotor.bar.bridge", "0 mm", "Bridge", "s_b",
                          "Iron between a closed bar and the gap; 0: the bars are open.", 0, 50),
                   choice("rotor.bar.filling", {"cast", "inserted"}, "Bar fills",
                          "Cast: the whole slot, its mouth included; inserted: the slot behind its mouth."),
                   material("rotor.bar.material", "aluminium, die-cast", "Bar material",
                            "What the bars are of.", MaterialKind::Conductor),
                   quantity("rotor.bar.temperature", "degC", "100 degC", "Cage temperature", "ϑ_c",
                            "Working temperature of bars and rings.", -200, 1000)})});
}

std::vector<Parameter> ring_list() {
    return in_group(
        "Rotor", "End rings", 270,
        {length("rotor.ring.height", "= 0.3 * rotor_thickness", "Ring height", "h_r",
                "Radial height of the rings' section.", 0.1, 1000),
         length("rotor.ring.thickness", "= 0.2 * rotor_thickness", "Ring thickness", "t_r",
                "Of the rings' section, along the axis.", 0.1, 1000),
         or_auto(length("rotor.ring.inner_diameter", "auto", "Ring inner diameter", "d_r",
                        "Of the rings' hole; auto: the rings lie midway over the bars.", 0, 5000)),
         length("rotor.ring.distance", "0 mm", "Ring distance", "e_r",
                "Of a ring from the stack, over which the bars lie in air.", 0, 500),
         material("rotor.ring.material", "aluminium, die-cast", "Ring material", "What the rings are of.",
                  MaterialKind::Conductor),
         or_auto(quantity("rotor.ring.resistance", "Ohm", "auto", "Segment's resistance", "R_r",
                          "Of one ring's segment between two bars; auto: from its dimensions.", 0, 1)),
         or_auto(quantity("rotor.ring.inductance", "uH", "auto", "Segment's inductance", "L_r",
                          "Of one ring's segment between two bars; auto: from its dimensions, in air.", 0,
                          1000))});
}

const Register<TileKind> registered{[] {
    TileKind kind{Side::Rotor,
                  "cage",
                  "Bars in slots, which a ring joins at either end.",
                  joined({bar_list(), ring_list()}),
                  tile,
                  marks,
                  10};
    kind.pitches = "rotor.bars";
    kind.has_bars = true;
    return kind;
}()};

/// Where the bars' currents enter the rings, and how thick the bars are.
struct BarSection {
    double radius = 0, area = 0;
};
BarSection bar_section(const SlotContour& slot) {
    const auto& steps = slot.steps;
    return {(norm(steps[slot.conductor_from].to) + std::abs(steps.back().to.x)) / 2,
            slot_area({}, slot, 0).conductors};
}

Result<RingShape> ring_shape(const Values& v, const BarSection& bars) {
    RingShape ring;
    const double height = v.number("rotor.ring.height");
    ring.bars = v.whole("rotor.bars");
    ring.pole_pairs = v.whole("rotor.poles") / 2;
    ring.thickness = v.number("rotor.ring.thickness");
    ring.inner_radius = v.is_auto("rotor.ring.inner_diameter") ? bars.radius - height / 2
                                                               : v.number("rotor.ring.inner_diameter") / 2;
    ring.outer_radius = ring.inner_radius + height;
    ring.bars_radius = bars.radius;
    const double below = ring.inner_radius - bars.radius, above = bars.radius - ring.outer_radius;
    if (ring.inner_radius < 1e-4)
        return Problem{"rotor.ring.height", "The rings have no hole left; make them " +
                                                millimetres(2 * (1e-4 - ring.inner_radius)) + " lower."};
    if (below > -1e-6 || above > -1e-6)
        return Problem{"rotor.ring.inner_diameter", "The rings miss the bars' middle by " +
                                                        millimetres(std::max(below, above) + 1e-6) +
                                                        "; move or enlarge them."};
    return ring;
}

} // namespace

Result<EndRing> end_ring_of(const TileFrame& frame, const Values& v, double bar_resistivity,
                            double ring_resistivity) {
    const auto slot = contour(frame, v);
    if (!slot) return slot.problems();
    const BarSection bars = bar_section(*slot);
    EndRing out;
    out.bar_ends = 2 * v.number("rotor.ring.distance") * bar_resistivity / bars.area;
    out.resistance = v.number("rotor.ring.resistance");
    out.inductance = v.number("rotor.ring.inductance");
    const bool by_shape = v.is_auto("rotor.ring.resistance") || v.is_auto("rotor.ring.inductance");
    if (by_shape) {
        const auto ring = ring_shape(v, bars);
        if (!ring) return ring.problems();
        if (v.is_auto("rotor.ring.resistance"))
            out.resistance = ring_segment_resistance(*ring, ring_resistivity);
        if (v.is_auto("rotor.ring.inductance")) out.inductance = ring_segment_inductance(*ring);
    }
    // Rings without resistance are as good as that of a bar's ten-millionth.
    const double of_bar = bar_resistivity * v.number("machine.stack_length") / bars.area;
    out.resistance = std::max(out.resistance, 1e-7 * of_bar);
    return out;
}

} // namespace mavlo
