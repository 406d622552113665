#include "plot/contours.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <map>

namespace mavlo::app {
namespace {

/// An edge of the grid: its lower-left point and whether it goes up.
struct GridEdge {
    std::size_t i, j;
    bool up;
    auto operator<=>(const GridEdge&) const = default;
};

struct Segment2 {
    GridEdge a, b;
};

double mix(double a, double b, double t) {
    return a + t * (b - a);
}

class March {
  public:
    March(const Map& map, double level)
        : m_map(map)
        , m_level(level) {
        for (std::size_t j = 0; j + 1 < map.y.size(); ++j)
            for (std::size_t i = 0; i + 1 < map.x.size(); ++i) cell(i, j);
    }

    std::vector<ContourLine> joined() const {
        std::multimap<GridEdge, std::size_t> at;
        for (std::size_t s = 0; s < m_segments.size(); ++s) {
            at.emplace(m_segments[s].a, s);
            at.emplace(m_segments[s].b, s);
        }
        std::vector<bool> used(m_segments.size(), false);
        std::vector<ContourLine> lines;
        const auto follow = [&](GridEdge from, ContourLine& line) {
            while (true) {
                const auto [first, last] = at.equal_range(from);
                const auto next = std::find_if(first, last, [&](const auto& e) { return !used[e.second]; });
                if (next == last) return;
                used[next->second] = true;
                const Segment2& s = m_segments[next->second];
                from = s.a == from ? s.b : s.a;
                line.push_back(place(from));
            }
        };
        for (std::size_t s = 0; s < m_segments.size(); ++s) {
            if (used[s]) continue;
            used[s] = true;
            ContourLine back{place(m_segments[s].a)}, line;
            follow(m_segments[s].a, back);
            line.assign(back.rbegin(), back.rend());
            line.push_back(place(m_segments[s].b));
            follow(m_segments[s].b, line);
            lines.push_back(std::move(line));
        }
        return lines;
    }

  private:
    double z(std::size_t i, std::size_t j) const { return m_map.z[j][i] - m_level; }

    MapPoint place(const GridEdge& e) const {
        const double a = z(e.i, e.j), b = e.up ? z(e.i, e.j + 1) : z(e.i + 1, e.j), t = a / (a - b);
        return e.up ? MapPoint{m_map.x[e.i], mix(m_map.y[e.j], m_map.y[e.j + 1], t)}
                    : MapPoint{mix(m_map.x[e.i], m_map.x[e.i + 1], t), m_map.y[e.j]};
    }

    void cell(std::size_t i, std::size_t j) {
        const std::array<double, 4> corner{z(i, j), z(i + 1, j), z(i + 1, j + 1), z(i, j + 1)};
        for (double c : corner)
            if (std::isnan(c)) return;
        const std::array<GridEdge, 4> edge{
            GridEdge{i, j, false}, {i + 1, j, true}, {i, j + 1, false}, {i, j, true}};
        std::vector<GridEdge> crossed;
        for (std::size_t k = 0; k < 4; ++k)
            if ((corner[k] < 0) != (corner[(k + 1) % 4] < 0)) crossed.push_back(edge[k]);
        if (crossed.size() == 2) m_segments.push_back({crossed[0], crossed[1]});
        if (crossed.size() < 4) return;
        // A saddle: the middle says which corners hang together.
        const bool middle = corner[0] + corner[1] + corner[2] + corner[3] < 0, first = corner[0] < 0;
        const std::size_t with = middle == first ? 1 : 3;
        m_segments.push_back({crossed[0], crossed[with]});
        m_segments.push_back({crossed[2], crossed[4 - with]});
    }

    const Map& m_map;
    double m_level;
    std::vector<Segment2> m_segments;
};

} // namespace

std::vector<ContourLine> contour_lines(const Map& map, double level) {
    return March(map, level).joined();
}

MapRange range_of(const Map& map) {
    MapRange range{std::numeric_limits<double>::infinity(), -std::numeric_limits<double>::infinity()};
    for (const auto& row : map.z)
        for (double z : row)
            if (!std::isnan(z)) range = {std::min(range.low, z), std::max(range.high, z)};
    return range.low <= range.high ? range : MapRange{0, 0};
}

MapRange coloured_range(const Map& map) {
    MapRange range = range_of(map);
    if (map.name == "efficiency") range.low = std::max(range.low, std::min(0.8, range.high - 0.1));
    return range;
}

std::vector<double> contour_levels(const Map& map, int count) {
    const MapRange range = range_of(map);
    std::vector<double> levels;
    if (map.name == "efficiency") {
        for (double level :
             {0.5, 0.6, 0.7, 0.8, 0.85, 0.9, 0.92, 0.94, 0.95, 0.96, 0.965, 0.97, 0.975, 0.98, 0.985, 0.99})
            if (level > range.low && level < range.high) levels.push_back(level);
        return levels;
    }
    const double raw = (range.high - range.low) / std::max(1, count);
    if (!(raw > 0)) return levels;
    const double decade = std::pow(10, std::floor(std::log10(raw)));
    const double step = raw / decade < 1.5   ? decade
                        : raw / decade < 3.5 ? 2 * decade
                        : raw / decade < 7.5 ? 5 * decade
                                             : 10 * decade;
    for (double k = std::ceil(range.low / step); k * step < range.high; ++k) levels.push_back(k * step + 0.0);
    return levels;
}

double value_at(const Map& map, double x, double y) {
    const double nothing = std::numeric_limits<double>::quiet_NaN();
    if (map.x.size() < 2 || map.y.size() < 2 || x < map.x.front() || x > map.x.back() || y < map.y.front() ||
        y > map.y.back())
        return nothing;
    const auto cell = [](const std::vector<double>& knots, double at) {
        return std::size_t(std::upper_bound(knots.begin() + 1, knots.end() - 1, at) - knots.begin()) - 1;
    };
    const std::size_t i = cell(map.x, x), j = cell(map.y, y);
    const double s = (x - map.x[i]) / (map.x[i + 1] - map.x[i]), t = (y - map.y[j]) / (map.y[j + 1] - map.y[j]);
    return mix(mix(map.z[j][i], map.z[j][i + 1], s), mix(map.z[j + 1][i], map.z[j + 1][i + 1], s), t);
}

} // namespace mavlo::app
