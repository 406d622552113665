#include "machine/equivalent.h"

#include "machine/axial.h"
#include "quantity/constants.h"
#include "quantity/quantity.h"

#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

using MaybeValue = std::optional<double>;

bool outer(const Values& v) {
    return v.word("machine.topology") == "outer-rotor";
}
double gap_diameter(const Values& v) {
    return v.number(outer(v) ? "stator.outer_diameter" : "stator.bore_diameter");
}
/// Of the rotor, at the gap.
double rotor_face(const Values& v) {
    return gap_diameter(v) + (outer(v) ? 2 : -2) * v.number("gap");
}
bool has_slot_depth(const Values& v) {
    return v.has("stator.slot.depth");
}
/// Half of a plain diameter.
Equivalent radius_of(const char* name, int order, const char* label, const char* path,
                     std::vector<std::string> also) {
    return {name,
            order,
            label,
            "mm",
            path,
            std::move(also),
            [path = std::string(path)](const Values& v) {
                return v.has(path) ? MaybeValue(v.number(path) / 2) : MaybeValue();
            },
            [](const Values&, const std::string& text) { return "= 2 * " + text; }};
}

const Register<Equivalent> outer_radius{
    radius_of("stator_outer_radius", 10, "Outer radius", "stator.outer_diameter", {"stator outer radius"})};
const Register<Equivalent> bore_radius{radius_of("bore_radius", 20, "Bore radius", "stator.bore_diameter",
                                                 {"stator inner radius", "stator inside radius"})};
const Register<Equivalent> shaft_radius{
    radius_of("shaft_radius", 30, "Shaft radius", "rotor.shaft_diameter", {"rotor inner radius"})};

const Register<Equivalent> rotor_diameter{
    {"rotor_diameter",
     40,
     "Rotor diameter at the gap",
     "mm",
     "gap",
     {"rotor diameter", "rotor outer diameter", "rotor outside diameter", "rotor od"},
     [](const Values& v) { return MaybeValue(rotor_face(v)); },
     [](const Values& v, const std::string& text) {
         return outer(v) ? fmt::format("= ({} - stator.outer_diameter) / 2", text)
                         : fmt::format("= (stator.bore_diameter - {}) / 2", text);
     }}};

const Register<Equivalent> yoke{
    {"stator_yoke",
     50,
     "Yoke behind the slots",
     "mm",
     "stator.slot.depth",
     {"stator yoke thickness", "yoke thickness", "back iron", "yoke height"},
     [](const Values& v) {
         if (!has_slot_depth(v)) return MaybeValue();
         return MaybeValue((v.number("stator.outer_diameter") - v.number("stator.bore_diameter")) / 2 -
                           v.number("stator.slot.depth"));
     },
     [](const Values&, const std::string& text) { return "= stator_thickness - " + text; }}};

const Register<Equivalent> slot_bottom{
    {"slot_bottom_diameter",
     60,
     "Diameter at the slots' bottoms",
     "mm",
     "stator.slot.depth",
     {"slot bottom diameter"},
     [](const Values& v) {
         if (!has_slot_depth(v)) return MaybeValue();
         return MaybeValue(gap_diameter(v) + (outer(v) ? -2 : 2) * v.number("stator.slot.depth"));
     },
     [](const Values& v, const std::string& text) {
         return outer(v) ? fmt::format("= (stator.outer_diameter - {}) / 2", text)
                         : fmt::format("= ({} - stator.bore_diameter) / 2", text);
     }}};

const Register<Equivalent> slot_body{
    {"slot_body_depth",
     70,
     "Slot depth behind the tip",
     "mm",
     "stator.slot.depth",
     {"slot depth without tip", "slot body depth", "slot height without tip"},
     [](const Values& v) {
         if (!has_slot_depth(v) || !v.has("stator.slot.tip_depth")) return MaybeValue();
         return MaybeValue(v.number("stator.slot.depth") - v.number("stator.slot.tip_depth"));
     },
     [](const Values&, const std::string& text) { return "= stator.slot.tip_depth + " + text; }}};

/// The slot's width between parallel teeth where the tooth begins behind its tip: the chord that is left of a
/// pitch.
double pitch_chord(const Values& v) {
    const double r = gap_diameter(v) / 2 + (outer(v) ? -1 : 1) * v.number("stator.slot.tip_depth");
    return 2 * r * std::sin(pi / v.whole("stator.slots"));
}

const Register<Equivalent> slot_width{
    {"slot_width_at_gap",
     80,
     "Slot width behind the tip",
     "mm",
     "stator.slot.tooth_width",
     {"slot width", "slot width at the top", "slot top width"},
     [](const Values& v) {
         if (!v.has("stator.slot.tooth_width") || !v.has("stator.slot.tip_depth")) return MaybeValue();
         return MaybeValue(pitch_chord(v) - v.number("stator.slot.tooth_width"));
     },
     [](const Values& v, const std::string& text) {
         return fmt::format("= (gap_diameter {} 2 * stator.slot.tip_depth) * sin(180 deg / stator.slots) - {}",
                            outer(v) ? "-" : "+", text);
     }}};

const Register<Equivalent> tooth_width{
    {"tooth_width_at_gap",
     90,
     "Tooth width behind the tip",
     "mm",
     "stator.slot.width",
     {"tooth width"},
     [](const Values& v) {
         if (!v.has("stator.slot.width") || !v.has("stator.slot.tip_depth")) return MaybeValue();
         return MaybeValue(pitch_chord(v) - v.number("stator.slot.width"));
     },
     [](const Values& v, const std::string& text) {
         return fmt::format("= (gap_diameter {} 2 * stator.slot.tip_depth) * sin(180 deg / stator.slots) - {}",
                            outer(v) ? "-" : "+", text);
     }}};

const Register<Equivalent> magnet_angle{
    {"magnet_angle",
     100,
     "Magnet angle",
     "deg",
     "rotor.magnet.arc",
     {"magnet arc angle", "magnet span", "magnet arc mechanical"},
     [](const Values& v) {
         return v.has("rotor.magnet.arc")
                    ? MaybeValue(v.number("rotor.magnet.arc") * 2 * pi / v.whole("rotor.poles"))
                    : MaybeValue();
     },
     [](const Values&, const std::string& text) { return fmt::format("= {} / pole_angle", text); }}};

const Register<Equivalent> magnet_width{
    {"magnet_width",
     110,
     "Magnet width at its face",
     "mm",
     "rotor.magnet.arc",
     {"magnet width", "magnet chord"},
     [](const Values& v) {
         if (!v.has("rotor.magnet.arc")) return MaybeValue();
         return MaybeValue(rotor_face(v) *
                           std::sin(v.number("rotor.magnet.arc") * pi / v.whole("rotor.poles")));
     },
     [](const Values& v, const std::string& text) {
         const double width = parse_quantity(text)->si, share = std::asin(std::min(1.0, width / rotor_face(v)));
         return number_text(share * v.whole("rotor.poles") / pi, 9);
     }}};

const Register<Equivalent> pole_share{
    {"pole_arc_share",
     120,
     "Pole arc over pole pitch",
     "",
     "rotor.pole_arc",
     {"pole arc to pitch ratio", "pole embrace"},
     [](const Values& v) {
         return v.has("rotor.pole_arc")
                    ? MaybeValue(v.number("rotor.pole_arc") * v.whole("rotor.poles") / (2 * pi))
                    : MaybeValue();
     },
     [](const Values&, const std::string& text) { return fmt::format("= {} * pole_angle", text); }}};

const Register<Equivalent> pole_pairs{
    {"pole_pairs",
     130,
     "Pole pairs",
     "",
     "rotor.poles",
     {"number of pole pairs", "pairs of poles"},
     [](const Values& v) { return MaybeValue(v.whole("rotor.poles") / 2.0); },
     [](const Values&, const std::string& text) { return number_text(2 * parse_quantity(text)->si); }}};

const Register<Equivalent> current_rms{
    {"current_rms",
     140,
     "Rated current, rms",
     "A",
     "rating.current",
     {"rms current", "phase current rms", "rated current rms"},
     [](const Values& v) { return MaybeValue(v.number("rating.current") / std::numbers::sqrt2); },
     [](const Values&, const std::string& text) { return "= sqrt(2) * " + text; }}};

} // namespace

std::optional<double> value_of(const Equivalent& equivalent, const Values& values) {
    return is_flat(values) ? std::nullopt : equivalent.value(values);
}

std::vector<const Equivalent*> equivalents_of(const Values& values) {
    std::vector<const Equivalent*> list;
    for (const Equivalent& e : registry<Equivalent>().all())
        if (value_of(e, values)) list.push_back(&e);
    return list;
}

Result<Quantity> quantity_of(const Equivalent& equivalent, const std::string& text) {
    return parse_quantity(with_unit(text, equivalent.unit));
}

Result<Design> with_equivalent(const Design& design, const Equivalent& equivalent, const std::string& text) {
    const auto values = resolve(design);
    if (!values) return values.problems();
    if (!value_of(equivalent, *values))
        return Problem{equivalent.path, fmt::format("This design has no “{}”.", equivalent.label)};
    const std::string entry = with_unit(std::string(trim(text)), equivalent.unit);
    const auto quantity = parse_quantity(entry);
    const Dimension wanted = equivalent.unit.empty() ? Dimension{} : find_unit(equivalent.unit)->dimension;
    if (!quantity) return Problem{equivalent.path, quantity.problems().front().sentence};
    if (quantity->dimension != wanted)
        return Problem{equivalent.path, fmt::format("\"{}\" is {}; {} is wanted here.", entry,
                                                    describe(quantity->dimension), describe(wanted))};
    return with_text(design, equivalent.path, equivalent.write(*values, entry));
}

} // namespace mavlo
