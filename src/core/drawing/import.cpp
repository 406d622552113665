#include "drawing/import.h"

#include "drawing/centre.h"
#include "drawing/clutter.h"
#include "drawing/gap_side.h"
#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "shape/budget.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

/// A gap of just the tolerance is still closed.
constexpr double rounding = 1.02;

struct NamedUnit {
    const char* name;
    int insunits;
    double metres;
};
constexpr NamedUnit units[] = {{"mm", 4, 1e-3},   {"in", 1, 0.0254}, {"m", 6, 1},     {"cm", 5, 1e-2},
                               {"ft", 2, 0.3048}, {"um", 13, 1e-6},  {"dm", 14, 0.1}, {"mil", 9, 2.54e-5}};

template <class Is>
const NamedUnit* unit_where(Is is) {
    const auto* found = std::find_if(std::begin(units), std::end(units), is);
    return found == std::end(units) ? nullptr : found;
}

/// A unit that a text on the drawing names.
const NamedUnit* unit_in(const std::vector<std::string>& texts) {
    for (const std::string& named : texts) {
        const std::string text = lower_case(named);
        if (text.find("inch") != std::string::npos || text.find("zoll") != std::string::npos)
            return unit_where([](const NamedUnit& u) { return u.insunits == 1; });
        for (const char* word : {" mm", "(mm)", "[mm]", "millimet", "=mm"})
            if (text.find(word) != std::string::npos)
                return unit_where([](const NamedUnit& u) { return u.insunits == 4; });
    }
    return nullptr;
}

const NamedUnit* unit_by_size(double diameter) {
    const int code = diameter < 1.5 ? 6 : diameter < 25 ? 1 : 4;
    return unit_where([&](const NamedUnit& u) { return u.insunits == code; });
}

std::string healing_sentence(const Healing& h, double metres_per_unit) {
    const Point at = (1 / metres_per_unit) * h.first;
    const std::string where = fmt::format("the first at ({:.3f}, {:.3f}) from the centre", at.x, at.y);
    switch (h.kind) {
    case Healing::Kind::Twice:
        return fmt::format("{} lines or arcs lie on another and count once, {}.", h.count, where);
    case Healing::Kind::Overlap:
        return fmt::format("{} lines or arcs overlap others in part, {}.", h.count, where);
    case Healing::Kind::Gap:
        return fmt::format("{} gaps of up to {:.2g} um were closed, {}.", h.count, h.largest * 1e6, where);
    case Healing::Kind::Overshoot:
        return fmt::format("{} ends of up to {:.2g} um past a crossing were cut off, {}.", h.count,
                           h.largest * 1e6, where);
    }
    return {};
}

class Importer {
  public:
    Importer(DxfDrawing drawing, const ImportOptions& options)
        : m_drawing(std::move(drawing))
        , m_options(options) {
        m_out.left_out.sentences = m_drawing.left_out;
    }

    Result<ImportedDrawing> run() {
        if (auto problem = lay_out()) return *problem;
        for (const Healing& h : m_out.graph.healed) m_out.healed.push_back(healing_sentence(h, m_unit->metres));
        if (auto problems = open_ends(); !problems.empty()) return problems;
        m_extent = find_portion(simplified(m_out.graph, tolerance(), true), 0, 1e300, tolerance(), false);
        for (DrawnSide side : {DrawnSide::Rotor, DrawnSide::Stator})
            if (side == DrawnSide::Rotor ? m_options.rotor : m_options.stator)
                if (auto problem = add_part(side)) return *problem;
        count_whole();
        return std::move(m_out);
    }

    OpenDrawing open() {
        if (lay_out()) return {};
        OpenDrawing out;
        for (const auto& edge : m_out.graph.edges) out.pieces.push_back(m_out.graph.piece(edge));
        for (const OpenEnd& end : m_out.graph.open_ends()) out.ends.push_back(end.at);
        return out;
    }

  private:
    double tolerance() const { return rounding * m_options.tolerance; }

    /// The lines of the machine alone, in metres about its centre, split where they cross.
    std::optional<Problem> lay_out() {
        if (auto problem = place()) return problem;
        keep_layers_of_part();
        drop_construction(m_drawing.pieces, m_drawing.layers, tolerance(), m_out.left_out);
        m_out.graph = arrange(m_drawing.pieces, tolerance());
        drop_far_parts(m_out.graph, tolerance(), m_out.left_out);
        return std::nullopt;
    }

    /// Where layers say which part they are of and one part is asked for, the other's lines are left out: each
    /// may show a pitch of its own.
    void keep_layers_of_part() {
        if (m_options.rotor == m_options.stator) return;
        const std::string own = m_options.rotor ? "rotor" : "stator",
                          other = m_options.rotor ? "stator" : "rotor";
        const auto says = [&](int layer, const std::string& part) {
            if (layer < 0 || std::size_t(layer) >= m_drawing.layers.size()) return false;
            return lower_case(m_drawing.layers[std::size_t(layer)]).find(part) != std::string::npos;
        };
        const auto any = [&](const std::string& part) {
            return std::any_of(m_drawing.pieces.begin(), m_drawing.pieces.end(),
                               [&](const Piece& p) { return says(p.layer, part); });
        };
        if (!any(own) || !any(other)) return;
        // Whole sections tell more together: on which side the gap lies.
        std::vector<double> angles;
        for (const Piece& p : m_drawing.pieces)
            for (Point end : {p.a, point_at(p, 0.5), p.b}) angles.push_back(angle_of(end));
        std::sort(angles.begin(), angles.end());
        double widest = angles.front() + 2 * std::numbers::pi - angles.back();
        for (std::size_t i = 1; i < angles.size(); ++i) widest = std::max(widest, angles[i] - angles[i - 1]);
        if (widest < std::numbers::pi / 2) return;
        const auto dropped =
            std::erase_if(m_drawing.pieces, [&](const Piece& p) { return says(p.layer, other); });
        m_out.left_out.sentences.push_back(fmt::format(
            "{} lines on layers of the {}, which was not asked for, were left out.", dropped, other));
    }

    /// Finds centre and unit; the pieces are then in metres about the centre.
    std::optional<Problem> place() {
        Box box;
        for (const Piece& p : m_drawing.pieces) box.add(p.a);
        const double size = std::max(box.right - box.left, box.top - box.bottom), near = 2e-6 * size;
        const auto centre = machine_centre(m_drawing.pieces, near);
        if (!centre)
            return Problem{"",
                           "The drawing has no arcs, so that the machine's centre cannot be found; is it the "
                           "cross-section?"};
        m_out.centre = *centre;
        double radius = 0;
        for (Piece& p : m_drawing.pieces) {
            p.a = p.a - *centre;
            p.b = p.b - *centre;
            if (is_about(p, {}, near)) radius = std::max(radius, norm(p.a));
        }
        if (auto problem = find_unit(2 * radius)) return problem;
        for (Piece& p : m_drawing.pieces) {
            p.a = m_unit->metres * p.a;
            p.b = m_unit->metres * p.b;
        }
        return std::nullopt;
    }

    std::optional<Problem> find_unit(double diameter) {
        if (m_options.unit && *m_options.unit != "auto") {
            m_unit = unit_where([&](const NamedUnit& u) { return *m_options.unit == u.name; });
            if (!m_unit)
                return Problem{"--unit",
                               fmt::format("\"{}\" is no unit of drawings; there are mm, in, m, cm, dm, ft, "
                                           "um, mil.",
                                           *m_options.unit)};
        } else {
            m_unit = unit_where([&](const NamedUnit& u) { return m_drawing.insunits == u.insunits; });
            if (!m_unit && (m_unit = unit_in(m_drawing.texts)))
                m_out.notes.push_back(
                    fmt::format("The unit, {}, is named in a text on the drawing.", m_unit->name));
            if (!m_unit) {
                m_unit = unit_by_size(diameter);
                m_out.notes.push_back(
                    fmt::format("The drawing names no unit; from its diameter of {:.4g} it was taken "
                                "to be in {}. Name the unit if that is wrong.",
                                diameter, m_unit->name));
            }
        }
        m_out.unit = m_unit->name;
        return std::nullopt;
    }

    Problems open_ends() const {
        constexpr std::size_t most = 12;
        const auto ends = m_out.graph.open_ends();
        Problems problems;
        for (const OpenEnd& end : ends) {
            const Point at = (1 / m_unit->metres) * end.at;
            double nearest = 1e300;
            for (const OpenEnd& other : ends)
                if (other.vertex != end.vertex) nearest = std::min(nearest, distance(other.at, end.at));
            const int layer = m_out.graph.edges[std::size_t(end.piece)].layer;
            problems.push_back(
                {"",
                 fmt::format("A line on layer {} ends open at ({:.3f}, {:.3f}) from the centre{}; "
                             "close the outline there, or raise the tolerance.",
                             m_drawing.layers[std::size_t(layer)], at.x, at.y,
                             nearest < 1e299 ? fmt::format(", {:.3g} mm from the next open end", nearest * 1e3)
                                             : std::string())});
            if (problems.size() == most) break;
        }
        if (ends.size() > most)
            problems.push_back({"", fmt::format("{} more ends are open.", ends.size() - most)});
        return problems;
    }

    /// A stator's open slots get an end where they meet the gap's circle.
    void close_slots(const Ring& ring) {
        std::vector<Piece> pieces;
        for (const auto& edge : m_out.graph.edges) pieces.push_back(m_out.graph.piece(edge));
        const double radius = ring.gap_outside ? ring.outer : ring.inner;
        const int layer = pieces.front().layer;
        add_arc(pieces, {{}, radius}, m_extent.from, 2 * pi * m_extent.covers, layer);
        if (!m_extent.whole())
            for (double angle : {m_extent.from, m_extent.from + 2 * pi * m_extent.covers})
                if (const auto end = end_towards_gap(angle, ring))
                    pieces.push_back({polar(radius, angle), *end, 0, layer});
        const auto healed = m_out.graph.healed;
        m_out.graph = arrange(pieces, tolerance());
        m_out.graph.healed = healed;
    }

    /// Where a cut of the drawing ends short of the gap, as in the middle of a slot's mouth.
    std::optional<Point> end_towards_gap(double angle, const Ring& ring) const {
        std::optional<Point> nearest;
        const double radius = ring.gap_outside ? ring.outer : ring.inner;
        const Point along = polar(1, angle);
        for (const Point& p : m_out.graph.vertices) {
            const double past_gap = (ring.gap_outside ? 1 : -1) * (norm(p) - radius);
            if (std::abs(cross(along, p)) > tolerance() || dot(along, p) < 0 || past_gap > tolerance())
                continue;
            if (!nearest || std::abs(norm(p) - radius) < std::abs(norm(*nearest) - radius)) nearest = p;
        }
        return nearest && std::abs(norm(*nearest) - radius) > tolerance() ? nearest : std::nullopt;
    }

    std::optional<Problem> add_part(DrawnSide side) {
        PlaneFaces faces = plane_faces(m_out.graph);
        const bool both = (m_options.rotor && m_options.stator) || holds_both(faces);
        const RingHints hints{both, m_options.outer_rotor, m_drawing.layers};
        auto ring = find_ring(m_out.graph, faces, m_extent, side, hints);
        if (!ring)
            return Problem{
                "", fmt::format("No closed lamination of a {} was found in the drawing.", to_string(side))};
        // Of two parts a sector may show a pitch each, which are not of one width.
        const bool own_extent = both && !m_extent.whole();
        if (own_extent)
            m_extent = find_portion(plain_between(ring->inner, ring->outer), 0, 1e300, tolerance(), false);
        if (side == DrawnSide::Stator && ring->inner > 0) {
            close_slots(*ring);
            faces = plane_faces(m_out.graph);
            ring = find_ring(m_out.graph, faces, m_extent, side, hints);
        }
        auto roles = propose_roles(m_out.graph, faces, *ring, m_drawing.layers);
        double inner = ring->inner, outer = ring->outer; // with what lies on its surface
        for (const DrawnFace& f : roles) {
            if (f.role != Role::Magnet) continue;
            const Span magnet = span_of(faces.faces[std::size_t(f.face)].polygon);
            inner = std::min(inner, magnet.inner);
            outer = std::max(outer, magnet.outer);
        }
        const auto plain =
            own_extent ? plain_between(inner, outer) : simplified(m_out.graph, tolerance(), true);
        const Portion found = find_portion(plain, inner, outer, tolerance(), side == DrawnSide::Rotor);
        const auto portion = with_pitches(found, side);
        if (!portion) return portion.problems().front();
        ImportedPart part{side, *portion, ring->inner, ring->outer, ring->gap_outside};
        std::stable_sort(roles.begin(), roles.end(),
                         [](const DrawnFace& a, const DrawnFace& b) { return a.role < b.role; });
        choose_roles(roles);
        // What fills the middle may be said to belong to the part.
        for (const DrawnFace& f : roles)
            if (f.face == ring->core && f.role != Role::Shaft && f.role != Role::Air) part.inner = 0;
        settle_axis(faces, roles, part);
        propose_directions(m_out.graph, faces, part.portion, part.gap_outside, roles);
        choose_directions(roles);
        for (const DrawnFace& f : roles) {
            const PlaneFace& face = faces.faces[std::size_t(f.face)];
            m_out.regions.push_back({int(m_out.regions.size()) + 1, side, f.role, face.area, face.centroid,
                                     face.inside, f.direction, is_cut(face, part.portion)});
            m_out.outlines.push_back(face.polygon);
            auto& holes = m_out.holes.emplace_back();
            for (const Walk& hole : face.holes) holes.push_back(polygon_of(m_out.graph, hole));
        }
        if (part.portion.half)
            m_out.notes.push_back(
                fmt::format("The drawing was taken for half a {0} of {1}; it could as well be a whole "
                            "{0} of {2} without mirror symmetry.",
                            side == DrawnSide::Rotor ? "pole" : "slot pitch", part.portion.pitches,
                            2 * part.portion.pitches));
        if (side == DrawnSide::Rotor && part.portion.pitches % 2)
            m_out.notes.push_back(fmt::format("The rotor repeats {} times a turn, which is no number of poles.",
                                              part.portion.pitches));
        m_out.parts.push_back(part);
        return std::nullopt;
    }

    /// What lies between two radii, without needless cuts.
    Arrangement plain_between(double inner, double outer) const {
        std::vector<Piece> pieces;
        for (const auto& edge : m_out.graph.edges) {
            const Piece piece = m_out.graph.piece(edge);
            const auto lies_in = [&](const Point& p) {
                return norm(p) > inner - tolerance() && norm(p) < outer + tolerance();
            };
            if (lies_in(piece.a) && lies_in(piece.b)) pieces.push_back(piece);
        }
        return simplified(arrange(pieces, tolerance()), tolerance(), true);
    }

    /// As many poles or slots as are wanted, where the drawing can show them: pieces of magnets look like more
    /// poles, and half a pole like a whole one.
    Result<Portion> with_pitches(const Portion& found, DrawnSide side) const {
        const bool one = !(m_options.rotor && m_options.stator);
        if (found.round && side == DrawnSide::Rotor)
            return *taken_for(found, one ? m_options.pitches.value_or(m_options.poles) : m_options.poles);
        if (!m_options.pitches || !one) return found;
        if (auto wanted = taken_for(found, *m_options.pitches)) return *wanted;
        return Problem{
            "--pitches",
            fmt::format("The drawing cannot show {} {}: it repeats {} times in a turn, and {:.4g} of "
                        "the turn is drawn.",
                        *m_options.pitches, side == DrawnSide::Rotor ? "poles" : "slots", found.pitches,
                        found.covers)};
    }

    /// Whether a whole drawing shows two parts with a gap between them.
    bool holds_both(const PlaneFaces& faces) const {
        return m_extent.whole() &&
               std::count_if(faces.faces.begin(), faces.faces.end(),
                             [](const PlaneFace& f) { return contains(f.polygon, {}); }) >= 3;
    }

    void choose_roles(std::vector<DrawnFace>& roles) const {
        const int first = int(m_out.regions.size()) + 1;
        for (std::size_t i = 0; i < roles.size(); ++i)
            if (const auto chosen = m_options.roles.find(first + int(i)); chosen != m_options.roles.end())
                roles[i].role = chosen->second;
    }

    void choose_directions(std::vector<DrawnFace>& roles) const {
        const int first = int(m_out.regions.size()) + 1;
        for (std::size_t i = 0; i < roles.size(); ++i)
            if (const auto chosen = m_options.directions.find(first + int(i));
                chosen != m_options.directions.end() && roles[i].role == Role::Magnet)
                roles[i].direction = chosen->second;
    }

    /// The pole's axis goes through its magnets or between them, the slot's through its conductors.
    void settle_axis(const PlaneFaces& faces, const std::vector<DrawnFace>& roles, ImportedPart& part) const {
        Portion& p = part.portion;
        if (!p.whole() || !p.mirrored) return;
        const Role wanted = part.side == DrawnSide::Stator ? Role::Conductor : Role::Magnet;
        // Of the two mirror lines a pitch has, the one that most of the area speaks for.
        double near = 0, far = 0;
        const bool has_wanted =
            std::any_of(roles.begin(), roles.end(), [&](const DrawnFace& f) { return f.role == wanted; });
        for (const DrawnFace& f : roles) {
            if (f.role != (has_wanted ? wanted : Role::Air)) continue;
            const PlaneFace& face = faces.faces[std::size_t(f.face)];
            const double off = std::remainder(angle_of(face.centroid) - p.axis, p.pitch());
            const double towards = f.role == Role::Magnet ? pole_side(m_out.graph, face, part.gap_outside) : 0;
            bool is_near = std::abs(off) < p.pitch() / 4;
            if (f.role == Role::Air && part.side == DrawnSide::Rotor && reaches_gap(face, part))
                is_near = !is_near;
            if (towards == between_poles)
                is_near = !is_near;
            else if (towards != 0)
                is_near = off * towards < 0;
            (is_near ? near : far) += face.area;
        }
        if (near == 0 && far == 0 && part.side == DrawnSide::Rotor)
            for (const DrawnFace& f : roles)
                if (f.role == Role::Iron) add_face_votes(faces.faces[std::size_t(f.face)], part, near, far);
        if (far > near) p.axis = std::remainder(p.axis + p.pitch() / 2, p.pitch());
    }

    /// Poles of iron alone, with nothing drawn between them: their axis goes through what lies on the gap.
    void add_face_votes(const PlaneFace& iron, const ImportedPart& part, double& near, double& far) const {
        const auto on_gap = [&](const Point& p) {
            return part.gap_outside ? norm(p) > part.outer - tolerance() : norm(p) < part.inner + tolerance();
        };
        const std::size_t count = iron.polygon.size();
        for (std::size_t k = 0; k < count; ++k) {
            const Point a = iron.polygon[k], b = iron.polygon[(k + 1) % count];
            if (!on_gap(a) || !on_gap(b)) continue;
            const double off =
                std::remainder(angle_of(0.5 * (a + b)) - part.portion.axis, part.portion.pitch());
            (std::abs(off) < part.portion.pitch() / 4 ? near : far) += norm(b - a);
        }
    }

    /// Air that is open to the gap lies between poles, not in them.
    bool reaches_gap(const PlaneFace& face, const ImportedPart& part) const {
        return std::any_of(face.polygon.begin(), face.polygon.end(), [&](const Point& p) {
            return part.gap_outside ? norm(p) > part.outer - tolerance() : norm(p) < part.inner + tolerance();
        });
    }

    bool is_cut(const PlaneFace& face, const Portion& portion) const {
        if (m_extent.whole() || portion.whole()) return false;
        for (double angle : {m_extent.from, m_extent.from + 2 * pi * m_extent.covers})
            for (HalfEdge s : face.outer) {
                const Piece p = piece_of(m_out.graph, s);
                if (points_to(p, {}, tolerance()) &&
                    std::abs(std::remainder(angle_of(point_at(p, 0.5)) - angle, 2 * pi)) < 1e-4)
                    return true;
            }
        return false;
    }

    void count_whole() {
        for (const ImportedPart& part : m_out.parts) {
            std::map<Role, double> counts;
            for (const ImportedRegion& r : m_out.regions) {
                if (r.side != part.side) continue;
                counts[r.role] += r.cut ? 0.5 : 1;
                m_out.whole[r.role].area += r.area / part.portion.covers;
            }
            for (const auto& [role, count] : counts)
                m_out.whole[role].count += role == Role::Iron || role == Role::Shaft
                                               ? 1
                                               : int(std::lround(count / part.portion.covers));
            if (part.side == DrawnSide::Rotor && !counts.contains(Role::Shaft) && part.inner > 1e-6 &&
                part.gap_outside)
                m_out.whole[Role::Shaft] = {1, pi * part.inner * part.inner};
        }
    }

    DxfDrawing m_drawing;
    const ImportOptions& m_options;
    const NamedUnit* m_unit = nullptr;
    Portion m_extent;
    ImportedDrawing m_out;
};

} // namespace

const ImportedPart* ImportedDrawing::part(DrawnSide side) const {
    const auto found =
        std::find_if(parts.begin(), parts.end(), [&](const ImportedPart& p) { return p.side == side; });
    return found == parts.end() ? nullptr : &*found;
}

const ImportedRegion* ImportedDrawing::region_at(Point p, std::optional<DrawnSide> side) const {
    const ImportedRegion* best = nullptr;
    double least = 1e300;
    for (std::size_t i = 0; i < regions.size(); ++i) {
        if ((side && regions[i].side != *side) || !contains(outlines[i], p)) continue;
        // Between the magnets of an outer rotor one stands in the hole of its steel.
        if (std::any_of(holes[i].begin(), holes[i].end(),
                        [&](const Polygon& hole) { return contains(hole, p); }))
            continue;
        if (const double size = mavlo::area(outlines[i]); size < least) least = size, best = &regions[i];
    }
    return best;
}

std::string to_string(DrawnSide side) {
    return side == DrawnSide::Rotor ? "rotor" : "stator";
}

Result<ImportedDrawing> understood(DxfDrawing drawing, const ImportOptions& options) {
    try {
        const Budget budget(options.stop, options.progress);
        return Importer(std::move(drawing), options).run();
    } catch (const Overspent& end) {
        return end.problem;
    }
}

OpenDrawing open_drawing(DxfDrawing drawing, const ImportOptions& options) {
    try {
        const Budget budget(options.stop, options.progress);
        return Importer(std::move(drawing), options).open();
    } catch (const Overspent&) {
        return {};
    }
}

double carried_direction(const ImportedPart& part, const ImportedRegion& from, double direction,
                         const ImportedRegion& to) {
    const double pitch = part.portion.pitch(), turn = angle_of(to.centroid) - angle_of(from.centroid),
                 poles = turn / pitch;
    if (std::abs(poles - std::round(poles)) < 1e-3) return direction + turn + pi * std::round(poles);
    // The image about the axis of the pole that lies between them, then whole poles on.
    const double axis = part.portion.axis, image = 2 * axis - angle_of(from.centroid),
                 further = std::round((angle_of(to.centroid) - image) / pitch);
    return 2 * axis - direction + further * (pitch + pi);
}

Result<ImportedDrawing> import_drawing(const std::filesystem::path& file, const ImportOptions& options) {
    auto drawing = read_dxf(file, options.stop);
    if (!drawing) return drawing.problems();
    return understood(std::move(*drawing), options);
}

} // namespace mavlo
