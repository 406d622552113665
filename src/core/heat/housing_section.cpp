#include "heat/housing_section.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// Between two radii, as broad as `width` all along, about this angle.
Polygon straight(double from, double to, double width, double angle) {
    const double half = width / 2;
    return {rotated({from, -half}, angle), rotated({to, -half}, angle), rotated({to, half}, angle),
            rotated({from, half}, angle)};
}

class Housing {
  public:
    Housing(const Machine& machine, const CoolingData& cooling)
        : c(cooling) {
        m_out.inner = machine.section.outer_radius();
        m_out.outer = m_out.reach = m_out.inner + c.wall;
        m_out.pitch = degree; // alike all round
    }

    HousingSection run() {
        radial("housing.thickness", m_out.inner, m_out.outer);
        if (c.housing == HousingKind::Ribbed) ribs();
        if (c.housing == HousingKind::Jacket) jacket();
        return std::move(m_out);
    }

  private:
    void radial(const char* path, double from, double to) {
        m_out.marks.push_back({path, DimensionMark::Kind::Length, {from, 0}, {to, 0}, {to, 0}, {1, 0}});
    }
    /// Both sides move as it is dragged.
    void across(const char* path, double radius, double width) {
        const double half = width / 2;
        m_out.marks.push_back(
            {path, DimensionMark::Kind::Length, {radius, -half}, {radius, half}, {radius, half}, {0, 2}});
    }

    void ribs() {
        m_out.pitch = 2 * pi / std::max(1, c.ribs);
        m_out.reach = m_out.outer + c.rib_height;
        const double foot = 0.98 * m_out.outer; // within the round wall
        for (int k = 0; k < c.ribs; ++k)
            m_out.ribs.push_back(straight(foot, m_out.reach, c.rib_thickness, k * m_out.pitch));
        radial("housing.rib_height", m_out.outer, m_out.reach);
        across("housing.rib_thickness", m_out.reach, c.rib_thickness);
    }

    /// In the middle of the wall, or on the stack where they are higher than it.
    void jacket() {
        const double from = m_out.inner + std::max(0.0, (c.wall - c.channel_height) / 2),
                     to = from + c.channel_height;
        m_out.reach = std::max(m_out.reach, to);
        radial("housing.channel_height", from, to);
        if (c.spiral) {
            m_out.spiral_from = from;
            m_out.spiral_to = to;
            return;
        }
        m_out.pitch = 2 * pi / std::max(1, c.channels);
        for (int k = 0; k < c.channels; ++k)
            m_out.channels.push_back(straight(from, to, c.channel_width, k * m_out.pitch));
        across("housing.channel_width", from, c.channel_width);
    }

    const CoolingData& c;
    HousingSection m_out;
};

} // namespace

std::optional<HousingSection> housing_section(const Machine& machine, const CoolingData& cooling) {
    if (machine.outer_rotor() || cooling.housing == HousingKind::None) return std::nullopt;
    return Housing(machine, cooling).run();
}

} // namespace mavlo
