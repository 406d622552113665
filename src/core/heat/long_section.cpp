#include "heat/long_section.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

using Kind = LongSection::Kind;

class Drawing {
  public:
    Drawing(const Machine& machine, const CoolingData& cooling)
        : m(machine)
        , c(cooling)
        , m_half(m.stack_length / 2)
        , m_outer(m.section.outer_radius())
        , m_ends(end_winding_height(m)) {}

    LongSection run() {
        if (m.outer_rotor())
            outer_rotor();
        else
            inner_rotor();
        dimension("machine.stack_length", -m_half, 0, m_half, 0, 2);
        for (const LongSection::Body& b : m_out.bodies) {
            m_out.half_length = std::max({m_out.half_length, std::abs(b.z), std::abs(b.z + b.length)});
            m_out.radius = std::max(m_out.radius, b.r + b.height);
        }
        return std::move(m_out);
    }

  private:
    double number(const char* path) const { return m.values.has(path) ? m.values.number(path) : 0; }
    double shaft_radius() const {
        const char* path = "rotor.shaft_diameter";
        return m.values.has(path) ? m.values.number(path) / 2 : 0.3 * m.rotor_radius();
    }

    void body(Kind kind, double z, double r, double length, double height, bool both_ends = false) {
        if (length > 0 && height > 0) m_out.bodies.push_back({kind, z, r, length, height, both_ends});
    }

    void dimension(const char* path, double z0, double r0, double z1, double r1, double factor) {
        m_out.dimensions.push_back({path, z0, r0, z1, r1, std::hypot(z1 - z0, r1 - r0), factor});
    }
    /// Drawn as the radius from the axis.
    void diameter(const char* path, double z, double radius) {
        m_out.dimensions.push_back({path, z, 0, z, radius, 2 * radius, 2});
    }

    void stack(double low, double high, Kind kind) { body(kind, -m_half, low, 2 * m_half, high - low); }

    void stator(double face, double back) {
        stack(std::min(face, back), std::max(face, back), Kind::Steel);
        if (!m.wound()) return;
        const double bottom = m.winding.slot_bottom, low = std::min(face, bottom),
                     high = std::max(face, bottom);
        stack(low, high, Kind::Winding);
        body(Kind::Ends, m_half, low, m_ends, high - low, true);
    }

    void rotor(double low, double high) {
        stack(low, high, Kind::Rotor);
        const Kind kind = m.facts().cage ? Kind::Bars : Kind::Magnets;
        if (!m.facts().magnets && !m.facts().cage) return;
        const double depth = std::min(0.3 * (high - low), 0.12 * m_outer);
        if (m.outer_rotor())
            stack(low, low + depth, kind);
        else
            stack(high - depth, high, kind);
        if (kind == Kind::Bars && m.values.has("rotor.ring.thickness"))
            body(Kind::Bars, m_half + number("rotor.ring.distance"), high - depth,
                 number("rotor.ring.thickness"), depth, true);
        if (kind == Kind::Bars)
            dimension("rotor.ring.thickness", m_half + number("rotor.ring.distance"), high - depth / 2,
                      m_half + number("rotor.ring.distance") + number("rotor.ring.thickness"), high - depth / 2,
                      1);
    }

    void inner_rotor() {
        const double shaft = shaft_radius(), length = housing_length(m, c);
        const bool housed = c.housing != HousingKind::None;
        const double beyond = housed ? length / 2 : m_half + m_ends;
        const double free = c.free_shaft > 0 ? c.free_shaft : 0.3 * m_outer;
        body(Kind::Shaft, -beyond - 0.1 * m_outer, 0, 2 * beyond + 0.1 * m_outer + free, shaft);
        if (c.free_shaft > 0) dimension("shaft.free_length", beyond, shaft / 2, beyond + free, shaft / 2, 1);
        if (m.values.has("rotor.shaft_diameter") && shaft > 0)
            diameter("rotor.shaft_diameter", -beyond - 0.07 * m_outer, shaft);
        rotor(shaft, m.rotor_radius());
        stator(m.stator_radius(), m_outer);
        if (!housed) return;
        const double seat = shaft + bearing_of(c, shaft).height(shaft);
        body(Kind::Shield, length / 2 - c.shield, seat, c.shield, m_outer - seat, true);
        bearings(shaft, length);
        if (c.kind == CoolingKind::Fan) fan(shaft, length);
        body(Kind::Housing, -length / 2, m_outer, length, c.wall);
        const double top = m_outer + c.wall;
        dimension("housing.length", -length / 2, top, length / 2, top, 2);
        dimension("housing.shield_thickness", length / 2 - c.shield, m_outer / 2 + shaft, length / 2,
                  m_outer / 2 + shaft, 1);
        const double left = -length / 2 - 0.04 * length; // clear of what lies in the wall
        dimension("housing.thickness", left, m_outer, left, top, 1);
        if (c.housing == HousingKind::Ribbed) {
            body(Kind::Rib, -length / 2, top, length, c.rib_height);
            dimension("housing.rib_height", -0.3 * length, top, -0.3 * length, top + c.rib_height, 1);
        }
        if (c.housing == HousingKind::Jacket) jacket(length);
        if (m.wound() && m.values.has("winding.overhang"))
            dimension("winding.overhang", m_half, (m.stator_radius() + m.winding.slot_bottom) / 2,
                      m_half + m.winding.overhang, (m.stator_radius() + m.winding.slot_bottom) / 2, 1);
    }

    void bearings(double shaft, double length) {
        if (shaft <= 0) return;
        const Bearing b = bearing_of(c, shaft);
        const double z = length / 2 - b.width, high = b.height(shaft), middle = b.mean_diameter / 2;
        body(Kind::Bearing, z, shaft, b.width, high, true);
        dimension("bearing.width", -length / 2, shaft + high, -z, shaft + high, 1);
        diameter("bearing.mean_diameter", length / 2 - b.width / 2, middle);
    }

    /// Behind the shield that the shaft does not leave by; with a drive of its own as well.
    void fan(double shaft, double length) {
        const double reach = 0.8 * m_outer, wide = 0.12 * m_outer;
        body(Kind::Fan, -length / 2 - 1.3 * wide, shaft, wide, reach - shaft);
    }

    /// A spiral's turns side by side, or one of the channels along the stack.
    void jacket(double length) {
        const double r = m_outer + std::max(0.0, (c.wall - c.channel_height) / 2);
        const double room = length - 2 * c.shield;
        if (!c.spiral) {
            body(Kind::Channel, -room / 2, r, room, c.channel_height);
        } else {
            const double pitch = room / c.channels;
            for (int k = 0; k < c.channels; ++k)
                body(Kind::Channel, -room / 2 + (k + 0.5) * pitch - c.channel_width / 2, r, c.channel_width,
                     c.channel_height);
            const double z = -room / 2 + 0.5 * pitch - c.channel_width / 2;
            dimension("housing.channel_width", z, r, z + c.channel_width, r, 1);
        }
        const double at = c.spiral ? 0.3 * length : 0.2 * length;
        dimension("housing.channel_height", at, r, at, r + c.channel_height, 1);
    }

    void outer_rotor() {
        const double face = m.stator_radius(), hole = m.section.inner().tile.far_radius;
        body(Kind::Housing, -m_half, 0, 2 * m_half, hole);
        stator(face, hole);
        rotor(m.rotor_radius(), m_outer);
        body(Kind::Shield, m_half + m_ends, 0, std::max(c.shield, 1e-3), m_outer);
    }

    const Machine& m;
    const CoolingData& c;
    double m_half, m_outer, m_ends;
    LongSection m_out;
};

} // namespace

double end_winding_height(const Machine& m) {
    if (!m.wound()) return 0;
    const double end_length = std::max(0.0, machine_conductor(m).turn_length / 2 - m.stack_length);
    return m.winding.overhang + std::max(0.0, end_length - 2 * m.winding.overhang) / 4;
}

double housing_length(const Machine& m, const CoolingData& c) {
    if (c.length > 0) return c.length;
    constexpr double air = 0.01, least = 0.01; // m beyond the end windings; where there are none
    return m.stack_length + 2 * ((m.wound() ? end_winding_height(m) : least) + air + c.shield);
}

double Bearing::height(double shaft_radius) const {
    return std::max(mean_diameter - 2 * shaft_radius, 0.1 * shaft_radius);
}

double Bearing::steel_volume(double shaft_radius) const {
    constexpr double filled = 0.5;
    return 2 * filled * pi * mean_diameter * height(shaft_radius) * width;
}

Bearing bearing_of(const CoolingData& c, double shaft_radius) {
    return {c.bearing_diameter > 0 ? c.bearing_diameter : 2.8 * shaft_radius,
            c.bearing_width > 0 ? c.bearing_width : shaft_radius};
}

LongSection long_section(const Machine& machine, const CoolingData& cooling) {
    return Drawing(machine, cooling).run();
}

} // namespace mavlo
