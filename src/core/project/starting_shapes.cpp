#include "machine/parameter.h"
#include "project/project.h"

#include <algorithm>

namespace mavlo {
namespace {

using Texts = std::map<std::string, std::string>;

Texts with(Texts base, const Texts& more) {
    for (const auto& [path, text] : more) base[path] = text;
    return base;
}

/// 48 slots and 8 poles around buried magnets.
Texts distributed(const std::string& rotor) {
    return {{"machine.stack_length", "= 0.6 * stator.outer_diameter"},
            {"gap", "= max(0.4 mm, 0.0055 * stator.bore_diameter)"},
            {"stator.outer_diameter", "300 mm"},
            {"stator.bore_diameter", "= 0.65 * stator.outer_diameter"},
            {"stator.slots", "48"},
            {"stator.slot.depth", "= 0.53 * stator_thickness"},
            {"stator.slot.tooth_width", "= 0.53 * slot_pitch"},
            {"rotor.kind", rotor},
            {"rotor.poles", "8"},
            {"rotor.shaft_diameter", "= 0.45 * gap_diameter"},
            {"winding.turns", "7"},
            {"winding.paths", "2"},
            {"rating.speed", "1200 rpm"},
            {"rating.current", "105 A"},
            {"rating.advance", "38 deg"},
            {"rating.dc_voltage", "540 V"},
            {"rating.max_current", "150 A"},
            {"rating.max_speed", "3000 rpm"}};
}

/// 36 slots and 4 poles for synchronous reluctance.
Texts reluctance() {
    return {{"machine.stack_length", "= 0.7 * stator.outer_diameter"},
            {"gap", "= max(0.3 mm, 0.004 * stator.bore_diameter)"},
            {"stator.outer_diameter", "180 mm"},
            {"stator.bore_diameter", "= 0.6 * stator.outer_diameter"},
            {"stator.slots", "36"},
            {"stator.slot.depth", "= 0.55 * stator_thickness"},
            {"stator.slot.tooth_width", "= 0.5 * slot_pitch"},
            {"rotor.poles", "4"},
            {"rotor.kind", "barriers"},
            {"rotor.shaft_diameter", "= 0.32 * gap_diameter"},
            {"winding.turns", "10"},
            {"rating.current", "40 A"},
            {"rating.advance", "55 deg"},
            {"rating.dc_voltage", "540 V"},
            {"rating.max_current", "60 A"}};
}

/// Salient poles on both sides, the phases switched one after the other.
Texts salient() {
    return {{"machine.stack_length", "= 0.6 * stator.outer_diameter"},
            {"gap", "= max(0.25 mm, 0.006 * stator.bore_diameter)"},
            {"stator.outer_diameter", "120 mm"},
            {"stator.bore_diameter", "= 0.54 * stator.outer_diameter"},
            {"stator.slots", "12"},
            {"stator.slot.kind", "radial"},
            {"stator.slot.tip_depth", "= 0.1 * stator_thickness"},
            {"stator.slot.depth", "= 0.66 * stator_thickness"},
            {"stator.slot.body_angle", "= 0.52 * slot_angle"},
            {"stator.slot.opening_angle", "= stator.slot.body_angle"},
            {"rotor.kind", "salient"},
            {"rotor.poles", "8"},
            {"rotor.pole_sides", "radial"},
            {"rotor.pole_arc", "= 0.36 * pole_angle"},
            {"rotor.pole_depth", "= 0.35 * rotor_thickness"},
            {"rotor.shaft_diameter", "= 0.35 * gap_diameter"},
            {"winding.form", "pole"},
            {"winding.connection", "open"},
            {"winding.turns", "45"},
            {"rating.speed", "1500 rpm"},
            {"rating.current", "12 A"},
            {"rating.dc_voltage", "300 V"},
            {"rating.max_current", "20 A"},
            {"rating.max_speed", "6000 rpm"}};
}

/// A cage on mains of 400 V and 50 Hz.
Texts cage(int poles, int slots, int bars) {
    return {{"machine.stack_length", "= 0.75 * stator.outer_diameter"},
            {"gap", "= max(0.3 mm, 0.0035 * stator.bore_diameter)"},
            {"stator.outer_diameter", "200 mm"},
            {"stator.bore_diameter", "= 0.62 * stator.outer_diameter"},
            {"stator.slots", std::to_string(slots)},
            {"stator.slot.depth", "= 0.55 * stator_thickness"},
            {"stator.slot.tooth_width", "= 0.48 * slot_pitch"},
            {"stator.slot.opening", "= 0.28 * slot_pitch"},
            {"rotor.kind", "cage"},
            {"rotor.poles", std::to_string(poles)},
            {"rotor.bars", std::to_string(bars)},
            {"rotor.bar.tooth_width", "= 0.45 * bar_pitch"},
            {"rotor.shaft_diameter", "= 0.36 * gap_diameter"},
            {"winding.layers", "2"},
            {"winding.turns", "12"},
            {"rating.speed", "1500 rpm"},
            {"rating.current", "15 A"},
            {"rating.dc_voltage", "565 V"},
            {"rating.max_current", "25 A"}};
}

/// Concentrated coils inside, the rotor round them.
Texts outer(const std::string& rotor) {
    return {{"machine.topology", "outer-rotor"},
            {"machine.stack_length", "= 0.25 * stator.outer_diameter"},
            {"gap", "= max(0.4 mm, 0.008 * stator.outer_diameter)"},
            {"stator.outer_diameter", "100 mm"},
            {"stator.bore_diameter", "= 0.4 * stator.outer_diameter"},
            {"stator.slots", "18"},
            {"stator.slot.depth", "= 0.68 * stator_thickness"},
            {"stator.slot.tooth_width", "= 0.4 * slot_pitch"},
            {"stator.slot.opening", "= 0.15 * slot_pitch"},
            {"rotor.kind", rotor},
            {"rotor.poles", "16"},
            {"winding.turns", "30"},
            {"rating.speed", "900 rpm"},
            {"rating.current", "6 A"},
            {"rating.dc_voltage", "96 V"}};
}

/// Discs: 12 coils and 10 or 16 poles.
Texts axial(const char* topology, const Texts& more) {
    return with({{"machine.topology", topology},
                 {"machine.outer_diameter", "140 mm"},
                 {"gap", "1 mm"},
                 {"stator.slots", "12"},
                 {"stator.slot.kind", "parallel-slot"},
                 {"rotor.poles", "10"},
                 {"rotor.magnet.arc", "0.8"},
                 {"winding.turns", "20"},
                 {"rating.speed", "1500 rpm"},
                 {"rating.current", "10 A"},
                 {"rating.dc_voltage", "72 V"}},
                more);
}

/// A machine works warm: parameters stand at 20 °C for whoever compares, a new design at what it will have.
std::string working_standard(const Parameter& parameter) {
    if (parameter.path == "winding.temperature") return "100 degC";
    if (parameter.path.ends_with(".magnet.temperature")) return "60 degC";
    return parameter.standard;
}

std::vector<StartingShape> make_shapes() {
    return {
        {"surface",
         "Surface magnets",
         "Inner rotor with surface magnets, 12 slots, 10 poles.",
         {{"rating.dc_voltage", "72 V"}}},
        {"surface-fine-pitch",
         "Surface, fine pitch",
         "A flat direct drive: 24 slots, 22 poles, coils round single teeth.",
         {{"machine.stack_length", "= 0.19 * stator.outer_diameter"},
          {"gap", "= max(0.3 mm, 0.009 * stator.bore_diameter)"},
          {"stator.outer_diameter", "160 mm"},
          {"stator.bore_diameter", "= 0.625 * stator.outer_diameter"},
          {"stator.slots", "24"},
          {"rotor.poles", "22"},
          {"rotor.shaft_diameter", "= 0.4 * gap_diameter"},
          {"rating.speed", "60 rpm"}}},
        {"surface-distributed",
         "Surface, distributed",
         "Surface magnets in a distributed winding, 36 slots, 4 poles.",
         {{"stator.slots", "36"},
          {"rotor.poles", "4"},
          {"stator.slot.opening", "= 0.3 * slot_pitch"},
          {"winding.turns", "6"},
          {"rotor.magnet.arc", "0.8"},
          {"rating.dc_voltage", "72 V"}}},
        {"surface-halbach",
         "Halbach magnets",
         "Halbach magnets on a light rotor, 12 slots, 10 poles.",
         {{"rotor.magnet.magnetisation", "halbach"},
          {"rotor.magnet.pieces", "4"},
          {"rotor.magnet.arc", "1"},
          {"rotor.magnet.thickness", "= 0.3 * pole_pitch"},
          {"rating.dc_voltage", "84 V"}}},
        {"inset",
         "Inset magnets",
         "Magnets let into the surface, 36 slots, 6 poles.",
         {{"stator.slots", "36"},
          {"rotor.poles", "6"},
          {"rotor.kind", "inset"},
          {"stator.slot.opening", "= 0.3 * slot_pitch"},
          {"winding.turns", "6"}}},
        {"bar", "Flat buried magnets", "One flat buried magnet a pole, 36 slots, 6 poles.",
         with(distributed("bar"), {{"stator.slots", "36"},
                                   {"rotor.poles", "6"},
                                   {"stator.outer_diameter", "200 mm"},
                                   {"winding.paths", "1"},
                                   {"rating.current", "40 A"},
                                   {"rating.max_current", "60 A"}})},
        {"vee", "Buried in a V", "Buried magnets in a V, 48 slots, 8 poles.", distributed("vee")},
        {"double-vee", "Buried in two Vs", "Two layers of buried magnets in a V, 48 slots, 8 poles.",
         distributed("double-vee")},
        {"vee-bar", "V with a flat magnet", "A V with a flat magnet across its mouth, 48 slots, 8 poles.",
         distributed("vee-bar")},
        {"spoke",
         "Spoke magnets",
         "Magnets like spokes, 12 slots, 10 poles.",
         {{"stator.outer_diameter", "160 mm"},
          {"stator.bore_diameter", "= 0.6 * stator.outer_diameter"},
          {"rotor.kind", "spoke"},
          {"rotor.magnet.grade", "Ferrite 28/26"},
          {"rotor.shaft_diameter", "= 0.4 * gap_diameter"},
          {"rating.speed", "600 rpm"}}},
        {"reluctance", "Flux barriers",
         "Synchronous reluctance: three flux barriers a pole, 36 slots, 4 poles.", reluctance()},
        {"reluctance-magnets", "Barriers with magnets",
         "Flux barriers with ferrite magnets in their middle, 36 slots, 4 poles.",
         with(reluctance(), {{"rotor.barrier.magnets", "centre"}, {"rating.advance", "50 deg"}})},
        {"reluctance-salient", "Salient iron poles",
         "Salient iron poles in a distributed winding, 36 slots, 4 poles.",
         with(reluctance(), {{"rotor.kind", "salient"}, {"rating.advance", "-45 deg"}})},
        {"salient", "Switched reluctance",
         "Switched reluctance: salient poles on both sides, 12 and 8 of them.", salient()},
        {"cage", "Cage, 4 poles", "A cage on the mains: 36 slots, 28 bars, 4 poles.", cage(4, 36, 28)},
        {"cage-two-poles", "Cage, 2 poles", "A cage on the mains: 24 slots, 20 bars, 2 poles.",
         with(cage(2, 24, 20), {{"stator.bore_diameter", "= 0.55 * stator.outer_diameter"},
                                {"stator.slot.depth", "= 0.44 * stator_thickness"},
                                {"winding.turns", "15"},
                                {"rating.speed", "3000 rpm"},
                                {"rating.max_speed", "6000 rpm"}})},
        {"cage-six-poles", "Cage, 6 poles", "A cage on the mains: 54 slots, 42 bars, 6 poles.",
         with(cage(6, 54, 42), {{"stator.bore_diameter", "= 0.68 * stator.outer_diameter"},
                                {"stator.slot.depth", "= 0.6 * stator_thickness"},
                                {"winding.turns", "11"},
                                {"rating.speed", "1000 rpm"},
                                {"rating.current", "10 A"}})},
        {"cage-eight-poles", "Cage, 8 poles", "A cage on the mains: 48 slots, 40 bars, 8 poles.",
         with(cage(8, 48, 40), {{"stator.bore_diameter", "= 0.7 * stator.outer_diameter"},
                                {"stator.slot.depth", "= 0.62 * stator_thickness"},
                                {"winding.turns", "15"},
                                {"rating.speed", "750 rpm"},
                                {"rating.current", "8 A"}})},
        {"outer-surface", "Outer, surface", "Outer rotor with surface magnets, 18 slots, 16 poles.",
         with(outer("surface"), {{"rotor.magnet.thickness", "= 0.17 * pole_pitch"}})},
        {"outer-spoke", "Outer, spokes", "Outer rotor with spoke magnets, 18 slots, 16 poles.",
         with(outer("spoke"), {{"rotor.magnet.grade", "Ferrite 28/26"},
                               {"rotor.outer_diameter", "= gap_diameter + 2 * gap + 1.8 * pole_pitch"}})},
        {"outer-vee", "Outer, in a V", "Outer rotor with buried magnets in a V, 24 slots, 20 poles.",
         with(outer("vee"), {{"stator.slots", "24"},
                             {"rotor.poles", "20"},
                             {"stator.outer_diameter", "200 mm"},
                             {"rating.dc_voltage", "160 V"},
                             {"rotor.pocket.angle", "150 deg"},
                             {"rotor.pocket.depth", "= 0.24 * pole_pitch"},
                             {"rotor.magnet.width", "= 0.26 * pole_pitch"},
                             {"rotor.magnet.thickness", "= 0.1 * pole_pitch"},
                             {"rotor.outer_diameter", "= gap_diameter + 2 * gap + 1.3 * pole_pitch"}})},
        {"axial", "One disc", "A disc with magnets before a slotted stator, 12 slots, 10 poles.",
         axial("axial-one-rotor", {})},
        {"axial-yokeless", "Teeth between discs",
         "Single teeth without a yoke between two discs with magnets, 12 teeth, 10 poles.",
         axial("axial-two-rotors", {{"stator.slot.kind", "between-teeth"},
                                    {"stator.thickness", "= 0.9 * pole_pitch"},
                                    {"rating.dc_voltage", "96 V"}})},
        {"axial-coreless", "Coils between discs",
         "Coils without iron between two discs with magnets, 12 coils, 16 poles.",
         axial("axial-two-rotors", {{"stator.core", "none"},
                                    {"stator.slot.kind", "gap-winding"},
                                    {"winding.side_thickness", "8 mm"},
                                    {"rotor.poles", "16"},
                                    {"rotor.magnet.thickness", "= 0.35 * pole_pitch"},
                                    {"winding.turns", "40"},
                                    {"rating.current", "6 A"}})},
        {"axial-two-stators", "Disc in two stators",
         "Magnets alone in a disc between two slotted stators, 36 slots each, 8 poles.",
         axial("axial-two-stators", {{"stator.slots", "36"},
                                     {"rotor.poles", "8"},
                                     {"rotor.magnet.thickness", "= 0.25 * pole_pitch"},
                                     {"winding.turns", "4"},
                                     {"rating.dc_voltage", "96 V"}})},
        {"linear",
         "Magnets before teeth",
         "A straight primary with 12 slots before a secondary with 10 magnets; both go on for good.",
         {{"machine.topology", "linear"},
          {"machine.stack_length", "60 mm"},
          {"machine.pole_pitch", "24 mm"},
          {"stator.thickness", "36 mm"},
          {"stator.slot.kind", "parallel-slot"},
          {"rotor.magnet.thickness", "5 mm"},
          {"rotor.magnet.magnetisation", "parallel"},
          {"rotor.back_iron", "8 mm"},
          {"winding.turns", "60"},
          {"rating.speed", "2 m/s"},
          {"rating.max_speed", "4 m/s"},
          {"rating.current", "6 A"},
          {"rating.dc_voltage", "96 V"},
          {"rating.max_current", "12 A"}}},
        {"smooth",
         "Smooth stator",
         "A smooth stator without a winding, for checks against exact fields.",
         {{"stator.slot.kind", "none"}}},
    };
}

} // namespace

const std::vector<StartingShape>& starting_shapes() {
    static const std::vector<StartingShape> list = make_shapes();
    return list;
}

std::optional<Project> new_project(const std::string& shape) {
    const auto& all = starting_shapes();
    const auto found =
        std::find_if(all.begin(), all.end(), [&](const StartingShape& s) { return s.name == shape; });
    if (found == all.end()) return std::nullopt;
    Project project;
    project.name = "New machine";
    Design& design = project.variants.front().design;
    design.texts = found->texts;
    // What the kinds use is written out, so that the file says all of it.
    for (const Parameter* parameter : used_parameters(design))
        design.texts.try_emplace(parameter->path, working_standard(*parameter));
    return project;
}

} // namespace mavlo
