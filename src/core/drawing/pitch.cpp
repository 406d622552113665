#include "drawing/pitch.h"

#include "quantity/constants.h"
#include "shape/budget.h"
#include "shape/plane_faces.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <set>

namespace mavlo {
namespace {

constexpr double same_spot = 1e-7; ///< m: the drawing is healed

Use use_of(Role role) {
    switch (role) {
    case Role::Iron:
        return Use::Iron;
    case Role::Magnet:
        return Use::Magnet;
    case Role::Conductor:
        return Use::Conductor;
    case Role::Solid:
        return Use::Solid;
    default:
        return Use::Air;
    }
}

class Cutter {
  public:
    Cutter(const ImportedDrawing& drawing, const ImportedPart& part)
        : m_drawing(drawing)
        , m_part(part) {
        const double pitch = part.portion.pitch();
        m_from = part.portion.mirrored ? 0 : -pitch / 2;
        m_till = pitch / 2;
        // Magnets on the surface, rings that conduct and coils without teeth reach further than the iron.
        m_reach = part.outer;
        m_least = part.inner;
        for (std::size_t i = 0; i < drawing.regions.size(); ++i) {
            const Role role = drawing.regions[i].role;
            const bool reaches = role == Role::Magnet || role == Role::Solid || role == Role::Conductor;
            if (drawing.regions[i].side != part.side || !reaches) continue;
            for (const Point& p : drawing.outlines[i]) {
                m_reach = std::max(m_reach, norm(p));
                m_least = std::min(m_least, norm(p));
            }
        }
    }

    Result<DrawnPart> run() {
        const double axis = m_part.portion.axis;
        std::vector<Piece> pieces;
        for (const auto& edge : m_drawing.graph.edges) {
            Piece p = m_drawing.graph.piece(edge);
            p.a = rotated(p.a, -axis);
            p.b = rotated(p.b, -axis);
            pieces.push_back(p);
        }
        const double reach = 1.2 * m_reach;
        for (double angle : {m_from, m_till}) pieces.push_back({{}, polar(reach, angle), 0, 0});
        const Arrangement graph = arrange(pieces, same_spot);
        const PlaneFaces faces = plane_faces(graph);
        DrawnPart out;
        out.pitches = m_part.portion.pitches;
        out.mirrored = m_part.portion.mirrored;
        out.gap_outside = m_part.gap_outside;
        out.gap_radius = m_part.gap_outside ? m_reach : m_least;
        out.far_radius = m_part.gap_outside ? m_part.inner : m_part.outer;
        for (const auto& edge : graph.edges)
            if (const Piece p = graph.piece(edge); is_in(p)) out.pieces.push_back({p.a, p.b, p.bulge, 0});
        for (const PlaneFace& face : faces.faces)
            if (auto region = region_of(face)) out.regions.push_back(*region);
        if (out.regions.empty()) return Problem{"", "The drawing shows less than half a pitch of this part."};
        return out;
    }

  private:
    bool is_in(const Piece& p) const {
        const Point middle = point_at(p, 0.5);
        const double r = norm(middle), angle = angle_of(middle), slack = same_spot / std::max(r, 1e-3);
        return r > m_least - same_spot && r < m_reach + same_spot && angle > m_from - slack &&
               angle < m_till + slack &&
               !(std::abs(angle - m_from) < slack || std::abs(angle - m_till) < slack);
    }

    std::optional<DrawnPart::Region> region_of(const PlaneFace& face) const {
        const double r = norm(face.inside), angle = angle_of(face.inside);
        if (angle < m_from || angle > m_till || r < m_least) return std::nullopt;
        if (m_least > 0 && contains(face.polygon, {})) return std::nullopt;
        const Point there = rotated(face.inside, m_part.portion.axis);
        const ImportedRegion* known = m_drawing.region_at(there, m_part.side);
        if (!known || known->role == Role::Shaft) return std::nullopt;
        DrawnPart::Region region{face.inside, use_of(known->role), std::nullopt};
        if (known->direction)
            region.direction = std::remainder(*known->direction - m_part.portion.axis, 2 * pi);
        return region;
    }

    const ImportedDrawing& m_drawing;
    const ImportedPart& m_part;
    double m_from, m_till, m_reach, m_least;
};

std::string millimetre_text(double metres) {
    return fmt::format("{:.9g} mm", metres * 1e3);
}

constexpr double least_gap = 5e-5; ///< m

/// A formula of two diameters, the rotor's inside where its gap lies round it.
std::string gap_between(bool rotor_inside, const std::string& stator, const std::string& rotor) {
    return rotor_inside ? fmt::format("= ({} - {}) / 2", stator, rotor)
                        : fmt::format("= ({} - {}) / 2", rotor, stator);
}

/// Where both parts are drawn, the gap is what they leave.
void fit_gap_of_drawings(Design& design, const DrawnPart& stator) {
    const auto rotor = design.drawings.find("rotor");
    if (rotor == design.drawings.end() || design.text("rotor.kind") != "drawn" ||
        rotor->second.gap_outside == stator.gap_outside)
        return;
    const bool inside = rotor->second.gap_outside;
    const double room = (inside ? 1 : -1) * (stator.gap_radius - rotor->second.gap_radius);
    if (room > least_gap)
        design.texts["gap"] = gap_between(inside, inside ? "stator.bore_diameter" : "stator.outer_diameter",
                                          millimetre_text(2 * rotor->second.gap_radius));
}

/// A stator that leaves a gap round the rotor is kept, and the gap follows; any other gets its size from both.
void fit_gap(std::map<std::string, std::string>& t, const Values* before, const DrawnPart& part,
             const std::string& diameter) {
    const char* path = part.gap_outside ? "stator.bore_diameter" : "stator.outer_diameter";
    const double sign = part.gap_outside ? 1 : -1;
    const double room = before ? sign * (before->number(path) / 2 - part.gap_radius) : 0;
    if (room > least_gap && room < 0.1 * part.gap_radius) {
        t["gap"] = gap_between(part.gap_outside, path, diameter);
        return;
    }
    const double kept = before ? before->number("gap") : 0, usual = 0.02 * part.gap_radius;
    t["gap"] = millimetre_text(kept > least_gap && kept < 3 * usual ? kept : usual);
    t[path] = fmt::format("= {} {} 2 * gap", diameter, part.gap_outside ? "+" : "-");
}

/// Whether every magnet is a piece of a ring round the machine: two arcs about its centre bound it.
bool magnets_are_rings(const DrawnPart& part) {
    const Arrangement lines = drawn_lines(part);
    const auto faces = plane_faces(lines).faces;
    bool any = false;
    for (const DrawnPart::Region& region : part.regions) {
        if (region.use != Use::Magnet) continue;
        any = true;
        for (const PlaneFace& face : faces) {
            if (!holds(lines, face, region.inside)) continue;
            std::set<long> radii;
            for (const HalfEdge& half : face.outer) {
                const Piece piece = piece_of(lines, half);
                if (piece.straight()) continue;
                const Circle circle = circle_of(piece);
                if (norm(circle.centre) < 1e-3 * circle.radius) radii.insert(std::lround(circle.radius * 1e5));
            }
            if (radii.size() < 2) return false;
        }
    }
    return any;
}

} // namespace

Result<DrawnPart> one_pitch(const ImportedDrawing& drawing, DrawnSide side) {
    const ImportedPart* part = drawing.part(side);
    if (!part) return Problem{"", fmt::format("The drawing was not read for a {}.", to_string(side))};
    try {
        const Budget budget;
        return Cutter(drawing, *part).run();
    } catch (const Overspent& end) {
        return end.problem;
    }
}

int poles_of(const Design& design) {
    const auto values = resolve(design);
    return values ? values->whole("rotor.poles") : 2;
}

Result<Design> with_part(Design design, const ImportedDrawing& drawing, DrawnSide side) {
    auto part = one_pitch(drawing, side);
    if (!part) return part.problems();
    const bool solid = std::any_of(part->regions.begin(), part->regions.end(),
                                   [](const DrawnPart::Region& r) { return r.use == Use::Solid; });
    if (solid && side == DrawnSide::Stator)
        return Problem{"--region",
                       "Regions that carry eddy currents are taken on the rotor; of the stator say iron, "
                       "and stator.solid = yes or a steel that is marked as massive."};
    auto& t = design.texts;
    const std::string gap = millimetre_text(2 * part->gap_radius), far = millimetre_text(2 * part->far_radius);
    if (side == DrawnSide::Rotor) {
        // A drawing does not say how an arc is magnetised: as the project's own magnets are.
        const auto old = resolve(design);
        const bool radial = old && old->has_word("rotor.magnet.magnetisation") &&
                            old->word("rotor.magnet.magnetisation") == "radial" && magnets_are_rings(*part);
        t["rotor.magnet.magnetisation"] = radial ? "radial" : "parallel";
        t["rotor.kind"] = "drawn";
        t["rotor.poles"] = fmt::format("{}", part->pitches);
        const auto before = resolve(design);
        t["machine.topology"] = part->gap_outside ? "inner-rotor" : "outer-rotor";
        t[part->gap_outside ? "rotor.shaft_diameter" : "rotor.outer_diameter"] = far;
        fit_gap(t, before ? &*before : nullptr, *part, gap);
    } else {
        t["stator.slot.kind"] = "drawn";
        t["stator.slots"] = fmt::format("{}", part->pitches);
        t["machine.topology"] = part->gap_outside ? "outer-rotor" : "inner-rotor";
        t[part->gap_outside ? "stator.outer_diameter" : "stator.bore_diameter"] = gap;
        t[part->gap_outside ? "stator.bore_diameter" : "stator.outer_diameter"] = far;
        fit_gap_of_drawings(design, *part);
    }
    // As it will be read again from the project file, to the last digit.
    std::erase_if(design.dimensions, [&](const DrawnDimension& d) { return d.side == to_string(side); });
    auto as_read = drawn_part_from(to_json(*part));
    if (!as_read)
        return Problem{"",
                       fmt::format("One pitch of the {} could not be made from this drawing: its lines do not "
                                   "bound it, or are too many.",
                                   to_string(side))};
    design.drawings[to_string(side)] = std::move(*as_read);
    return design;
}

} // namespace mavlo
