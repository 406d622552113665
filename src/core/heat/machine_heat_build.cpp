// The machine's heat model from its section and what lies round it.

#include "heat/film.h"
#include "heat/heat_groups.h"
#include "heat/long_section.h"
#include "heat/machine_heat.h"
#include "heat/slot_conductivity.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double steel_conductivity = 25, steel_heat = 480, steel_density = 7700;

double or_standard(double value, double standard) {
    return value > 0 ? value : standard;
}

double capacity_of(const Material& material, double density, double heat) {
    return or_standard(material.density, density) * or_standard(material.specific_heat, heat);
}

double still_air() {
    return dry_air(353.15).conductivity;
}

} // namespace

/// What each element of a body is.
std::vector<int> MachineHeatModel::groups_of(int body) const {
    const bool rotor = m_model->is_rotor(body), outer = m.section.bodies[std::size_t(body)].tile.outside();
    const double low = std::min(m.rotor_radius(), m.stator_radius()),
                 high = std::max(m.rotor_radius(), m.stator_radius()),
                 edge = m.wound() ? m.winding.slot_bottom : 0;
    const auto& regions = m.section.bodies[std::size_t(body)].tile.regions;
    std::vector<int> group;
    const auto first = m_model->first_element[std::size_t(body)],
               end = m_model->first_element[std::size_t(body) + 1];
    for (std::size_t e = first; e < end; ++e) {
        const Part& part = m_model->part(m_model->elements[e]);
        const double radius = norm(m_model->points[std::size_t(m_model->elements[e].first)].at);
        const std::string& path = regions[std::size_t(part.region)].path;
        const bool in_gap = part.use == Use::Air && part.substance < 0 && radius > low && radius < high;
        if (in_gap)
            group.push_back(rotor ? rotor_gap : stator_gap);
        else if (rotor && (path == "rotor.shaft" || part.use == Use::Solid))
            group.push_back(path == "rotor.shaft" ? rotor_shaft : rotor_bars);
        else if (!rotor && part.use == Use::Air && path == "bore")
            group.push_back(stator_carrier);
        else if (part.use == Use::Iron && rotor)
            group.push_back(rotor_iron);
        else if (part.use == Use::Iron)
            group.push_back(edge <= 0 || (outer ? radius > edge : radius < edge) ? stator_yoke : stator_teeth);
        else if (part.use == Use::Magnet)
            group.push_back(rotor_magnets);
        else if (part.use == Use::Conductor)
            group.push_back(stator_winding);
        else
            group.push_back(rotor ? rotor_air : stator_air);
    }
    return group;
}

/// Of the first element of a group; null: there is none, or it is air.
const Substance* MachineHeatModel::substance_of(int body, const std::vector<int>& groups, int group) const {
    for (std::size_t e = 0; e < groups.size(); ++e)
        if (groups[e] == group)
            return m_model->substance(
                m_model->part(m_model->elements[m_model->first_element[std::size_t(body)] + e]));
    return nullptr;
}

HeatGroup MachineHeatModel::steel_group(const char* name, const Substance* steel) {
    const double stacking = steel ? steel->stacking : 1,
                 known = steel ? steel->material.thermal_conductivity : 0,
                 k = stacking * or_standard(known, steel_conductivity);
    if (steel)
        note(known > 0, fmt::format("What {} conducts of heat is not known; {:.0f} W/(m·K) are taken.",
                                    steel->material.name, steel_conductivity));
    const double across = steel ? steel->material.stack_conductivity(stacking) : 0;
    return {name,
            steel_domain,
            k,
            k,
            steel ? stacking * capacity_of(steel->material, steel_density, steel_heat) : 0,
            across};
}

void MachineHeatModel::add_section(int body) {
    const bool rotor = m_model->is_rotor(body);
    std::vector<int> of = groups_of(body);
    const auto substance = [&](int group) { return substance_of(body, of, group); };
    const auto conductor = [&](const char* name, int domain, int group, double k, double density, double heat) {
        const Substance* own = substance(group);
        const Material material = own ? own->material : Material{};
        const double conductivity = or_standard(material.thermal_conductivity, k);
        return HeatGroup{name, domain, conductivity, conductivity, capacity_of(material, density, heat)};
    };
    const double k = still_air();
    const auto shaft_group = [&] {
        const double along = m_cooling.shaft.thermal_conductivity;
        return HeatGroup{"shaft", core_domain, along, along,
                         capacity_of(m_cooling.shaft, steel_density, steel_heat)};
    };
    const HeatGroup air{rotor ? "rotor's air" : "slot mouths", steel_domain, k, k, 1100},
        gap{"gap's air", steel_domain, k, k, 1100};
    std::vector<HeatGroup> list;
    if (rotor) {
        const bool bars = m.rings.has_value();
        list = {steel_group("rotor steel", substance(rotor_iron)),
                conductor("magnets", magnet_domain, rotor_magnets, 8, 7500, 450),
                conductor(bars ? "bars" : "shell", bar_domain, rotor_bars, 200, 2700, 900),
                air,
                gap,
                shaft_group()};
    } else {
        const SlotHeat slot = m.wound() ? slot_heat(m, m_cooling) : SlotHeat{};
        const double wires = or_standard(slot.conductivity, 1),
                     carrier = or_standard(m_cooling.housing_material.thermal_conductivity, 150);
        list = {steel_group("stator teeth", substance(stator_teeth)),
                steel_group("stator yoke", substance(stator_yoke)),
                {"winding", winding_domain, wires, wires, slot.capacity},
                air,
                gap,
                {"carrier", core_domain, carrier, carrier, capacity_of(m_cooling.housing_material, 2700, 900)}};
    }
    m_sections.push_back(std::make_unique<SectionHeat>(m_system, m_model->meshes[std::size_t(body)],
                                                       std::move(list), std::move(of),
                                                       m_model->depth * m_model->sector.count));
}

void MachineHeatModel::groups() {
    const auto add = [&](HeatPart part, const SectionHeat& section, int group) {
        add_part(part, section.mean_of(group),
                 section.volume(group) * section.groups()[std::size_t(group)].capacity);
    };
    add(HeatPart::Teeth, stator(), stator_teeth);
    add(HeatPart::Yoke, stator(), stator_yoke);
    add(HeatPart::Winding, stator(), stator_winding);
    add(HeatPart::Rotor, rotor(), rotor_iron);
    add(HeatPart::Magnets, rotor(), rotor_magnets);
    add(HeatPart::Bars, rotor(), rotor_bars);
    add(HeatPart::Shaft, rotor(), rotor_shaft);
}

void MachineHeatModel::contacts() {
    auto &s = *m_sections[std::size_t(1 - m_model->rotor)], &r = *m_sections[std::size_t(m_model->rotor)];
    const double air = still_air(), least = 1e-9; // m2 K/W, of what touches
    if (m.wound())
        s.contact("winding to stack", steel_domain, winding_domain,
                  1 / std::max(least, liner_resistance(m, m_cooling)));
    r.contact("magnets to rotor", steel_domain, magnet_domain,
              1 / std::max(least, m_cooling.magnet_contact / air));
    r.contact("cage to rotor", steel_domain, bar_domain, 1 / std::max(least, m_cooling.bar_contact / air));
    r.contact("rotor to shaft", steel_domain, core_domain, 1 / std::max(least, m_cooling.shaft_contact / air));
    r.contact("magnets to cage", magnet_domain, bar_domain,
              1 / std::max(least, m_cooling.magnet_contact / air));
}

/// The layers of air on both sides conduct as the turning gap does; between their circles it stands as two
/// halves of a resistance, so that both sides meet in a mean over the turn.
void MachineHeatModel::gap() {
    const GapShape shape{std::min(m.rotor_radius(), m.stator_radius()),
                         std::max(m.rotor_radius(), m.stator_radius())};
    const Fluid air = dry_air(353.15, air_pressure(m_cooling.altitude));
    const double area = 2 * pi * m.middle_of_gap() * m.stack_length;
    const auto conductivity = [=, given = m_cooling.gap](double speed) {
        return shape.width() * (given ? 1 / (*given * area) : gap_by_taylor(shape, speed, air).coefficient);
    };
    const double inner = m.section.inner().tile.gap_radius, outer = m.section.outer().tile.gap_radius,
                 half = std::log(outer / inner) / 2; // of a resistance, per metre of circle's radius
    const int air_node = node(HeatPart::Gap);
    for (int body = 0; body < 2; ++body) {
        SectionHeat& section = *m_sections[std::size_t(body)];
        const bool rotor = m_model->is_rotor(body);
        turning(section.conduction()[std::size_t(rotor ? rotor_gap : stator_gap)], conductivity);
        const double radius = m.section.bodies[std::size_t(body)].tile.gap_radius;
        turning(section.film(rotor ? "rotor to gap" : "stator to gap", radius, air_node, 1),
                [=](double speed) { return conductivity(speed) / (radius * half); });
    }
}

/// End windings as rings of the slots' depth, half at either end.
void MachineHeatModel::ends() {
    const int air = node(HeatPart::InnerAir);
    m_parts.at(HeatPart::InnerAir).capacity = 1; // of a litre or two of air
    const auto stirred = [rim = m.rotor_radius()](double speed) { return stirred_air(speed * rim); };
    if (m.wound()) {
        const Conductor conductor = machine_conductor(m);
        const double stack = m.stack_length, end_length = std::max(0.0, conductor.turn_length / 2 - stack);
        m_slot_share = stack / (stack + end_length);
        m_end_height = end_winding_height(m);
        const double face = m.stator_radius(), bottom = m.winding.slot_bottom, depth = std::abs(bottom - face),
                     middle = (face + bottom) / 2;
        const SlotHeat slot = slot_heat(m, m_cooling);
        const int ring = node(HeatPart::Ends);
        m_parts.at(HeatPart::Ends).capacity =
            conductor.copper_volume * (1 - m_slot_share) * capacity_of(m.winding.conductor_material, 8900, 385);
        const double surface = 2 * (2 * pi * middle * depth + 2 * pi * (face + bottom) * m_end_height);
        turning(m_system.join("end windings to inner air", ring, air, 1),
                [=](double speed) { return stirred(speed) * surface; });
        // Both lie on the ends' circle; from the mean of a bar that heats evenly to its end a third of its
        // length counts.
        const double along = m.winding.conductor_material.thermal_conductivity * slot.copper_area * m.slots * 2,
                     length = (stack / 2 + end_length / 2) / 3;
        const NodeShares mean = stator().mean_of(stator_winding);
        if (along > 0 && end_length > 0) {
            std::vector<HeatSystem::Entry> shape;
            // (mean - T)^2 of shares is dense; the end is joined to every place of the slots by its share
            // instead.
            for (const auto& [place, share] : mean) {
                shape.push_back({std::max(place, ring), std::min(place, ring), -share});
                shape.push_back({place, place, share});
                shape.push_back({ring, ring, share});
            }
            m_system.add_term("winding along the copper", std::move(shape), along / std::max(length, 1e-4));
        }
        if (m_cooling.end_filling.thermal_conductivity > 0 && !m.outer_rotor() &&
            m_cooling.housing != HousingKind::None) {
            const double wall = m.section.outer_radius(), far = std::max(face, bottom);
            m_system.join("end windings to housing", ring, node(HeatPart::Housing),
                          2 * pi * m_cooling.end_filling.thermal_conductivity * 2 * m_end_height /
                              std::log(std::max(1.02, wall / far)));
        }
    }
    if (m_length <= 0) m_length = housing_length(m, m_cooling);
    auto &s = *m_sections[std::size_t(1 - m_model->rotor)], &r = *m_sections[std::size_t(m_model->rotor)];
    // From the mean of a stack that heats evenly to its ends a third of its half counts.
    const auto faces = [&](SectionHeat& section, const char* name, int group) {
        const HeatGroup& own = section.groups()[std::size_t(group)];
        const double within = m.stack_length / 6 / (own.axial > 0 ? own.axial : own.radial);
        turning(section.end_faces(name, group, air, m_model->depth, 1),
                [=](double speed) { return 1 / (1 / stirred(speed) + within); });
    };
    for (int group : {stator_yoke, stator_teeth}) faces(s, "stator's ends to inner air", group);
    for (int group : {rotor_iron, rotor_magnets}) faces(r, "rotor's ends to inner air", group);
    faces(r, "cage's ends to inner air", rotor_bars);
}

/// Housing, shields and what cools them, of a rotor that turns inside.
void MachineHeatModel::outside() {
    auto& s = *m_sections[std::size_t(1 - m_model->rotor)];
    const double radius = m.section.outer_radius(), stack = m.stack_length;
    const int air = node(HeatPart::InnerAir);
    if (m_cooling.housing == HousingKind::None) {
        m_outer_diameter = 2 * radius;
        m_length = stack;
        m_terms["stack to ambient"] = s.film("stack to ambient", radius, beyond("stack"), 1);
        const double faces = 2 * pi * radius * radius;
        m_terms["inner air to ambient"] = m_system.join("inner air to ambient", air, m_ambient, faces * 10);
        return;
    }
    const int housing = node(HeatPart::Housing), shields = node(HeatPart::Shields);
    const double contact = std::max(1e-9, m_cooling.stack_contact / still_air());
    s.film("stack to housing", radius, housing, 1 / contact);
    m_outer_diameter = 2 * (radius + m_cooling.wall);
    const double k = m_cooling.housing_material.thermal_conductivity,
                 heat = capacity_of(m_cooling.housing_material, 2700, 900);
    const double wall = pi * (m_outer_diameter - m_cooling.wall) * m_cooling.wall,
                 ribs = m_cooling.ribs * m_cooling.rib_height * m_cooling.rib_thickness,
                 plate = pi * m_outer_diameter * m_outer_diameter / 4;
    m_parts.at(HeatPart::Housing).capacity = heat * m_length * (wall + ribs);
    m_parts.at(HeatPart::Shields).capacity = heat * 2 * plate * m_cooling.shield;
    // Half the shields' breadth and a quarter of the tube lie between their means; the spigot touches as the
    // stack does.
    const double joint = contact / (pi * 2 * radius * m_cooling.shield), tube = m_length / 4 / (k * wall),
                 breadth = 1 / (4 * pi * k * m_cooling.shield);
    m_system.join("housing to end shields", housing, shields, 2 / (joint + tube + breadth));
    const auto stirred = [rim = m.rotor_radius()](double wetted) {
        return [=](double speed) { return stirred_air(speed * rim) * wetted; };
    };
    turning(m_system.join("inner air to housing", air, housing, 1),
            stirred(2 * pi * radius * std::max(0.0, m_length - stack)));
    turning(m_system.join("inner air to end shields", air, shields, 1), stirred(2 * pi * radius * radius));
    if (m_inlet >= 0) {
        const int flow = node(HeatPart::Coolant);
        m_terms["housing to coolant"] = m_system.join("housing to coolant", housing, flow, 1);
        const auto fluid = coolant(m_cooling.coolant, m_cooling.inlet);
        // The mean of inlet and outlet stands for the coolant.
        m_system.join("coolant carries away", flow, m_inlet,
                      2 * fluid->density * fluid->specific_heat * m_cooling.flow);
        m_parts.at(HeatPart::Coolant).capacity =
            fluid->density * fluid->specific_heat * m_cooling.channel_width * m_cooling.channel_height *
            m_cooling.channels * (m_cooling.spiral ? pi * m_outer_diameter : m_length);
    }
    m_terms["housing to ambient"] = m_system.join("housing to ambient", housing, beyond("housing"), 1);
    m_terms["end shields to ambient"] =
        m_system.join("end shields to ambient", shields, beyond("end_shields"), 1);
    if (m_cooling.wall_resistance)
        m_system.join("housing to the wall", housing, m_ambient, 1 / *m_cooling.wall_resistance);
}

/// The stator sits on a carrier, the rotor's outside is in the open.
void MachineHeatModel::outer_rotor() {
    auto &s = *m_sections[std::size_t(1 - m_model->rotor)], &r = *m_sections[std::size_t(m_model->rotor)];
    const double radius = m.section.outer_radius();
    const int air = node(HeatPart::InnerAir), carrier = node(HeatPart::Housing);
    m_outer_diameter = 2 * radius;
    m_length = m.stack_length;
    const double contact = std::max(1e-9, m_cooling.stack_contact / still_air()),
                 own = s.volume(stator_carrier) / m.stack_length;
    s.contact("stack to carrier", steel_domain, core_domain, 1 / contact);
    if (own > 0) // from its middle to the plate that holds it
        s.end_faces("carrier to its plate", stator_carrier, carrier, m_model->depth,
                    s.groups()[std::size_t(stator_carrier)].radial / (m.stack_length / 2) / 2);
    const double plate = pi * radius * radius, k = m_cooling.housing_material.thermal_conductivity;
    m_parts.at(HeatPart::Housing).capacity =
        capacity_of(m_cooling.housing_material, 2700, 900) * plate * m_cooling.shield;
    m_terms["rotor to ambient"] = r.film("rotor to ambient", radius, beyond("rotor"), 1);
    m_terms["carrier to ambient"] = m_system.join("carrier to ambient", carrier, beyond("carrier"), 1);
    turning(m_system.join("inner air to carrier", air, carrier, 1),
            [plate, rim = m.rotor_radius()](double speed) { return stirred_air(speed * rim) * plate; });
    m_terms["inner air to ambient"] = m_system.join("inner air to ambient", air, m_ambient, 5 * plate);
    note(k > 0, "What carries the stator is taken as aluminium.");
    if (m_cooling.wall_resistance)
        m_system.join("carrier to the wall", carrier, m_ambient, 1 / *m_cooling.wall_resistance);
}

/// Bearings by their mean diameter, and what of the shaft turns in the open as a pin that cools along its way.
void MachineHeatModel::shaft() {
    auto& r = *m_sections[std::size_t(m_model->rotor)];
    const double section = r.volume(rotor_shaft) / m.stack_length;
    if (m.outer_rotor() || section <= 0) return;
    const double radius = std::sqrt(section / pi), way = (m_length - m.stack_length) / 2 + m.stack_length / 4,
                 k = m_cooling.shaft.thermal_conductivity,
                 capacity = capacity_of(m_cooling.shaft, steel_density, steel_heat);
    const Bearing bearing = bearing_of(m_cooling, radius);
    const int bearings = node(HeatPart::Bearings);
    m_parts.at(HeatPart::Shaft).capacity = capacity * section * (m_length + m_cooling.free_shaft);
    const auto resistance = [d = bearing.mean_diameter](double speed) {
        return ball_bearing(d, speed).resistance;
    };
    note(ball_bearing(bearing.mean_diameter, m_speed).in_range,
         "The bearings lie outside what their resistance's formula was made for (mean diameter below 120 mm, "
         "moderate speed).");
    m_parts.at(HeatPart::Bearings).capacity = capacity * bearing.steel_volume(radius);
    // Two of them, each half its resistance to either side.
    turning(r.end_faces("shaft to bearings", rotor_shaft, bearings, m_model->depth, 1), [=](double speed) {
        return 1 / (way / (k * section) / 2 + resistance(speed) / 4) / (2 * section);
    });
    const int beyond = m_parts.contains(HeatPart::Shields) ? node(HeatPart::Shields) : m_ambient;
    // What was measured to ambient holds the bearings' way, too.
    const bool held_apart = beyond == m_ambient && m_cooling.housing_to_ambient;
    turning(m_system.join(beyond == m_ambient ? "bearings to ambient" : "bearings to end shields", bearings,
                          beyond, 1),
            [=](double speed) { return held_apart ? 1e-6 : 4 / resistance(speed); });
    if (m_cooling.free_shaft > 0 && !m_cooling.housing_to_ambient)
        turning(r.end_faces("shaft's end to ambient", rotor_shaft, m_ambient, m_model->depth, 1),
                [=, length = m_cooling.free_shaft, ambient = m_cooling.ambient](double speed) {
                    return 1 / (way / (k * section) + 1 / turning_pin(radius, length, k, speed, ambient)) /
                           (2 * section);
                });
}

} // namespace mavlo
