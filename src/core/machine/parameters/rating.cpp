// What the machine is to do, and the limits of its supply.

#include "machine/axial.h"
#include "machine/design.h"
#include "machine/parameter.h"

namespace mavlo {
namespace {

using namespace parameter;

bool is_switched(const Design& design) {
    return design.text("stator.slot.kind") != "none" && design.text("winding.form") == "pole";
}

bool turns(const Design& design) {
    return !is_linear(design);
}

const Register<ParameterSet> rating{
    {"rating",
     joined({in_group(
                 "Rating", "At rated load", 700,
                 {
                     when(turns, quantity("rating.speed", "rpm", "1500 rpm", "Rated speed", "n",
                                          "Rated speed of the shaft.", 0, 500000)),
                     when(is_linear, quantity("rating.speed", "m/s", "1 m/s", "Rated speed", "v",
                                              "Rated speed of what moves.", 0, 1000)),
                     quantity("rating.current", "A", "10 A", "Rated current", "Î",
                              "Rated phase current, peak value.", 0, 100000),
                     quantity("rating.advance", "deg", "0 deg", "Advance angle", "γ",
                              "Electrical angle of the current from +q towards -d.", -180, 180),
                     when(is_switched,
                          quantity("rating.turn_on", "deg", "= -0.4 * pole_angle", "Turn-on angle", "θ_on",
                                   "Rotor angle before a phase's aligned position (negative) where it is "
                                   "switched on.",
                                   -360, 360)),
                     when(is_switched,
                          quantity("rating.turn_off", "deg", "= -0.1 * pole_angle", "Turn-off angle", "θ_off",
                                   "Rotor angle of a phase's aligned position where it is switched off.", -360,
                                   360)),
                     when(turns, or_auto(quantity("rating.torque", "N.m", "auto", "Rated torque", "M",
                                                  "Wanted mean torque; auto: what the rated current gives.",
                                                  1e-9, 1e7))),
                     when(is_linear, or_auto(quantity("rating.torque", "N", "auto", "Rated thrust", "F",
                                                      "Wanted mean thrust; auto: what the rated current gives.",
                                                      1e-9, 1e8))),
                     when(turns, quantity("machine.friction_torque", "N.m", "0 N.m", "Bearing friction", "M_f",
                                          "Torque of bearings and seals, the same at every speed.", 0, 10000)),
                     when(is_linear, quantity("machine.friction_torque", "N", "0 N", "Friction", "F_f",
                                              "Of guides and seals, the same at every speed.", 0, 1e6)),
                 }),
             in_group("Rating", "Limits", 750,
                      {
                          quantity("rating.dc_voltage", "V", "48 V", "DC voltage", "U_dc",
                                   "Voltage of the inverter's DC link.", 0, 100000),
                          quantity("rating.max_current", "A", "20 A", "Largest current", "Î_max",
                                   "Largest phase current, peak value.", 0, 100000),
                          when(turns, quantity("rating.max_speed", "rpm", "3000 rpm", "Largest speed", "n_max",
                                               "Largest speed of the shaft.", 0, 500000)),
                          when(is_linear, quantity("rating.max_speed", "m/s", "2 m/s", "Largest speed", "v_max",
                                                   "Largest speed of what moves.", 0, 1000)),
                      })}),
     700}};

} // namespace
} // namespace mavlo
