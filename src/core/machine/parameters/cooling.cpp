// The housing, what cools it, and what stands between the parts' heat and it.

#include "machine/parameter.h"
#include "machine/parameters/cooling_uses.h"
#include "material/fluid.h"

namespace mavlo {
namespace {

using namespace parameter;
using namespace cooling_uses;

Parameter coolant_choice() {
    Parameter p = choice("cooling.coolant", {"water"}, "Coolant",
                         "Water, water with half its volume of glycol, or a mineral oil of low viscosity.");
    p.more_words = [] { return coolant_names(); };
    return p;
}

std::vector<Parameter> housing() {
    return in_group(
        "Cooling", "Housing", 800,
        {when(turns_inside,
              choice(
                  "housing.kind", {"round", "ribbed", "jacket", "none"}, "Housing",
                  "A smooth tube round the stack, one with ribs along it, one with channels for a coolant, or "
                  "none.")),
         when(has_plates, material("housing.material", "aluminium, die-cast", "Housing material",
                                   "What housing and end shields are of, or what carries the stator.",
                                   MaterialKind::Conductor)),
         when(has_shields, length("housing.thickness", "= 0.02 * stator.outer_diameter + 3 mm", "Wall", "t_h",
                                  "Thickness of the housing's wall.", 0.2, 500)),
         when(has_shields,
              or_auto(length(
                  "housing.length", "auto", "Housing length", "l_h",
                  "Between the end shields' outsides; auto: the stack with its end windings and some air.", 1,
                  10000))),
         when(has_plates,
              length("housing.shield_thickness", "= 0.02 * stator.outer_diameter + 3 mm", "End shields", "t_s",
                     "Thickness of the end shields, or of the plate that carries the stator.", 0.2, 500)),
         when(has_ribs, whole("housing.ribs", "40", "Ribs", "", "Ribs round the housing.", 1, 1000)),
         when(has_ribs, length("housing.rib_height", "= 0.12 * stator.outer_diameter", "Rib height", "h_r",
                               "Of the ribs over the wall.", 0.5, 1000)),
         when(has_ribs,
              length("housing.rib_thickness", "3 mm", "Rib thickness", "t_r", "Of one rib.", 0.2, 100)),
         when(has_jacket, choice("housing.channel", {"spiral", "axial"}, "Channels",
                                 "One channel that winds round the stack, or parallel ones along it.")),
         when(has_jacket, whole("housing.channels", "8", "Number of channels", "",
                                "Turns of the spiral, or channels round the stack.", 1, 500)),
         when(has_jacket,
              length("housing.channel_width", "10 mm", "Channel width", "b_c", "Of one channel.", 0.2, 1000)),
         when(has_jacket, length("housing.channel_height", "5 mm", "Channel height", "h_c",
                                 "Radial, of one channel.", 0.2, 500)),
         number("housing.emissivity", "0.9", "Emissivity", "ε",
                "Of the outside: painted 0.9, bare metal 0.1 to 0.3.", 0, 1)});
}

std::vector<Parameter> shaft_and_bearings() {
    return in_group(
        "Cooling", "Shaft and bearings", 850,
        {when(turns_inside, material("shaft.material", "mild steel", "Shaft",
                                     "What carries the rotor's heat along.", MaterialKind::Steel)),
         when(turns_inside,
              length("shaft.free_length", "0 mm", "Free shaft end", "l_f",
                     "Of the end that turns in the open and cools as a pin does; 0: not counted.", 0, 5000)),
         when(turns_inside,
              or_auto(length("bearing.mean_diameter", "auto", "Bearings, mean diameter", "d_m",
                             "Between the rings' middles; auto: 1.4 times the shaft's.", 1, 5000))),
         when(turns_inside, or_auto(length("bearing.width", "auto", "Bearings, width", "B",
                                           "Of each; auto: half the shaft's diameter.", 0.5, 1000)))});
}

std::vector<Parameter> cooling() {
    return in_group(
        "Cooling", "Cooling", 830,
        {quantity("cooling.ambient", "degC", "40 degC", "Ambient", "ϑ_a",
                  "Temperature of the surroundings; 40 °C is IEC 60034-1's.", -100, 400),
         quantity("cooling.altitude", "m", "0 m", "Altitude", "", "Over the sea: thin air cools less.", 0, 9e3),
         choice("cooling.kind", {"still-air", "fan", "flow", "given"}, "Cooled by",
                "Still air and radiation, blown air, a coolant in the housing's channels, or a given "
                "coefficient."),
         when(is_given,
              quantity("cooling.coefficient", "W/(m2.K)", "50 W/(m2.K)", "Coefficient", "α",
                       "From the outside of housing or stack to ambient, radiation included.", 0, 1e6)),
         when(has_fan, choice("cooling.fan", {"own", "forced"}, "Fan",
                              "On the shaft, so that the air is as fast as it, or with a drive of its own.")),
         when(has_fan, quantity("cooling.air_speed", "m/s", "8 m/s", "Air speed", "v",
                                "Along the housing; of an own fan at the rated speed.", 0, 200)),
         when(has_flow, coolant_choice()),
         when(has_flow, quantity("cooling.flow", "L/min", "5 L/min", "Flow", "",
                                 "Of the coolant through all channels.", 0, 1e5)),
         when(has_flow, quantity("cooling.inlet", "degC", "40 degC", "Inlet", "ϑ_in",
                                 "Temperature of the coolant as it enters.", -100, 400))});
}

/// Air between surfaces that touch.
Parameter contact(const char* path, const char* standard, const char* label, const char* help) {
    return quantity(path, "um", standard, label, "", help, 0, 1e4);
}

std::vector<Parameter> contacts() {
    return in_group(
        "Cooling", "Contacts", 860,
        {contact("thermal.stack_contact", "20 um", "Stack in housing",
                 "Air that the fit leaves on average between stack and housing."),
         when(turns_inside, contact("thermal.shaft_contact", "10 um", "Rotor on shaft",
                                    "Air that the fit leaves on average between rotor stack and shaft.")),
         when(has_magnets,
              contact("thermal.magnet_contact", "20 um", "Magnets on steel",
                      "Of glue, as if it were air: 100 µm of glue insulate like some 15 µm of air.")),
         when(has_cage, contact("thermal.bar_contact", "2 um", "Bars in slots",
                                "Air that casting or driving in leaves on average between bars and steel.")),
         when(is_wound, contact("thermal.liner_contact", "10 um", "Liner on steel",
                                "Air on the liner's two faces together; none where resin fills it.")),
         or_auto(quantity("thermal.wall_resistance", "K/W", "auto", "To a wall", "R_w",
                          "Of a flange or foot to a wall at ambient; auto: none.", 1e-6, 1e6))});
}

std::vector<Parameter> insulation() {
    return in_group(
        "Cooling", "Insulation", 880,
        {when(is_wound,
              choice("thermal.insulation_class", {"155", "105", "120", "130", "180", "200", "220"},
                     "Thermal class", "Highest temperature of the winding's insulation in °C (IEC 60085).")),
         when(is_wound, material("thermal.liner", "aramid paper", "Liner", "What the slot's liner is of.",
                                 MaterialKind::Insulator)),
         when(is_wound, material("thermal.resin", "impregnating resin", "Impregnation",
                                 "What stands between the wires.", MaterialKind::Insulator)),
         when(is_wound, number("thermal.impregnated", "0.8", "Filled with resin", "",
                               "Share of the room between the wires that resin fills; the rest is air.", 0, 1)),
         when(is_wound, material("thermal.enamel", "wire enamel", "Enamel", "What coats the wires.",
                                 MaterialKind::Insulator)),
         when(is_wound, filling("thermal.end_filling", "End windings in",
                                "What fills the room between end windings and housing."))});
}

const Register<ParameterSet> registered{
    {"cooling", joined({housing(), cooling(), shaft_and_bearings(), contacts(), insulation()}), 800,
     is_radial}};

} // namespace
} // namespace mavlo
