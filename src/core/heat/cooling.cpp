#include "heat/cooling.h"

#include "quantity/quantity.h"

#include <array>
#include <fmt/format.h>

namespace mavlo {
namespace {

/// A resistance that may be given, and what the model calls it in one machine or another.
struct Measurable {
    const char* path;
    std::array<const char*, 2> terms;
};
constexpr Measurable measurable[] = {
    {"thermal.stack_to_housing", {"stack to housing", "stack to carrier"}},
    {"thermal.winding_to_stack", {"winding to stack"}},
    {"thermal.winding_to_ends", {"winding along the copper"}},
    {"thermal.ends_to_air", {"end windings to inner air"}},
    {"thermal.ends_to_housing", {"end windings to housing"}},
    {"thermal.stator_to_air", {"stator's ends to inner air"}},
    {"thermal.magnets_to_rotor", {"magnets to rotor"}},
    {"thermal.cage_to_rotor", {"cage to rotor"}},
    {"thermal.rotor_to_air", {"rotor's ends to inner air"}},
    {"thermal.cage_to_air", {"cage's ends to inner air"}},
    {"thermal.rotor_to_shaft", {"rotor to shaft"}},
    {"thermal.shaft_to_bearings", {"shaft to bearings"}},
    {"thermal.bearings_to_shields", {"bearings to end shields", "bearings to ambient"}},
    {"thermal.housing_to_shields", {"housing to end shields"}},
    {"thermal.air_to_housing", {"inner air to housing"}},
    {"thermal.air_to_shields", {"inner air to end shields", "inner air to carrier"}},
    {"thermal.shields_to_ambient", {"end shields to ambient"}},
    {"thermal.housing_to_coolant", {"housing to coolant"}},
};

class Reading {
  public:
    Reading(const Machine& machine, const MaterialLibrary& own)
        : m(machine)
        , m_values(machine.values)
        , m_own(own) {}

    Result<CoolingData> run() {
        housing();
        cooling();
        shaft();
        contacts();
        insulation();
        measured();
        nonsense();
        if (!m_problems.empty()) return m_problems;
        return std::move(m_out);
    }

  private:
    double number(const char* path) const { return m_values.has(path) ? m_values.number(path) : 0; }
    std::optional<double> unless_auto(const char* path) const {
        return !m_values.has(path) || m_values.is_auto(path) ? std::nullopt
                                                             : std::optional(m_values.number(path));
    }

    Material material(const char* path, const std::vector<MaterialKind>& kinds) {
        if (!m_values.has_word(path) || is_air(m_values.word(path))) return {};
        const auto found = find_material(m_values.word(path), kinds, m_own);
        if (!found) {
            m_problems.push_back({path, found.problems().front().sentence});
            return {};
        }
        if (found->thermal_conductivity <= 0)
            m_problems.push_back(
                {path, fmt::format("What \"{}\" conducts of heat is not known; give its thermal conductivity.",
                                   found->name)});
        return *found;
    }

    void housing() {
        const std::string kind = m_values.has_word("housing.kind") ? m_values.word("housing.kind") : "none";
        m_out.housing = kind == "none"     ? HousingKind::None
                        : kind == "ribbed" ? HousingKind::Ribbed
                        : kind == "jacket" ? HousingKind::Jacket
                                           : HousingKind::Round;
        m_out.wall = number("housing.thickness");
        m_out.shield = number("housing.shield_thickness");
        m_out.length = unless_auto("housing.length").value_or(0);
        m_out.housing_material = material("housing.material", {MaterialKind::Conductor, MaterialKind::Steel});
        m_out.ribs = m_values.has("housing.ribs") ? m_values.whole("housing.ribs") : 0;
        m_out.rib_height = number("housing.rib_height");
        m_out.rib_thickness = number("housing.rib_thickness");
        m_out.spiral = !m_values.has_word("housing.channel") || m_values.word("housing.channel") == "spiral";
        m_out.channels = m_values.has("housing.channels") ? m_values.whole("housing.channels") : 1;
        m_out.channel_width = number("housing.channel_width");
        m_out.channel_height = number("housing.channel_height");
        m_out.emissivity = number("housing.emissivity");
    }

    void cooling() {
        const std::string& kind = m_values.word("cooling.kind");
        m_out.kind = kind == "fan"     ? CoolingKind::Fan
                     : kind == "flow"  ? CoolingKind::Flow
                     : kind == "given" ? CoolingKind::Given
                                       : CoolingKind::StillAir;
        m_out.ambient = number("cooling.ambient");
        m_out.altitude = number("cooling.altitude");
        m_out.coefficient = number("cooling.coefficient");
        m_out.own_fan = m_values.has_word("cooling.fan") && m_values.word("cooling.fan") == "own";
        m_out.air_speed = number("cooling.air_speed");
        if (m_values.has_word("cooling.coolant")) m_out.coolant = m_values.word("cooling.coolant");
        m_out.flow = number("cooling.flow");
        m_out.inlet = number("cooling.inlet");
    }

    void shaft() {
        m_out.shaft = material("shaft.material", {MaterialKind::Steel, MaterialKind::Conductor});
        m_out.free_shaft = number("shaft.free_length");
        m_out.bearing_diameter = unless_auto("bearing.mean_diameter").value_or(0);
        m_out.bearing_width = unless_auto("bearing.width").value_or(0);
    }

    void contacts() {
        m_out.stack_contact = number("thermal.stack_contact");
        m_out.shaft_contact = number("thermal.shaft_contact");
        m_out.magnet_contact = number("thermal.magnet_contact");
        m_out.bar_contact = number("thermal.bar_contact");
        m_out.liner_contact = number("thermal.liner_contact");
        m_out.wall_resistance = unless_auto("thermal.wall_resistance");
    }

    void insulation() {
        if (!m.wound()) return;
        m_out.liner = material("thermal.liner", {MaterialKind::Insulator});
        m_out.resin = material("thermal.resin", {MaterialKind::Insulator});
        m_out.enamel = material("thermal.enamel", {MaterialKind::Insulator});
        m_out.end_filling = material("thermal.end_filling", {MaterialKind::Insulator});
        m_out.impregnated = number("thermal.impregnated");
        m_out.insulation_limit = *mavlo::insulation_limit(m_values);
    }

    void measured() {
        m_out.housing_to_ambient = unless_auto("thermal.housing_to_ambient");
        m_out.gap = unless_auto("thermal.gap");
        for (const Measurable& way : measurable)
            if (const auto given = unless_auto(way.path))
                for (const char* term : way.terms)
                    if (term) m_out.measured[term] = *given;
    }

    /// What lets nothing out, or cannot be.
    void nonsense() {
        const bool other_way = m_out.wall_resistance || m_out.housing_to_ambient;
        if (m_out.kind == CoolingKind::Flow && m_out.housing != HousingKind::Jacket)
            m_problems.push_back(
                {"cooling.kind",
                 m.outer_rotor()
                     ? "A coolant flows in a jacket, and a rotor that turns outside has none; choose "
                       "air or a given coefficient."
                     : "A coolant flows in a jacket; set housing.kind to jacket."});
        if (m_out.kind == CoolingKind::Flow && m_out.flow <= 0 && !other_way)
            m_problems.push_back(
                {"cooling.flow", "A coolant that does not flow carries no heat away; give its flow."});
        if (m_out.kind == CoolingKind::Given && m_out.coefficient <= 0 && !other_way)
            m_problems.push_back(
                {"cooling.coefficient", "A coefficient of zero lets no heat out; give one above it."});
        if (m_out.housing == HousingKind::Ribbed) {
            const double around = m.section.outer_radius() + m_out.wall;
            if (m_out.ribs * m_out.rib_thickness >= 6.28 * around)
                m_problems.push_back(
                    {"housing.ribs", "The ribs leave no room between them; take fewer or thinner ones."});
        }
        if (m_out.housing != HousingKind::None && m_out.length > 0 && m_out.length <= m.stack_length)
            m_problems.push_back(
                {"housing.length", "The housing is shorter than the stack; make it longer or leave it auto."});
    }

    const Machine& m;
    const Values& m_values;
    const MaterialLibrary& m_own;
    Problems m_problems;
    CoolingData m_out;
};

} // namespace

Result<CoolingData> cooling_of(const Machine& machine, const MaterialLibrary& own) {
    if (machine.facts().axial || machine.facts().linear)
        return Problem{"machine.topology", "What warms an axial machine is not computed yet."};
    return Reading(machine, own).run();
}

std::optional<double> insulation_limit(const Values& values) {
    if (!values.has_word("thermal.insulation_class")) return {};
    return parse_quantity(values.word("thermal.insulation_class") + " degC")->si;
}

} // namespace mavlo
