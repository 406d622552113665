#include "machine/shape_outline.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double shortest = 1e-7;      ///< m
constexpr double sharpest_turn = 1e-3; ///< rad: straighter corners are none

struct Corner {
    Point at;
    double bulge, fillet;
};

class Maker {
  public:
    Maker(const FreeShape& shape, const TextValue& value)
        : m_shape(shape)
        , m_value(value)
        , m_path("drawings.shapes." + shape.name) {}

    Result<ShapeOutline> run() {
        ShapeOutline out{m_shape.name, m_shape.side, m_shape.use, m_shape.mirrored, {}, {}, 0, {}};
        if (m_shape.use == Use::Magnet)
            out.direction = number(m_shape.direction, dimension::angle, "the direction");
        if (m_shape.corners.empty())
            circle(out);
        else
            polygon(out);
        if (!m_problems.empty()) return m_problems;
        if (crosses_itself(out.pieces)) return problem("The outline crosses itself; put its corners in order.");
        double area = 0;
        for (const Piece& p : out.pieces) area += swept_area(p);
        if (std::abs(area) < 1e-12) return problem("The shape has no area.");
        if (area < 0) {
            std::reverse(out.pieces.begin(), out.pieces.end());
            for (Piece& p : out.pieces) p = reversed(p);
        }
        return out;
    }

  private:
    Problem problem(std::string sentence) const { return {m_path, std::move(sentence)}; }

    double number(const std::string& text, const Dimension& wanted, const std::string& what) {
        const auto value = m_value(text, wanted);
        if (value) return *value;
        m_problems.push_back(problem(fmt::format("For {}: {}", what, value.problems().front().sentence)));
        return 0;
    }
    double length(const std::string& text, const std::string& what) {
        return number(text, dimension::length, what);
    }

    void circle(ShapeOutline& out) {
        const Point centre{length(m_shape.x, "the centre's x"), length(m_shape.y, "the centre's y")};
        const double radius = length(m_shape.radius, "the radius");
        if (!m_problems.empty()) return;
        if (radius < shortest)
            m_problems.push_back(problem("The circle's radius must be positive."));
        else
            add_arc(out.pieces, {centre, radius}, 0, 2 * pi, 0);
        out.corners = {centre};
    }

    void polygon(ShapeOutline& out) {
        std::vector<Corner> corners;
        int count = 0;
        for (const FreeShape::Corner& c : m_shape.corners) {
            const std::string name = fmt::format("corner {}", ++count);
            corners.push_back({{length(c.x, name + "'s x"), length(c.y, name + "'s y")},
                               c.bulge,
                               length(c.fillet, name + "'s fillet")});
        }
        if (!m_problems.empty()) return;
        for (const Corner& c : corners) out.corners.push_back(c.at);
        const std::size_t n = corners.size();
        std::vector<Piece> edges;
        for (std::size_t i = 0; i < n; ++i)
            edges.push_back({corners[i].at, corners[(i + 1) % n].at, corners[i].bulge, 0});
        std::vector<Rounding> roundings(n);
        for (std::size_t i = 0; i < n; ++i)
            if (corners[i].fillet > 0) roundings[i] = round(edges, i, corners[i].fillet);
        if (!m_problems.empty()) return;
        for (std::size_t i = 0; i < n; ++i) {
            const std::size_t next = (i + 1) % n;
            const double from = roundings[i].begin, to = roundings[next].end;
            if (roundings[i].arc && length_of(*roundings[i].arc) > shortest)
                out.pieces.push_back(*roundings[i].arc);
            if ((to - from) * length_of(edges[i]) < -shortest)
                m_problems.push_back(problem(fmt::format(
                    "The fillets of corners {} and {} do not fit on the edge between them.", i + 1, next + 1)));
            else if ((to - from) * length_of(edges[i]) > shortest)
                out.pieces.push_back(part_of(edges[i], from, to));
        }
    }

    /// A corner's rounding, and where it leaves the edges on its two sides, as shares of their lengths.
    struct Rounding {
        double end = 1, begin = 0;
        std::optional<Piece> arc{};
    };

    Rounding round(const std::vector<Piece>& edges, std::size_t i, double radius) {
        const Piece &in = edges[(i + edges.size() - 1) % edges.size()], &out = edges[i];
        if (length_of(in) < shortest || length_of(out) < shortest) return {};
        if (std::abs(turn_between(tangent_at(in, 1), tangent_at(out, 0))) < sharpest_turn) return {};
        if (const auto found = rounding_of(in, out, radius)) return *found;
        double fits = 0, too_large = radius;
        for (int k = 0; k < 40; ++k) {
            const double middle = (fits + too_large) / 2;
            (rounding_of(in, out, middle) ? fits : too_large) = middle;
        }
        m_problems.push_back(
            problem(fmt::format("The fillet of corner {} is too large for its edges: {:.4g} mm fit.", i + 1,
                                std::floor(fits * 1e7) / 1e4)));
        return {};
    }

    static double turn_between(Point in, Point out) { return std::atan2(cross(in, out), dot(in, out)); }

    /// The circle's centre is as far from both edges, on the corner's inner side, as its radius: where the
    /// edges moved there cross.
    static std::optional<Rounding> rounding_of(const Piece& in, const Piece& out, double radius) {
        const double side = turn_between(tangent_at(in, 1), tangent_at(out, 0)) > 0 ? -radius : radius;
        const auto first = beside(in, side), second = beside(out, side);
        if (!first || !second) return std::nullopt;
        std::optional<Point> centre;
        for (const Crossing& c : crossings(*first, *second, shortest))
            if (const Point at = point_at(*first, c.on_first);
                !centre || distance(at, in.b) < distance(*centre, in.b))
                centre = at;
        if (!centre) return std::nullopt;
        Rounding rounding{nearest_share(in, *centre), nearest_share(out, *centre), {}};
        const double sweep = turn_between(tangent_at(in, rounding.end), tangent_at(out, rounding.begin));
        rounding.arc = Piece{point_at(in, rounding.end), point_at(out, rounding.begin), std::tan(sweep / 4), 0};
        return rounding;
    }

    static bool crosses_itself(const std::vector<Piece>& pieces) {
        const std::size_t n = pieces.size();
        for (std::size_t i = 0; i < n; ++i)
            for (std::size_t k = i + 1; k < n; ++k) {
                const bool next = k == i + 1, last = i == 0 && k == n - 1;
                for (const Crossing& c : crossings(pieces[i], pieces[k], 1e-9)) {
                    const bool joint = (next && c.on_first > 1 - 1e-6 && c.on_second < 1e-6) ||
                                       (last && c.on_first < 1e-6 && c.on_second > 1 - 1e-6);
                    if (!joint) return true;
                }
            }
        return false;
    }

    const FreeShape& m_shape;
    const TextValue& m_value;
    std::string m_path;
    Problems m_problems;
};

} // namespace

Result<ShapeOutline> outline_of(const FreeShape& shape, const TextValue& value) {
    return Maker(shape, value).run();
}

} // namespace mavlo
