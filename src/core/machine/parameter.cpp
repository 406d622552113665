#include "machine/parameter.h"

#include "machine/rotor_kind.h"
#include "machine/slot_kind.h"

#include <algorithm>
#include <numeric>

namespace mavlo {
namespace {

using K = ParameterKind;

Parameter length(const char* path, const char* standard, const char* label, const char* symbol,
                 const char* help, double low, double high) {
    return {path, K::Quantity, "mm", standard, label, symbol, help, low, high};
}
Parameter quantity(const char* path, const char* unit, const char* standard, const char* label,
                   const char* symbol, const char* help, double low, double high) {
    return {path, K::Quantity, unit, standard, label, symbol, help, low, high};
}
Parameter number(const char* path, const char* standard, const char* label, const char* symbol,
                 const char* help, double low, double high) {
    return {path, K::Number, "", standard, label, symbol, help, low, high};
}
Parameter whole(const char* path, const char* standard, const char* label, const char* symbol, const char* help,
                double low, double high) {
    return {path, K::Whole, "", standard, label, symbol, help, low, high};
}
Parameter choice(const char* path, const char* standard, const char* label, const char* help) {
    return {path, K::Choice, "", standard, label, "", help, 1, 0};
}
Parameter material(const char* path, const char* standard, const char* label, const char* help,
                   MaterialKind kind) {
    Parameter p{path, K::MaterialName, "", standard, label, "", help, 1, 0};
    p.material = kind;
    return p;
}
Parameter or_auto(Parameter p) {
    p.auto_allowed = true;
    return p;
}

std::vector<Parameter> make_table() {
    return {
        choice("machine.topology", "inner-rotor", "Topology", "Where the rotor turns."),
        length("machine.stack_length", "50 mm", "Stack length", "L",
               "Axial length of the laminated stack, the same for stator and rotor.", 0.1, 5000),
        length("gap", "1 mm", "Air gap", "g", "Mechanical air gap between the magnets and the bore.", 0.02,
               100),
        length("stator.outer_diameter", "100 mm", "Outer diameter", "D", "Outer diameter of the stator stack.",
               1, 5000),
        length("stator.bore_diameter", "54 mm", "Bore diameter", "d",
               "Inner diameter of the stator at the tooth tips.", 1, 5000),
        whole("stator.slots", "12", "Slots", "Q", "Number of stator slots.", 1, 400),
        material("stator.steel", "M330-35A", "Stator steel", "Electrical steel of the stator stack.",
                 MaterialKind::Steel),
        number("stator.stacking_factor", "0.96", "Stacking factor", "k",
               "Share of steel in the stack's length; the rest is insulation.", 0.5, 1),
        number("stator.building_factor", "1.3", "Building factor", "k_b",
               "Iron loss of the built stator over that of the sheet as measured: punching, pressing, welding.",
               1, 5),
        choice("stator.slot.kind", "parallel-tooth", "Slot shape", "How the slot's sides run."),
        length("stator.slot.opening", "2.5 mm", "Mouth", "b₀", "Width of the slot mouth at the bore.", 0.05,
               500),
        quantity("stator.slot.opening_angle", "deg", "6 deg", "Mouth angle", "β₀",
                 "Angle between the radial sides of the mouth.", 0.01, 180),
        quantity("stator.slot.body_angle", "deg", "16 deg", "Body angle", "β",
                 "Angle between the radial sides of the slot body.", 0.01, 180),
        length("stator.slot.depth", "15 mm", "Depth, whole", "h",
               "From the bore to the bottom of the slot: tip, wedge and body together.", 0.1, 1000),
        length("stator.slot.tip_depth", "1 mm", "Tip depth", "h₀",
               "Radial thickness of the tooth tip beside the mouth; 0 for an open radial slot.", 0, 500),
        quantity("stator.slot.tip_angle", "deg", "20 deg", "Tip angle", "α",
                 "Rise of the tooth tip's back against the tangent.", 0, 75),
        length("stator.slot.tooth_width", "7 mm", "Tooth width", "b_t", "Width of the parallel-sided tooth.",
               0.05, 500),
        length("stator.slot.corner_radius", "1 mm", "Corner radius", "r", "Fillet at the bottom of the slot.",
               0, 100),
        choice("rotor.kind", "surface", "Rotor", "How the magnets sit in the rotor."),
        whole("rotor.poles", "10", "Poles", "2p", "Number of rotor poles.", 2, 400),
        material("rotor.steel", "M330-35A", "Rotor steel", "Steel of the rotor yoke.", MaterialKind::Steel),
        number("rotor.stacking_factor", "0.96", "Stacking factor", "k",
               "Share of steel in the rotor's length; 1 for a solid rotor.", 0.5, 1),
        number("rotor.building_factor", "1.3", "Building factor", "k_b",
               "Iron loss of the built rotor over that of the sheet as measured.", 1, 5),
        length("rotor.shaft_diameter", "20 mm", "Shaft diameter", "d_s",
               "Bore of the rotor yoke; the shaft in it is taken as non-magnetic. 0: solid yoke.", 0, 5000),
        quantity("rotor.shaft_resistivity", "Ohm.m", "0 Ohm.m", "Shaft resistivity", "ρ_s",
                 "Of a shaft that conducts, for its eddy-current loss; 0: it does not.", 0, 1),
        length("rotor.magnet.thickness", "3 mm", "Magnet thickness", "h_m",
               "Thickness of the magnets in the direction of their remanence.", 0.05, 500),
        length("rotor.magnet.width", "40 mm", "Magnet width", "w_m",
               "Width of one buried magnet, along its pocket.", 0.1, 1000),
        number("rotor.magnet.arc", "0.85", "Magnet arc", "α_m", "Magnet arc as a fraction of the pole pitch.",
               0.05, 1),
        choice("rotor.magnet.magnetisation", "radial", "Magnetisation",
               "Direction of the remanence: on radii, or parallel to the pole's axis."),
        quantity("rotor.pocket.angle", "deg", "130 deg", "Pocket angle", "β_V",
                 "Angle between the two pockets of a pole, open towards the gap; 180: in one line.", 40, 180),
        length("rotor.pocket.depth", "20 mm", "Pocket depth", "h_p",
               "From the rotor's outside to the deepest point of the pockets, along the pole's axis.", 0.1,
               1000),
        length("rotor.pocket.bridge", "1 mm", "Bridge", "b_b",
               "Thickness of the iron between the pockets' outer ends and the gap.", 0.1, 100),
        length("rotor.pocket.post", "2 mm", "Centre post", "b_p",
               "Width of the iron between the two pockets of a pole.", 0.1, 500),
        length("rotor.pocket.corner_radius", "1.5 mm", "Pocket corner radius", "r_p",
               "Radius of the pockets' corners; half the magnet's thickness rounds the ends entirely.", 0.05,
               100),
        whole("rotor.magnet.segments", "1", "Axial segments", "",
              "Pieces insulated from each other that each magnet is cut into along the stack.", 1, 1000),
        material("rotor.magnet.grade", "NdFeB 310/130", "Magnet grade", "Grade of the magnets.",
                 MaterialKind::Magnet),
        quantity("rotor.magnet.temperature", "degC", "20 degC", "Magnet temperature", "ϑ_m",
                 "Working temperature of the magnets.", -200, 400),
        whole("winding.phases", "3", "Phases", "m", "Number of phases.", 3, 3),
        whole("winding.layers", "2", "Layers", "", "Coil sides in a slot: one or two.", 1, 2),
        or_auto(whole("winding.span", "auto", "Coil span", "y",
                      "Slots between the two sides of a coil; auto: nearest to a pole pitch.", 1, 200)),
        whole("winding.turns", "20", "Turns a coil", "N", "Turns of one coil.", 1, 10000),
        whole("winding.paths", "1", "Parallel paths", "a", "Parallel paths of each phase.", 1, 100),
        choice("winding.connection", "star", "Connection", "Star or delta."),
        material("winding.conductor.material", "copper", "Conductor", "Material of the wire.",
                 MaterialKind::Conductor),
        or_auto(length("winding.conductor.diameter", "auto", "Strand diameter", "d_w",
                       "Bare diameter of one strand; auto: as thick as the fill factor allows.", 0.01, 20)),
        whole("winding.conductor.strands", "1", "Strands in hand", "",
              "Strands wound together as one conductor.", 1, 1000),
        number("winding.fill_factor", "0.4", "Fill factor", "k_Cu",
               "Copper area over slot area, used where the strand diameter is auto.", 0.01, 0.9),
        quantity("winding.temperature", "degC", "20 degC", "Winding temperature", "ϑ_w",
                 "Working temperature of the winding.", -200, 400),
        length("winding.overhang", "5 mm", "Overhang", "",
               "Straight length of the coil beyond the stack at each end.", 0, 500),
        quantity("machine.friction_torque", "N.m", "0 N.m", "Bearing friction", "M_f",
                 "Torque of bearings and seals, the same at every speed.", 0, 10000),
        quantity("rating.speed", "rpm", "1500 rpm", "Rated speed", "n", "Rated speed of the shaft.", 0, 500000),
        quantity("rating.current", "A", "10 A", "Rated current", "Î", "Rated phase current, peak value.", 0,
                 100000),
        quantity("rating.advance", "deg", "0 deg", "Advance angle", "γ",
                 "Electrical angle of the current from +q towards -d.", -180, 180),
        quantity("rating.dc_voltage", "V", "48 V", "DC voltage", "U_dc", "Voltage of the inverter's DC link.",
                 0, 100000),
        quantity("rating.max_current", "A", "20 A", "Largest current", "Î_max",
                 "Largest phase current, peak value.", 0, 100000),
        quantity("rating.max_speed", "rpm", "3000 rpm", "Largest speed", "n_max", "Largest speed of the shaft.",
                 0, 500000),
    };
}

int edit_distance(std::string_view a, std::string_view b) { // Levenshtein 1966
    std::vector<int> row(b.size() + 1);
    std::iota(row.begin(), row.end(), 0);
    for (std::size_t i = 1; i <= a.size(); ++i) {
        int diagonal = row[0];
        row[0] = int(i);
        for (std::size_t j = 1; j <= b.size(); ++j) {
            const int above = row[j];
            row[j] = std::min({row[j] + 1, row[j - 1] + 1, diagonal + (a[i - 1] != b[j - 1])});
            diagonal = above;
        }
    }
    return row[b.size()];
}

} // namespace

Dimension Parameter::dimension() const {
    return unit.empty() ? dimension::none : find_unit(unit)->dimension;
}

std::vector<std::string> Parameter::choices() const {
    if (path == "stator.slot.kind") return slot_kind_names();
    if (path == "rotor.kind") return rotor_kind_names();
    if (path == "machine.topology") return {"inner-rotor"};
    if (path == "rotor.magnet.magnetisation") return {"radial", "parallel"};
    if (path == "winding.connection") return {"star", "delta"};
    return {};
}

const std::vector<Parameter>& parameters() {
    static const std::vector<Parameter> table = make_table();
    return table;
}

const Parameter* find_parameter(std::string_view path) {
    const auto& table = parameters();
    const auto found =
        std::find_if(table.begin(), table.end(), [&](const Parameter& p) { return p.path == path; });
    return found == table.end() ? nullptr : &*found;
}

std::vector<std::string> similar_paths(std::string_view path) {
    std::vector<std::pair<int, std::string>> near;
    for (const Parameter& p : parameters()) {
        const int cost = edit_distance(path, p.path);
        if (cost <= 4) near.emplace_back(cost, p.path);
    }
    std::sort(near.begin(), near.end());
    std::vector<std::string> names;
    for (auto& [cost, name] : near) names.push_back(name);
    return names;
}

} // namespace mavlo
