#include "machine/drawn_dimension.h"

#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "shape/plane_faces.h"

#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <numbers>

namespace mavlo {
namespace {

using json = nlohmann::ordered_json;
constexpr double same_end = 1e-6; ///< m

Point mirrored(Point p) {
    return {p.x, -p.y};
}

/// One dimension made as long as it shall be.
class Stretch {
  public:
    Stretch(DrawnPart& part, const DrawnDimension& dimension)
        : m_part(part)
        , m_path("drawings.dimensions." + dimension.name)
        , m_half(std::numbers::pi / part.pitches) {
        m_from = dimension.from;
        m_to = dimension.to;
        // A mirrored part is drawn from its axis on.
        if (part.mirrored && m_to.y < -same_end) {
            m_from = mirrored(m_from);
            m_to = mirrored(m_to);
        }
    }

    std::optional<Problem> run(double wanted) {
        const double length = distance(m_from, m_to);
        if (length < same_end || wanted < same_end)
            return Problem{m_path, "A length between two points apart is wanted."};
        m_shift = ((wanted - length) / length) * (m_to - m_from);
        if (m_part.mirrored && distance(m_from, mirrored(m_to)) < same_end) m_shift = 0.5 * m_shift;
        find_corners();
        if (m_corners.empty())
            return Problem{m_path, "Nothing of the drawing lies where this dimension ends; draw it anew from a "
                                   "line or a corner to another."};
        for (Point corner : m_corners)
            if (auto problem = fixed(corner)) return problem;
        const Arrangement before = drawn_lines(m_part);
        move();
        name_regions(before);
        return std::nullopt;
    }

  private:
    void find_corners() {
        const auto add = [this](Point p) {
            for (Point known : m_corners)
                if (distance(known, p) < same_end) return;
            m_corners.push_back(p);
        };
        for (const Piece& p : m_part.pieces)
            for (Point end : {p.a, p.b})
                if (distance(end, m_to) < same_end) add(end);
        if (!m_corners.empty()) return;
        for (const Piece& p : m_part.pieces)
            if (distance_to(p, m_to) < same_end) add(p.a), add(p.b);
    }

    /// What the machine's own dimensions hold, and what must meet the next pitch.
    std::optional<Problem> fixed(Point corner) {
        for (double r : {m_part.gap_radius, m_part.far_radius})
            if (std::abs(norm(corner) - r) < same_end)
                return Problem{m_path,
                               "This end lies on the gap's circle or on the far side, whose diameters are "
                               "dimensions of the machine; change those, or dimension another line."};
        const double off_boundary = corner.y * std::cos(m_half) - corner.x * std::sin(m_half);
        if (std::abs(off_boundary) > same_end) return std::nullopt;
        if (!m_part.mirrored)
            return Problem{m_path, "This end lies where the next pitch begins and cannot be moved alone."};
        return std::nullopt;
    }

    /// Corners on a mirror line stay on it.
    Point displacement(Point p) const {
        bool hit = false;
        for (Point corner : m_corners) hit = hit || distance(corner, p) < same_end;
        if (!hit) return {};
        if (m_part.mirrored)
            for (double angle : {0.0, m_half}) {
                const Point along = polar(1, angle);
                if (std::abs(cross(along, p)) < same_end) return dot(m_shift, along) * along;
            }
        return m_shift;
    }

    void move() {
        for (Piece& p : m_part.pieces) {
            const Point a = displacement(p.a), b = displacement(p.b);
            p.a = p.a + a;
            p.b = p.b + b;
        }
    }

    /// A region keeps the face whose area is nearest to what it had.
    void name_regions(const Arrangement& before) {
        const Arrangement after = drawn_lines(m_part);
        const auto old_faces = plane_faces(before).faces, faces = plane_faces(after).faces;
        for (DrawnPart::Region& region : m_part.regions) {
            double area = 0, nearest = 1e300;
            for (const PlaneFace& face : old_faces)
                if (holds(before, face, region.inside)) area = face.area;
            std::optional<Point> inside;
            for (double share : {0.0, 0.25, 0.5, 0.75, 1.0})
                for (const PlaneFace& face : faces)
                    if (holds(after, face, region.inside + share * m_shift) &&
                        std::abs(face.area - area) < nearest) {
                        nearest = std::abs(face.area - area);
                        inside = face.inside;
                    }
            if (inside) region.inside = *inside;
        }
    }

    DrawnPart& m_part;
    std::string m_path;
    double m_half;
    Point m_from, m_to, m_shift{};
    std::vector<Point> m_corners;
};

json point_json(Point p) {
    const auto rounded = [](double v) { return rounded_to(v / mm, 12); };
    return {rounded(p.x), rounded(p.y)};
}

Point point_from(const json& j) {
    return {mm * j.at(0).get<double>(), mm * j.at(1).get<double>()};
}

} // namespace

json to_json(const DrawnDimension& d) {
    json j{{"name", d.name}, {"side", d.side}, {"from", point_json(d.from)}, {"to", point_json(d.to)}};
    if (!d.value.empty()) j["value"] = d.value;
    return j;
}

Result<DrawnDimension> drawn_dimension_from(const json& j) {
    try {
        DrawnDimension d{j.at("name").get<std::string>(), j.at("side").get<std::string>(),
                         point_from(j.at("from")), point_from(j.at("to")), j.value("value", std::string())};
        if (!d.name.empty() && (d.side == "rotor" || d.side == "stator")) return d;
    } catch (const std::exception&) {
    }
    return Problem{
        "drawings.dimensions",
        "A dimension of a drawing needs a name, a side (rotor or stator), and two points \"from\" and "
        "\"to\" in mm."};
}

Result<DrawnPart> dimensioned(DrawnPart part, std::vector<DrawnDimension>& dimensions, const std::string& side,
                              const TextValue& value) {
    Problems problems;
    for (const DrawnDimension& asked : std::vector(dimensions)) {
        if (asked.side != side || asked.value.empty()) continue;
        const auto here = std::find_if(dimensions.begin(), dimensions.end(),
                                       [&](const DrawnDimension& d) { return d.name == asked.name; });
        const auto wanted = value(asked.value, dimension::length);
        if (!wanted) {
            problems.push_back({"drawings.dimensions." + asked.name, wanted.problems().front().sentence});
            continue;
        }
        const DrawnPart before = part;
        if (auto problem = Stretch(part, *here).run(*wanted)) {
            problems.push_back(*problem);
            continue;
        }
        for (DrawnDimension& d : dimensions)
            if (d.side == side) d.from = carried(before, part, d.from), d.to = carried(before, part, d.to);
    }
    if (!problems.empty()) return problems;
    return part;
}

Point carried(const DrawnPart& before, const DrawnPart& after, Point p) {
    const bool below = before.mirrored && p.y < -same_end;
    const Point here = below ? mirrored(p) : p;
    for (std::size_t i = 0; i < before.pieces.size() && i < after.pieces.size(); ++i)
        if (distance_to(before.pieces[i], here) < same_end) {
            const Point at = point_at(after.pieces[i], nearest_share(before.pieces[i], here));
            return below ? mirrored(at) : at;
        }
    return p;
}

std::string dimension_name(const std::vector<DrawnDimension>& dimensions) {
    for (int i = 1;; ++i) {
        std::string name = fmt::format("length {}", i);
        if (std::none_of(dimensions.begin(), dimensions.end(),
                         [&](const DrawnDimension& d) { return d.name == name; }))
            return name;
    }
}

} // namespace mavlo
