// What every machine has beside its slots, poles and winding: topology, the stack, the gap, both sides' steels.

#include "machine/axial.h"
#include "machine/parameter.h"
#include "machine/tile_kind.h"

namespace mavlo {
namespace {

using namespace parameter;

std::vector<std::string> slot_names() {
    return kind_names(Side::Stator);
}
std::vector<std::string> rotor_names() {
    return kind_names(Side::Rotor);
}
Parameter kind_of(const char* path, const char* standard, std::vector<std::string> (*names)(),
                  const char* label, const char* help) {
    Parameter p = choice(path, {standard}, label, help);
    p.more_words = names;
    return p;
}

bool is_inner(const Design& design) {
    return design.text("machine.topology") == "inner-rotor";
}
bool is_outer(const Design& design) {
    return design.text("machine.topology") == "outer-rotor";
}
bool is_no_disc(const Design& design) {
    return !is_axial(design);
}
bool has_two_gaps(const Design& design) {
    return has_stator_between(design) || has_rotor_between(design);
}
/// Of anything: round stators and rotors always have it.
bool has_stator_core(const Design& design) {
    return !(has_stator_between(design) && design.text("stator.core") == "none");
}
bool has_rotor_core(const Design& design) {
    return !(has_rotor_between(design) && design.text("rotor.core") == "none");
}
bool has_stator_iron(const Design& design) {
    return is_flat(design) && has_stator_core(design);
}
bool has_back_iron(const Design& design) {
    return is_flat(design) && has_rotor_core(design);
}

/// What a straight machine has in place of a bore: as many poles and slots as repeat, side by side.
std::vector<Parameter> straight() {
    return in_group(
        "Stator", "Stack", 3,
        {when(is_linear,
              length("machine.pole_pitch", "30 mm", "Pole pitch", "τ",
                     "Along the motion, from the middle of a pole to that of the next one.", 0.5, 5000)),
         when(is_linear,
              choice(
                  "machine.sides", {"one", "two-primaries", "two-secondaries"}, "Sides",
                  "One primary before one secondary; a primary on both sides of the secondary; or a secondary "
                  "on both sides of the primary."))});
}

/// What an axial machine has in place of bore and stack, and straight ones with it.
std::vector<Parameter> discs() {
    return in_group(
        "Stator", "Stack", 5,
        {when(is_axial, length("machine.outer_diameter", "120 mm", "Outer diameter", "D",
                               "Of the active ring: of the magnets, or of the stator's core.", 1, 5000)),
         when(is_axial, length("machine.inner_diameter", "= 0.58 * machine.outer_diameter", "Inner diameter",
                               "d", "Of the active ring.", 0.5, 5000)),
         when(has_two_gaps, or_auto(length("gap.second", "auto", "Other air gap", "g₂",
                                           "On the other side; auto: as the first.", 0.02, 100))),
         when(
             has_stator_between,
             choice("stator.core", {"teeth", "yoke", "none"}, "Stator's core",
                    "Teeth alone, which the flux goes straight through from one disc to the other; a yoke with "
                    "slots on both its faces, whose windings are in series; or none.")),
         when(has_rotor_between,
              choice(
                  "rotor.core", {"none", "iron"}, "Rotor's core",
                  "Magnets alone, which reach through the disc; or magnets on both faces of an iron disc. The "
                  "flux goes straight through, the windings of both stators are in series.")),
         when(has_stator_iron,
              length("stator.thickness", "= 0.5 * pole_pitch", "Stator's thickness", "",
                     "Along the axis, of the core: from the gap to its back, or from gap to gap.", 0.2, 1000)),
         when(has_back_iron,
              length("rotor.back_iron", "= 0.25 * pole_pitch", "Back iron", "",
                     "Thickness of the iron behind the magnets; of a disc between two stators all of it.", 0.2,
                     1000)),
         when(is_axial,
              or_auto(whole("machine.slices", "auto", "Slices", "",
                            "Radii at which the field is solved (on each stretch over which nothing begins "
                            "or ends); auto: 3, of round magnets 7. 1: the mean radius alone, for a first "
                            "look.",
                            1, 33))),
         when(is_axial, choice("machine.slice_places", {"gauss", "even"}, "Slices' places",
                               "Points of Gauss and Legendre, or the middles of rings of equal width."))});
}

/// How a side's steel is built: of sheets, or massive.
std::vector<Parameter> built_of(const std::string& side, bool (*has_core)(const Design&),
                                bool (*is_of_sheet)(const Design&), bool (*is_massive)(const Design&)) {
    return {when(has_core,
                 choice(side + ".solid", {"no", "yes"}, "Solid steel",
                        "Whether this side's steel is massive, so that it carries eddy currents. No: of sheet, "
                        "unless the steel itself is marked as massive.")),
            when(is_massive,
                 or_auto(quantity(side + ".resistivity", "Ohm.m", "auto", "Resistivity", "ρ",
                                  "Of the massive steel at its temperature; auto: the steel's own.", 1e-9, 1))),
            when(is_of_sheet,
                 number(side + ".stacking_factor", "0.96", "Stacking factor", "k",
                        "Share of steel in the stack's length; the rest is insulation. Of massive steel 1.",
                        0.5, 1))};
}

bool is_stator_massive(const Design& design) {
    return has_stator_core(design) && design.text("stator.solid") == "yes";
}
bool is_stator_sheet(const Design& design) {
    return has_stator_core(design) && !is_stator_massive(design);
}
bool is_rotor_massive(const Design& design) {
    return has_rotor_core(design) && design.text("rotor.solid") == "yes";
}
bool is_rotor_sheet(const Design& design) {
    return has_rotor_core(design) && !is_rotor_massive(design);
}

/// How a side is turned along the axis.
std::vector<Parameter> skew_of(const std::string& side, bool (*in_steps)(const Design&)) {
    return {
        when(is_radial, quantity(side + ".skew.angle", "deg", "0 deg", "Skew", "γ_s",
                                 "Mechanical, over the whole stack; 0: none.", -90, 90)),
        when(is_radial, choice(side + ".skew.form", {"continuous", "steps", "vee"}, "Skew's form",
                               "Evenly along the stack, in packets turned against each other, or evenly to the "
                               "middle and back.")),
        when(in_steps,
             whole(side + ".skew.steps", "3", "Packets", "n_s",
                   "Of a skew in steps: each is turned by the skew over their number against the next.", 2,
                   50))};
}
bool is_stator_stepped(const Design& design) {
    return is_radial(design) && design.text("stator.skew.form") == "steps";
}
bool is_rotor_stepped(const Design& design) {
    return is_radial(design) && design.text("rotor.skew.form") == "steps";
}

/// Of whichever side lies outside.
Parameter boundary(const std::string& side) {
    return choice(
        side + ".outer_boundary", {"auto", "closed", "open"}, "Field outside",
        "Open: the field goes on in the air round the machine; closed: none leaves it. Auto: open where "
        "the outside is of steel that can saturate.");
}

const Register<ParameterSet> stack{
    {"stack",
     joined(
         {in_group(
              "Stator", "Stack", 0,
              {
                  choice(
                      "machine.topology",
                      {"inner-rotor", "outer-rotor", "axial-one-rotor", "axial-two-rotors", "axial-two-stators",
                       "linear"},
                      "Topology",
                      "Whether the rotor turns inside or outside the stator; discs beside each other on the "
                      "axis; or a straight machine, of which as many slots and poles as repeat are computed."),
                  when(is_no_disc,
                       length("machine.stack_length", "50 mm", "Stack length", "L",
                              "Axial length of the laminated stack, the same for stator and rotor; of "
                              "straight machines its width across the motion.",
                              0.1, 5000)),
                  length("gap", "1 mm", "Air gap", "g",
                         "Mechanical air gap between the stator and what is nearest to it on the rotor.", 0.02,
                         100),
              }),
          straight(), discs(),
          in_group(
              "Stator", "Stack", 20,
              {
                  when(is_radial,
                       length("stator.outer_diameter", "100 mm", "Outer diameter", "D",
                              "Outer diameter of the stator stack; with an outer rotor its side of the gap.", 1,
                              5000)),
                  when(is_radial,
                       length("stator.bore_diameter", "54 mm", "Bore diameter", "d",
                              "Inner diameter of the stator at the tooth tips; with an outer rotor the hole in "
                              "its middle.",
                              0, 5000)),
                  whole("stator.slots", "12", "Slots", "Q", "Number of stator slots.", 1, 400),
                  when(has_stator_core, material("stator.steel", "M330-35A", "Stator steel",
                                                 "Electrical steel of the stator stack.", MaterialKind::Steel)),
                  when(has_stator_core,
                       number("stator.building_factor", "1.3", "Building factor", "k_b",
                              "Iron loss of the built stator over that of the sheet as measured: punching, "
                              "pressing, welding.",
                              1, 5)),
                  when(
                      has_stator_core,
                      quantity("stator.steel_temperature", "degC", "20 degC", "Steel temperature", "ϑ_s",
                               "Working temperature of the stator's steel: which of its curves holds, where it "
                               "was measured at several.",
                               -200, 1000)),
                  when(is_inner, boundary("stator")),
              }),
          in_group("Stator", "Stack", 30,
                   built_of("stator", has_stator_core, is_stator_sheet, is_stator_massive)),
          in_group("Stator", "Skew", 40, skew_of("stator", is_stator_stepped)),
          in_group("Stator", "Slots", 100,
                   {kind_of("stator.slot.kind", "parallel-tooth", slot_names, "Slot shape",
                            "How the slot's sides run.")}),
          in_group(
              "Rotor", "Rotor", 200,
              {
                  kind_of("rotor.kind", "surface", rotor_names, "Rotor", "How the rotor's poles are made."),
                  whole("rotor.poles", "10", "Poles", "2p", "Number of rotor poles.", 2, 400),
                  when(is_outer,
                       length("rotor.outer_diameter", "= gap_diameter + 2 * gap + 0.6 * pole_pitch + 8 mm",
                              "Outer diameter", "D_r", "Outside of the outer rotor's yoke.", 1, 6000)),
                  when(is_inner,
                       length("rotor.shaft_diameter", "= 0.37 * gap_diameter", "Shaft diameter", "d_s",
                              "Bore of the rotor yoke; the shaft in it is taken as non-magnetic. 0: solid "
                              "yoke.",
                              0, 5000)),
                  when(is_inner,
                       quantity("rotor.shaft_resistivity", "Ohm.m", "0 Ohm.m", "Shaft resistivity", "ρ_s",
                                "Of a shaft that conducts, for its eddy-current loss; 0: it does not.", 0, 1)),
                  when(has_rotor_core, material("rotor.steel", "M330-35A", "Rotor steel", "Steel of the rotor.",
                                                MaterialKind::Steel)),
                  when(has_rotor_core,
                       number("rotor.building_factor", "1.3", "Building factor", "k_b",
                              "Iron loss of the built rotor over that of the sheet as measured.", 1, 5)),
                  when(has_rotor_core,
                       quantity(
                           "rotor.steel_temperature", "degC", "20 degC", "Steel temperature", "ϑ_r",
                           "Working temperature of the rotor's steel: which of its curves holds, where it was "
                           "measured at several.",
                           -200, 1000)),
                  when(is_outer, boundary("rotor")),
              }),
          in_group("Rotor", "Rotor", 210, built_of("rotor", has_rotor_core, is_rotor_sheet, is_rotor_massive)),
          in_group("Rotor", "Skew", 215, skew_of("rotor", is_rotor_stepped))}),
     0}};

} // namespace
} // namespace mavlo
