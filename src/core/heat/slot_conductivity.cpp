#include "heat/slot_conductivity.h"

#include "heat/wire_bundle.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// Circles of one conductor in another (Maxwell-Garnett in two dimensions).
double with_circles(double host, double circles, double share) {
    const double tau = share * (circles - host) / (circles + host);
    return host * (1 + tau) / (1 - tau);
}

double filled_room(const CoolingData& c) {
    const double air = dry_air(353.15).conductivity, resin = c.resin.thermal_conductivity;
    return c.impregnated >= 0.5 ? with_circles(resin, air, 1 - c.impregnated)
                                : with_circles(air, resin, c.impregnated);
}

double across_round(const ConductorSize& size, double fill, double wire, double room, const CoolingData& c) {
    constexpr double nearly_touching = 0.9;
    WireBundle bundle;
    bundle.fill = std::min(fill, nearly_touching);
    bundle.wire = wire;
    bundle.resin = room;
    const double bare =
        size.shape == ConductorShape::Litz ? std::sqrt(double(size.strands)) * size.diameter : size.diameter;
    bundle.bare_radius = std::min(1.0, bare / size.outer_width);
    bundle.coat = bundle.bare_radius < 1 ? c.enamel.thermal_conductivity : 0;
    return across_wires(bundle, WireArray::Hexagonal);
}

/// Strips of copper in insulation, share by share of the width.
double across_strips(double fill, double wire, double room) {
    const double side = std::sqrt(std::min(fill, 0.98));
    return (1 - side) * room + side / (side / wire + (1 - side) / room);
}

} // namespace

SlotHeat slot_heat(const Machine& m, const CoolingData& c) {
    SlotHeat out;
    const ConductorSize size = size_conductor(m.winding.conductor);
    const double turns = m.winding.most_turns_in_slot(), room = std::max(m.winding.conductor.free_area, 1e-9),
                 copper = m.winding.conductor_material.thermal_conductivity > 0
                              ? m.winding.conductor_material.thermal_conductivity
                              : 390;
    out.copper_area = size.area * turns;
    const double packed = size.is_round() ? 3.14159265358979 / 4 * size.outer_width * size.outer_width
                                          : size.outer_width * size.outer_height;
    out.fill = packed * size.packed_a_turn() * turns / room;
    const double between = filled_room(c);
    out.conductivity = size.is_round() ? across_round(size, out.fill, copper, between, c)
                                       : across_strips(out.copper_area / room, copper, between);
    const double share = std::min(0.95, out.copper_area / std::max(m.winding.slot_area, room));
    const auto heat = [](const Material& material, double density, double specific) {
        return (material.density > 0 ? material.density : density) *
               (material.specific_heat > 0 ? material.specific_heat : specific);
    };
    out.capacity = share * heat(m.winding.conductor_material, 8900, 385) +
                   (1 - share) * c.impregnated * heat(c.resin, 1200, 1400);
    return out;
}

double liner_resistance(const Machine& m, const CoolingData& c) {
    const double liner = c.liner.thermal_conductivity > 0 ? m.winding.liner / c.liner.thermal_conductivity : 0;
    return liner + c.liner_contact / dry_air(353.15).conductivity;
}

} // namespace mavlo
