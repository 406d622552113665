#include "machine/shape_outline.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;
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
        std::vector<Point> begin(n), end(n); // of the rounding at each corner
        for (std::size_t i = 0; i < n; ++i) {
            begin[i] = end[i] = corners[i].at;
            if (corners[i].fillet > 0) round(corners, i, begin[i], end[i]);
        }
        if (!m_problems.empty()) return;
        for (std::size_t i = 0; i < n; ++i) {
            const std::size_t next = (i + 1) % n;
            if (distance(begin[i], end[i]) > shortest)
                out.pieces.push_back({begin[i], end[i], rounding_bulge(corners, i), 0});
            const Piece edge{end[i], begin[next], corners[i].bulge, 0};
            if (corners[i].bulge == 0 && dot(edge.b - edge.a, corners[next].at - corners[i].at) < -1e-15)
                m_problems.push_back(problem(fmt::format(
                    "The fillets of corners {} and {} do not fit on the edge between them.", i + 1, next + 1)));
            else if (length_of(edge) > shortest)
                out.pieces.push_back(edge);
        }
    }

    /// Signed turn of the outline at a corner, rad.
    static double turn_at(const std::vector<Corner>& c, std::size_t i) {
        const std::size_t n = c.size();
        const Point in = c[i].at - c[(i + n - 1) % n].at, out = c[(i + 1) % n].at - c[i].at;
        return std::atan2(cross(in, out), dot(in, out));
    }
    static double rounding_bulge(const std::vector<Corner>& c, std::size_t i) {
        return std::tan(turn_at(c, i) / 4);
    }

    void round(const std::vector<Corner>& c, std::size_t i, Point& begin, Point& end) {
        const std::size_t n = c.size(), before = (i + n - 1) % n;
        if (c[before].bulge != 0 || c[i].bulge != 0) {
            m_problems.push_back(problem(
                fmt::format("Corner {} lies on an arc; only corners of straight edges are rounded.", i + 1)));
            return;
        }
        const double turn = turn_at(c, i);
        if (std::abs(turn) < sharpest_turn) return;
        const double taken = c[i].fillet * std::tan(std::abs(turn) / 2);
        const Point in = c[i].at - c[before].at, out = c[(i + 1) % n].at - c[i].at;
        if (taken > std::min(norm(in), norm(out)) + shortest) {
            m_problems.push_back(
                problem(fmt::format("The fillet of corner {} is too large for its edges: {:.4g} mm fit.", i + 1,
                                    1e3 * std::min(norm(in), norm(out)) / std::tan(std::abs(turn) / 2))));
            return;
        }
        begin = c[i].at - (taken / norm(in)) * in;
        end = c[i].at + (taken / norm(out)) * out;
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
