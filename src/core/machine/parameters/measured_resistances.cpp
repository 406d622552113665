// Thermal resistances of a built machine that take the place of computed ones.

#include "machine/parameter.h"
#include "machine/parameters/cooling_uses.h"

namespace mavlo {
namespace {

using namespace parameter;
using namespace cooling_uses;

Parameter resistance(const char* path, const char* label, const char* help) {
    return or_auto(quantity(path, "K/W", "auto", label, "", help, 1e-6, 1e6));
}

std::vector<Parameter> in_the_stator() {
    return {
        resistance(
            "thermal.housing_to_ambient", "Housing to ambient",
            "All that leaves the outside, or that of a stack without housing; auto: by surface and cooling."),
        resistance("thermal.stack_to_housing", "Stack to housing",
                   "Or to what carries the stator inside a turning rotor; auto: by the fit."),
        when(is_wound, resistance("thermal.winding_to_stack", "Winding to stack",
                                  "Across liner and contacts of all slots; auto: by thickness and material.")),
        when(is_wound, resistance("thermal.winding_to_ends", "Winding to its ends",
                                  "Along the copper out of the slots; auto: by its section.")),
        when(is_wound, resistance("thermal.ends_to_air", "End windings to inner air",
                                  "Auto: by their surface and the rotor's speed.")),
        when(has_filled_ends, resistance("thermal.ends_to_housing", "End windings to housing",
                                         "Through what fills the room round them; auto: by its conductivity.")),
        resistance("thermal.stator_to_air", "Stator's ends to inner air",
                   "Both faces of the stack; auto: by the rotor's speed.")};
}

std::vector<Parameter> in_the_rotor() {
    return {resistance("thermal.gap", "Across the gap", "From rotor to stator; auto: by the speed."),
            when(has_magnets, resistance("thermal.magnets_to_rotor", "Magnets to rotor", "Auto: by the glue.")),
            when(has_cage, resistance("thermal.cage_to_rotor", "Cage to rotor", "Auto: by the contact.")),
            resistance("thermal.rotor_to_air", "Rotor's ends to inner air",
                       "Both faces of the stack and its magnets; auto: by the speed."),
            when(has_cage, resistance("thermal.cage_to_air", "Cage's ends to inner air",
                                      "Rings and bar ends; auto: by the speed.")),
            when(turns_inside, resistance("thermal.rotor_to_shaft", "Rotor to shaft", "Auto: by the fit.")),
            when(turns_inside, resistance("thermal.shaft_to_bearings", "Shaft to bearings",
                                          "Along the shaft to both, with half of them; auto: by its section.")),
            when(turns_inside,
                 resistance("thermal.bearings_to_shields", "Bearings to end shields",
                            "Of both; to ambient where there are no shields; auto: by diameter and speed."))};
}

std::vector<Parameter> outside() {
    return {when(has_shields, resistance("thermal.housing_to_shields", "Housing to end shields",
                                         "Auto: by their walls and the fit.")),
            when(has_shields, resistance("thermal.air_to_housing", "Inner air to housing",
                                         "Auto: by the bare wall beside the stack and the speed.")),
            resistance("thermal.air_to_shields", "Inner air to end shields",
                       "Or to the plate that carries the stator; auto: by surface and speed."),
            when(has_shields,
                 resistance("thermal.shields_to_ambient", "End shields to ambient",
                            "Beside what is given from the housing; auto: by still air and radiation.")),
            when(has_flow,
                 resistance("thermal.housing_to_coolant", "Housing to coolant",
                            "From the wall to the coolant's mean temperature; auto: by the channel's flow."))};
}

std::vector<Parameter> all() {
    return in_group("Cooling", "Measured resistances", 895,
                    joined({in_the_stator(), in_the_rotor(), outside()}));
}

const Register<ParameterSet> resistances{{"measured_resistances", all(), 895, is_radial}};

} // namespace
} // namespace mavlo
