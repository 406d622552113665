// The winding and its conductor.

#include "machine/design.h"
#include "machine/parameter.h"
#include "quantity/quantity.h"

namespace mavlo {
namespace {

using namespace parameter;

bool has_winding(const Design& design) {
    return design.text("stator.slot.kind") != "none";
}
bool fill_is_given(const Design& design) {
    return has_winding(design) && trim(design.text("winding.conductor.diameter")) == "auto";
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
                        "Number of phases; 6 are two three-phase sets 30 degrees apart.", 2, 9),
                  whole("winding.layers", "2", "Layers", "", "Coil sides in a slot: one or two.", 1, 2),
                  or_auto(whole("winding.span", "auto", "Coil span", "y",
                                "Slots between the two sides of a coil; auto: nearest to a pole pitch.", 1,
                                200)),
                  whole("winding.turns", "20", "Turns a coil", "N", "Turns of one coil.", 1, 10000),
                  whole("winding.paths", "1", "Parallel paths", "a", "Parallel paths of each phase.", 1, 100),
                  choice("winding.connection", {"star", "delta"}, "Connection", "Star or delta."),
              }),
          in_group(
              "Winding", "Conductor", 650,
              {
                  material("winding.conductor.material", "copper", "Conductor", "Material of the wire.",
                           MaterialKind::Conductor),
                  or_auto(length("winding.conductor.diameter", "auto", "Strand diameter", "d_w",
                                 "Bare diameter of one strand; auto: as thick as the fill factor allows.", 0.01,
                                 20)),
                  whole("winding.conductor.strands", "1", "Strands in hand", "",
                        "Strands wound together as one conductor.", 1, 1000),
                  when(fill_is_given,
                       number("winding.fill_factor", "0.4", "Fill factor", "k_Cu",
                              "Copper area over the slot's area for conductors, used where the strand diameter "
                              "is auto.",
                              0.01, 0.9)),
                  quantity("winding.temperature", "degC", "20 degC", "Winding temperature", "ϑ_w",
                           "Working temperature of the winding.", -200, 400),
                  length("winding.overhang", "5 mm", "Overhang", "",
                         "Straight length of the coil beyond the stack at each end.", 0, 500),
              })})),
     600}};

} // namespace
} // namespace mavlo
