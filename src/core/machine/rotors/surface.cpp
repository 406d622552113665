// Magnets on the surface of a round yoke: rings sectors with radial sides.

#include "machine/rotor_kind.h"
#include "machine/slot_kind.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

struct Radii {
    double outer, yoke, shaft; ///< magnets' outside, magnets' inside, shaft
};

Radii radii_of(const RotorFrame& frame, const Values& v) {
    return {frame.outer_radius, frame.outer_radius - v.number("rotor.magnet.thickness"),
            v.number("rotor.shaft_diameter") / 2};
}

Problems collisions(const RotorFrame& frame, const Radii& r) {
    if (frame.outer_radius <= 0)
        return {{"gap", fmt::format("The gap leaves no room for a rotor: the bore's radius is {} too small.",
                                    millimetres(-frame.outer_radius))}};
    if (r.yoke <= 0)
        return {{"rotor.magnet.thickness",
                 fmt::format("The magnets reach {} past the machine's centre.", millimetres(-r.yoke))}};
    if (r.shaft >= r.yoke - 1e-5)
        return {{"rotor.shaft_diameter",
                 fmt::format("The shaft cuts {} into the magnets; there is no yoke left under them.",
                             millimetres(r.shaft - r.yoke))}};
    return {};
}

Result<Cell> cell(const RotorFrame& frame, const Values& v) {
    const Radii r = radii_of(frame, v);
    if (auto problems = collisions(frame, r); !problems.empty()) return problems;
    const double g = frame.half_pitch(), arc = v.number("rotor.magnet.arc");
    const bool full = arc > 1 - 1e-9, has_shaft = r.shaft > 1e-6;
    const double edge = full ? g : arc * g;
    const double hole = hole_radius(has_shaft ? r.shaft : r.yoke, frame.poles / 2);
    Cell out;
    Outline& o = out.outline;
    auto at = [&](double radius, double angle) { return o.add(polar(radius, angle)); };
    auto ring = [&](double radius, double from, double to) { o.arc(at(radius, from), at(radius, to)); };
    auto spoke = [&](double angle, double from, double to) { o.line(at(from, angle), at(to, angle)); };
    for (double angle : {0.0, g}) {
        if (has_shaft) spoke(angle, hole, r.shaft);
        spoke(angle, has_shaft ? r.shaft : hole, r.yoke);
        spoke(angle, r.yoke, r.outer);
    }
    ring(hole, 0, g);
    if (has_shaft) ring(r.shaft, 0, g);
    ring(r.yoke, 0, edge);
    ring(r.outer, 0, edge);
    if (!full) {
        ring(r.yoke, edge, g);
        ring(r.outer, edge, g);
        spoke(edge, r.yoke, r.outer);
    }
    const bool parallel = v.word("rotor.magnet.magnetisation") == "parallel";
    auto seed = [&](double inner, double outer, double angle) { return polar((inner + outer) / 2, angle); };
    out.regions.push_back({seed(r.yoke, r.outer, edge / 2), Role::Magnet, 0,
                           parallel ? Magnetisation::Parallel : Magnetisation::Radial});
    if (!full)
        out.regions.push_back({seed(r.yoke, r.outer, (edge + g) / 2), Role::Air, 0, Magnetisation::None});
    out.regions.push_back(
        {seed(has_shaft ? r.shaft : hole, r.yoke, g / 2), Role::RotorIron, 0, Magnetisation::None});
    if (has_shaft) out.regions.push_back({seed(hole, r.shaft, g / 2), Role::Shaft, 0, Magnetisation::None});
    const double thickness = r.outer - r.yoke;
    const double fine =
        std::min({thickness / 4, (g - edge) * r.outer / 1.5 + (full ? 1.0 : 0.0), g * r.outer / 6});
    out.hints = {{polar(r.outer, edge), fine}, {polar(r.yoke, edge), 2 * fine}};
    out.half_pitch = g;
    out.gap_radius = r.outer;
    out.iron_radius = r.yoke;
    out.other_radius = hole;
    out.gap_size = std::min(g * r.outer / 5, thickness / 1.5);
    out.max_size = std::min(g * r.yoke / 1.5, (r.yoke - (has_shaft ? r.shaft : hole)) / 3);
    if (frame.poles == 2) out.max_size = (r.yoke - r.shaft) / 4;
    return out;
}

std::vector<DimensionMark> marks(const RotorFrame& frame, const Values& v) {
    using Kind = DimensionMark::Kind;
    const Radii r = radii_of(frame, v);
    const double half = v.number("rotor.magnet.arc") * frame.half_pitch();
    const Point corner = polar((r.outer + r.yoke) / 2, half);
    // The value is a fraction of the pole pitch: moving the edge by s changes it by s / (radius * half pitch).
    const double per_metre = 1 / (norm(corner) * frame.half_pitch());
    return {
        {"rotor.magnet.thickness", Kind::Length, {r.yoke, 0}, {r.outer, 0}, {r.yoke, 0}, {-1, 0}},
        {"rotor.magnet.arc", Kind::Angle, polar(norm(corner), -half), corner, corner,
         per_metre * Point{-std::sin(half), std::cos(half)}},
        {"rotor.shaft_diameter", Kind::Diameter, {-r.shaft, 0}, {r.shaft, 0}, {r.shaft, 0}, {2, 0}},
    };
}

const RegisterRotorKind registered{
    {"surface",
     {"rotor.shaft_diameter", "rotor.magnet.thickness", "rotor.magnet.arc", "rotor.magnet.magnetisation",
      "rotor.magnet.segments", "rotor.magnet.grade", "rotor.magnet.temperature"},
     cell,
     marks}};

} // namespace
} // namespace mavlo
