// The frames that stator and rotor are drawn in, round an axis or on a flat chart.

#include "machine/axial.h"
#include "machine/machine.h"
#include "machine/tile_kind.h"

namespace mavlo {
namespace {

bool rotor_is_outside(const Values& v) {
    return v.word("machine.topology") == "outer-rotor";
}

/// Heights of a flat section count so that the gap's middle has that of its radius.
TileFrame flat_frame(const Values& v, double dir, double thickness, int pitches) {
    TileFrame frame;
    frame.chart = {section_radius(v), is_linear(v)};
    frame.gap = v.number("gap");
    frame.gap_radius = section_radius(v) + dir * frame.gap / 2;
    frame.far_radius = frame.gap_radius + dir * thickness;
    frame.pitches = pitches;
    return frame;
}

/// From the gap's face to the back, or to the middle plane that cuts it.
double flat_stator_thickness(const Values& v) {
    const AxialForm form = axial_form(v);
    if (form.coreless) return v.number("winding.side_thickness") / 2;
    const double core = v.number("stator.thickness") / (form.stator_between ? 2 : 1);
    if (!v.has("winding.side_thickness")) return core;
    return core + v.number("winding.side_thickness") + v.number("winding.side_distance");
}

double flat_rotor_thickness(const Values& v) {
    const AxialForm form = axial_form(v);
    const double magnets = v.number("rotor.magnet.thickness");
    if (form.magnets_alone) return magnets / 2;
    return magnets + v.number("rotor.back_iron") / (form.rotor_between ? 2 : 1);
}

} // namespace

TileFrame stator_frame(const Values& v, SlotSharing sharing, int layers) {
    // A smooth stator has no pitch of its own: it is cut so finely that its mesh adds no order that matters.
    const int pitches =
        v.word("stator.slot.kind") == "none" ? 8 * v.whole("rotor.poles") : v.whole("stator.slots");
    if (is_flat(v)) {
        TileFrame frame = flat_frame(v, 1, flat_stator_thickness(v), pitches);
        frame.sharing = sharing;
        frame.layers = layers;
        return frame;
    }
    const double outer = v.number("stator.outer_diameter") / 2, bore = v.number("stator.bore_diameter") / 2;
    return rotor_is_outside(v) ? TileFrame{{}, outer, bore, pitches, v.number("gap"), sharing, layers}
                               : TileFrame{{}, bore, outer, pitches, v.number("gap"), sharing, layers};
}

TileFrame rotor_frame(const Values& v) {
    const double gap = v.number("gap");
    const TileKind* kind = find_kind(Side::Rotor, v.word("rotor.kind"));
    const int pitches = v.whole(kind->pitches ? kind->pitches : "rotor.poles");
    if (is_flat(v)) {
        TileFrame frame = flat_frame(v, -1, flat_rotor_thickness(v), pitches);
        frame.pole_pairs = v.whole("rotor.poles") / 2;
        return frame;
    }
    TileFrame frame;
    frame.gap = gap;
    frame.pitches = pitches;
    frame.pole_pairs = v.whole("rotor.poles") / 2;
    frame.gap_radius = rotor_is_outside(v) ? v.number("stator.outer_diameter") / 2 + gap
                                           : v.number("stator.bore_diameter") / 2 - gap;
    frame.far_radius = v.number(rotor_is_outside(v) ? "rotor.outer_diameter" : "rotor.shaft_diameter") / 2;
    return frame;
}

} // namespace mavlo
