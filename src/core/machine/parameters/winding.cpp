// The winding and its conductor.

#include "machine/axial.h"
#include "machine/parameter.h"
#include "quantity/quantity.h"
#include "winding/layout.h"

#include <algorithm>
#include <cstdlib>

namespace mavlo {
namespace {

using namespace parameter;

bool has_winding(const Design& design) {
    return design.text("stator.slot.kind") != "none";
}
bool is_axial_wound(const Design& design) {
    return has_winding(design) && is_axial(design);
}
bool shape_is(const Design& design, std::initializer_list<const char*> shapes) {
    const std::string shape = design.text("winding.conductor.shape");
    return has_winding(design) &&
           std::any_of(shapes.begin(), shapes.end(), [&](const char* s) { return shape == s; });
}
bool is_round(const Design& design) {
    return shape_is(design, {"round", "litz"});
}
bool is_flat_wire(const Design& design) {
    return shape_is(design, {"rectangular", "foil"});
}
bool fill_is_given(const Design& design) {
    const auto is_auto = [&](const char* path) { return trim(design.text(path)) == "auto"; };
    return (is_round(design) && is_auto("winding.conductor.diameter")) ||
           (is_flat_wire(design) &&
            (is_auto("winding.conductor.width") || is_auto("winding.conductor.height")));
}
bool has_sets(const Design& design) {
    const std::string phases(trim(design.text("winding.phases")));
    return has_winding(design) && (phases == "6" || phases == "9");
}
bool has_pole_coils(const Design& design) {
    return has_winding(design) && design.text("winding.form") == "pole";
}
bool has_many_layers(const Design& design) {
    return has_winding(design) && std::atoi(design.text("winding.layers").c_str()) >= 4;
}

std::vector<Parameter> when_wound(std::vector<Parameter> list) {
    for (Parameter& p : list)
        if (!p.used) p.used = has_winding;
    return list;
}

const Register<ParameterSet> winding{
    {"winding",
     when_wound(joined(
         {in_group(
              "Winding", "Layout", 600,
              {
                  whole("winding.phases", "3", "Phases", "m",
                        "Number of phases; 6 and 9 may be three-phase sets.", 1, 9),
                  when(has_sets,
                       or_auto(quantity("winding.set_shift", "deg", "auto", "Shift of the sets", "",
                                        "Electrical angle between three-phase sets; auto: 30 degrees of "
                                        "six phases, nine phases evenly.",
                                        0, 120))),
                  choice(
                      "winding.form", winding_forms(), "Form",
                      "Lap: coils of one span; concentric: one within the other in one layer; ring: round the "
                      "yoke; pole: one round every stator pole, the phases switched by position."),
                  when(has_pole_coils,
                       choice("winding.polarity", {"alternate", "alike"}, "Polarity",
                              "Senses of neighbouring phases' first coils: opposite in turn, or all alike.")),
                  whole("winding.layers", "2", "Layers", "", "Coil sides in a slot: 1, 2, 4, 6 or 8.", 1, 8),
                  choice("winding.sharing", {"auto", "side-by-side", "stacked"}, "Two sides in a slot",
                         "How two layers share a slot; auto: side by side round teeth, else stacked."),
                  when(has_many_layers, whole("winding.layer_shift", "0", "Shift of pairs", "",
                                              "Slots by which each further pair of layers is turned.", 0, 100)),
                  or_auto(whole("winding.span", "auto", "Coil span", "y",
                                "Slots between the two sides of a coil; auto: nearest to a pole pitch.", 1,
                                200)),
                  when(is_axial_wound,
                       or_auto(length("winding.coil_inner_diameter", "auto", "Coil sides from", "",
                                      "Diameter at which an axial machine's coil sides begin; auto: "
                                      "at the active ring's.",
                                      0.5, 5000))),
                  when(is_axial_wound,
                       or_auto(length("winding.coil_outer_diameter", "auto", "Coil sides to", "",
                                      "Diameter at which they end; auto: at the active ring's.", 0.5, 5000))),
                  whole("winding.turns", "20", "Turns a coil", "N", "Turns of one coil.", 1, 10000),
                  whole("winding.paths", "1", "Parallel paths", "a", "Parallel paths of each phase.", 1, 100),
                  choice("winding.connection", {"star", "delta", "open"}, "Connection",
                         "Star, delta, or every phase by itself."),
              }),
          in_group(
              "Winding", "Conductor", 650,
              {
                  material("winding.conductor.material", "copper", "Conductor", "Material of the wire.",
                           MaterialKind::Conductor),
                  choice("winding.conductor.shape", {"round", "rectangular", "litz", "foil"}, "Shape",
                         "Round wire, flat wire or hairpins, bundles of fine strands, or foil."),
                  when(is_round,
                       or_auto(length("winding.conductor.diameter", "auto", "Strand diameter", "d_w",
                                      "Bare diameter of one strand; auto: as thick as the fill factor allows.",
                                      0.01, 20))),
                  when(is_flat_wire,
                       or_auto(length("winding.conductor.width", "auto", "Width", "w_w",
                                      "Bare, across the slot; auto: what the fill factor leaves.", 0.01, 100))),
                  when(is_flat_wire,
                       or_auto(length("winding.conductor.height", "auto", "Height", "h_w",
                                      "Bare, along the slot's depth; auto: what the fill factor leaves, of "
                                      "foil the coil's height.",
                                      0.01, 200))),
                  whole("winding.conductor.strands", "1", "Strands in hand", "",
                        "Strands wound together as one conductor.", 1, 1000),
                  whole("winding.conductor.grade", "1", "Enamel grade", "",
                        "Grade of the enamel, 1 to 3 (IEC 60317); 0: bare.", 0, 3),
                  when(fill_is_given,
                       number("winding.fill_factor", "0.4", "Fill factor", "k_Cu",
                              "Copper area over the slot's area for conductors, used where a size of the "
                              "conductor is auto.",
                              0.01, 0.9)),
                  quantity("winding.temperature", "degC", "20 degC", "Winding temperature", "ϑ_w",
                           "Working temperature of the winding.", -200, 400),
                  length("winding.overhang", "5 mm", "Overhang", "",
                         "Straight length of the coil beyond the stack at each end.", 0, 500),
                  or_auto(length("winding.end_length", "auto", "End turn", "l_e",
                                 "Length of one end of a turn, slot to slot; auto: from span and overhang.",
                                 0.1, 5000)),
                  length("winding.separator", "0 mm", "Separator", "",
                         "Thickness of what parts coil sides in a slot.", 0, 20),
              })})),
     600}};

} // namespace
} // namespace mavlo
