// What a slot is dimensioned by.

#include "machine/slots/slot_form.h"
#include "quantity/quantity.h"

#include <set>

namespace mavlo {

namespace {
bool notched(const Design& design) {
    return trim(design.text("stator.slot.notches")) != "0";
}

bool wedged(const Design& design) {
    const auto thickness = parse_quantity(design.text("stator.slot.wedge"));
    return !thickness || thickness->si > 0; // a formula may give one
}
} // namespace

std::vector<Parameter> slot_parameters(bool angles, const char* tip_angle, std::vector<Parameter> own,
                                       const char* corner_radius) {
    using namespace parameter;
    Parameter mouth = angles ? quantity("stator.slot.opening_angle", "deg", "= 0.2 * slot_angle", "Mouth angle",
                                        "β₀", "Angle between the radial sides of the mouth.", 0.01, 180)
                             : length("stator.slot.opening", "= 0.177 * slot_pitch", "Mouth", "b₀",
                                      "Width of the slot mouth at the gap.", 0.05, 500);
    return joined(
        {in_group("Stator", "Slots", 101, {std::move(mouth)}), in_group("Stator", "Slots", 103, std::move(own)),
         in_group("Stator", "Slots", 110,
                  {length("stator.slot.depth", "= 0.65 * stator_thickness", "Depth, whole", "h",
                          "From the gap to the bottom of the slot: tip, wedge and body together.", 0.1, 1000),
                   length("stator.slot.tip_depth", "= 0.07 * slot_pitch", "Tip depth", "h₀",
                          "Radial thickness of the tooth tip beside the mouth; 0: none.", 0, 500),
                   quantity("stator.slot.tip_angle", "deg", tip_angle, "Tip angle", "α",
                            "Rise of the tooth tip's back against the tangent.", 0, 75),
                   or_auto(quantity(
                       "stator.slot.second_tip_angle", "deg", "auto", "Second tip angle", "α₂",
                       "Rise of the half of the tip's back next to the slot's side; auto: the same.", 0, 75)),
                   choice("stator.slot.bottom", {"round", "flat"}, "Bottom",
                          "Round: on a circle about the machine's centre; flat: straight across the slot."),
                   length("stator.slot.corner_radius", corner_radius, "Corner radius", "r",
                          "Fillet at the bottom of the slot.", 0, 100),
                   length("stator.slot.liner", "0 mm", "Liner", "s_l",
                          "Thickness of the insulation on the slot's walls; it takes room from the conductors.",
                          0, 20),
                   length("stator.slot.wedge", "0 mm", "Wedge", "s_w",
                          "Thickness of the wedge that closes the slot behind the tooth tip.", 0, 100),
                   when(wedged, filling("stator.slot.wedge_filling", "Wedge's material",
                                        "Air for what is not magnetic; a magnetic wedge carries flux.")),
                   whole("stator.slot.notches", "0", "Notches a tooth", "",
                         "Auxiliary notches in the face of each tooth.", 0, 4),
                   when(notched, length("stator.slot.notch_width", "= 0.1 * slot_pitch", "Notch width", "b_n",
                                        "Width of a notch at the gap.", 0.05, 100)),
                   when(notched, length("stator.slot.notch_depth", "= 0.05 * slot_pitch", "Notch depth", "h_n",
                                        "Depth of a notch from the gap.", 0.02, 100))})});
}

namespace {

/// Every `from` in the text made `to`.
std::string with_each(std::string text, const std::string& from, const std::string& to) {
    for (std::size_t at = 0; (at = text.find(from, at)) != std::string::npos; at += to.size())
        text.replace(at, from.size(), to);
    return text;
}

const std::string of_slot = "stator.slot.", of_bar = "rotor.bar.";
constexpr int slots_order = 100, bars_order = 240; ///< places in the sheet

Parameter bar_parameter(Parameter p) {
    p.path = of_bar + p.path.substr(of_slot.size());
    p.standard = p.path == "rotor.bar.depth" ? "= min(0.4 * rotor_thickness, 1.6 * bar_pitch)"
                                             : with_each(p.standard, "slot_", "bar_");
    p.label = with_each(p.label, "Slot", "Bar");
    p.help = with_each(with_each(p.help, "tip, wedge and body", "tip and body"), "slot", "bar");
    p.page = "Rotor";
    p.group = "Bars";
    p.order += bars_order - slots_order;
    return p;
}

} // namespace

std::vector<Parameter> bar_parameters(const std::vector<Parameter>& of_slots) {
    static const std::set<std::string> without{"liner",   "wedge",       "wedge_filling",
                                               "notches", "notch_width", "notch_depth"};
    std::vector<Parameter> list;
    for (const Parameter& p : of_slots)
        if (!without.contains(p.path.substr(of_slot.size()))) list.push_back(bar_parameter(p));
    return list;
}

} // namespace mavlo
