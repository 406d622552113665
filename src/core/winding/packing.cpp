#include "winding/packing.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr double slack = 1e-9; ///< of a diameter: circles that just touch do
constexpr int most = 20000;

struct Interval {
    double from, to;
};

PackingSpace turned(const PackingSpace& space, double angle) {
    PackingSpace out{{}, space.margin};
    for (Point p : space.polygon) out.polygon.push_back(rotated(p, angle));
    return out;
}

double margin_of(const PackingSpace& space, std::size_t edge) {
    return space.margin.empty() ? 0 : space.margin[edge];
}

/// The part of the line x = const that lies nearer than r to the segment: one interval, since the segment's
/// neighbourhood is convex. False where there is none.
bool near_segment(Point a, Point b, double x, double r, Interval& out) {
    double low = 1e300, high = -1e300;
    const auto disc = [&](Point c) {
        const double d = r * r - (x - c.x) * (x - c.x);
        if (d <= 0) return;
        low = std::min(low, c.y - std::sqrt(d));
        high = std::max(high, c.y + std::sqrt(d));
    };
    disc(a);
    disc(b);
    const Point u = b - a;
    const double length = norm(u);
    if (length > 0) {
        // The strip beside the segment: |cross| <= r and the foot within it.
        const Point n{-u.y / length, u.x / length};
        if (std::abs(n.y) > 1e-12) {
            for (double side : {-r, r}) {
                const double y = a.y + (side - (x - a.x) * n.x) / n.y;
                const double foot = dot(Point{x, y} - a, u) / (length * length);
                if (foot < 0 || foot > 1) continue;
                low = std::min(low, y);
                high = std::max(high, y);
            }
        } else if (std::abs(x - a.x) < r) {
            low = std::min({low, a.y, b.y});
            high = std::max({high, a.y, b.y});
        }
    }
    out = {low, high};
    return high > low;
}

/// Where on the line x = const a circle's centre may lie.
std::vector<Interval> free_on(const PackingSpace& space, double x, double r) {
    const Polygon& polygon = space.polygon;
    std::vector<double> crossing;
    std::vector<Interval> taken;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const Point a = polygon[i], b = polygon[(i + 1) % polygon.size()];
        if ((a.x > x) != (b.x > x)) crossing.push_back(a.y + (x - a.x) / (b.x - a.x) * (b.y - a.y));
        Interval near{};
        if (near_segment(a, b, x, (r + margin_of(space, i)) * (1 - slack), near)) taken.push_back(near);
    }
    std::sort(crossing.begin(), crossing.end());
    std::sort(taken.begin(), taken.end(), [](Interval a, Interval b) { return a.from < b.from; });
    std::vector<Interval> free;
    for (std::size_t k = 0; k + 1 < crossing.size(); k += 2) {
        double from = crossing[k];
        const double to = crossing[k + 1];
        for (const Interval& t : taken) {
            if (t.to <= from || t.from >= to) continue;
            if (t.from > from) free.push_back({from, t.from});
            from = std::max(from, t.to);
        }
        if (from < to) free.push_back({from, to});
    }
    return free;
}

struct Range {
    double low = 1e300, high = -1e300;
};
Range x_range(const Polygon& polygon) {
    Range range;
    for (Point p : polygon) range.low = std::min(range.low, p.x), range.high = std::max(range.high, p.x);
    return range;
}

/// Rows of one lattice: `step` from row to row, every second row shifted by `shift`.
std::vector<Point> lattice(const PackingSpace& polygon, double d, double first_row, double first_column,
                           double step, double shift) {
    std::vector<Point> centres;
    const double high = x_range(polygon.polygon).high;
    int row = 0;
    for (double x = first_row; x < high && int(centres.size()) < most; x += step, ++row) {
        const double start = first_column + (row % 2 ? shift : 0);
        for (const Interval& free : free_on(polygon, x, d / 2)) {
            const double k = std::ceil((free.from - start) / d - 1e-9);
            for (double y = start + k * d; y <= free.to + 1e-9 * d && int(centres.size()) < most; y += d)
                centres.push_back({x, y});
        }
    }
    return centres;
}

/// Offsets at which a row's first or last circle touches a wall, and the row's middle.
std::vector<double> contacts(const PackingSpace& polygon, double d, double x) {
    std::vector<double> at;
    for (const Interval& free : free_on(polygon, x, d / 2)) {
        at.push_back(free.from);
        at.push_back(free.to);
        at.push_back((free.from + free.to) / 2);
        at.push_back((free.from + free.to + d) / 2);
    }
    return at;
}

void keep_longer(std::vector<Point>& best, std::vector<Point> other) {
    if (other.size() > best.size()) best = std::move(other);
}

/// The best of the lattices whose rows lie across x, begun at either end.
std::vector<Point> best_lattice(const PackingSpace& polygon, double d) {
    std::vector<Point> best;
    const Range range = x_range(polygon.polygon);
    const double height = std::sqrt(3.0) / 2 * d;
    std::vector<double> starts;
    starts.reserve(7);
    for (int k = 0; k < 6; ++k) starts.push_back(range.low + d / 2 + k / 6.0 * height);
    const double rows = std::floor((range.high - range.low - d) / height + 1e-9);
    if (rows >= 0) starts.push_back(range.high - d / 2 - rows * height);
    for (double start : starts) {
        std::vector<double> offsets = contacts(polygon, d, start);
        for (double share : {0.35, 0.7}) {
            const auto more = contacts(polygon, d, range.low + share * (range.high - range.low));
            offsets.insert(offsets.end(), more.begin(), more.end());
        }
        for (double offset : offsets)
            for (double shift : {d / 2, -d / 2}) {
                keep_longer(best, lattice(polygon, d, start, offset, height, shift));
                if (shift < 0) break;
            }
    }
    for (double offset : contacts(polygon, d, range.low + d / 2))
        keep_longer(best, lattice(polygon, d, range.low + d / 2, offset, d, 0));
    return best;
}

/// Rows one by one, each as full as it can be and as near to the one before as its circles allow.
std::vector<Point> row_by_row(const PackingSpace& polygon, double d) {
    std::vector<Point> centres, before;
    const Range range = x_range(polygon.polygon);
    const double height = std::sqrt(3.0) / 2 * d;
    double x = range.low + d / 2;
    while (x < range.high && int(centres.size()) < most) {
        std::vector<Point> row;
        for (const Interval& free : free_on(polygon, x, d / 2)) {
            const int count = int(std::floor((free.to - free.from) / d + 1e-9)) + 1;
            // Into the hollows of the row before where no circle is lost by it.
            double start = free.from;
            if (!before.empty()) {
                const double hollow = before.front().y + d / 2;
                const double in_hollow = hollow + std::ceil((free.from - hollow) / d - 1e-9) * d;
                if (in_hollow + (count - 1) * d <= free.to + 1e-9 * d) start = in_hollow;
            }
            for (int i = 0; i < count; ++i) row.push_back({x, start + i * d});
        }
        const bool clear = std::all_of(row.begin(), row.end(), [&](Point p) {
            return std::all_of(before.begin(), before.end(),
                               [&](Point q) { return distance(p, q) > d * (1 - slack); });
        });
        if (!row.empty() && !clear) {
            x += d - height; // not in its hollows: a full diameter on
            if (x - (before.empty() ? x : before.front().x) > d * (1 + 1e-9)) x = before.front().x + d;
            continue;
        }
        centres.insert(centres.end(), row.begin(), row.end());
        if (!row.empty()) before = row;
        x += row.empty() ? d / 8 : height;
    }
    return centres;
}

/// Circles in what room is left, found on lines close to each other.
void fill_gaps(const PackingSpace& polygon, double d, std::vector<Point>& centres) {
    const Range range = x_range(polygon.polygon);
    std::vector<Point> near;
    for (double x = range.low + d / 2; x < range.high && int(centres.size()) < most; x += d / 16) {
        near.clear();
        for (Point c : centres)
            if (std::abs(c.x - x) < d) near.push_back(c);
        for (const Interval& free : free_on(polygon, x, d / 2)) {
            std::sort(near.begin(), near.end(), [](Point a, Point b) { return a.y < b.y; });
            double y = free.from;
            for (bool again = true; again && y <= free.to;) {
                again = false;
                for (Point c : near) {
                    const double room = d * d - (c.x - x) * (c.x - x);
                    if (room <= 0 || std::hypot(c.x - x, c.y - y) >= d * (1 - slack)) continue;
                    y = c.y + std::sqrt(room) * (1 + 1e-12);
                    again = true;
                }
            }
            if (y > free.to) continue;
            centres.push_back({x, y});
            near.push_back({x, y});
        }
    }
}

void from_the_bottom(std::vector<Point>& centres, Point mouth) {
    std::stable_sort(centres.begin(), centres.end(), [&](Point a, Point b) {
        const double da = std::abs(a.x - mouth.x), db = std::abs(b.x - mouth.x);
        return std::abs(da - db) > 1e-9 ? da > db : a.y < b.y;
    });
}

} // namespace

double PackingSpace::free_area() const {
    double taken = 0;
    for (std::size_t i = 0; i < margin.size(); ++i)
        taken += margin[i] * distance(polygon[i], polygon[(i + 1) % polygon.size()]);
    return std::max(0.0, std::abs(area(polygon)) - taken);
}

double clearance(const PackingSpace& space, Point p) {
    const Polygon& polygon = space.polygon;
    double nearest = 1e300;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const Point a = polygon[i], u = polygon[(i + 1) % polygon.size()] - a;
        const double square = dot(u, u), t = square > 0 ? std::clamp(dot(p - a, u) / square, 0.0, 1.0) : 0;
        nearest = std::min(nearest, distance(p, a + t * u) - margin_of(space, i));
    }
    return nearest;
}

std::vector<Point> pack_circles(const PackingSpace& space, double diameter, Point mouth) {
    if (space.polygon.size() < 3 || !(diameter > 0) ||
        std::abs(area(space.polygon)) / (diameter * diameter) > most)
        return {};
    std::vector<double> angles{0, pi / 2};
    for (std::size_t i = 0; i < space.polygon.size(); ++i) {
        const Point u = space.polygon[(i + 1) % space.polygon.size()] - space.polygon[i];
        if (norm(u) < 3 * diameter) continue;
        const double angle = pi / 2 - angle_of(u); // turns the wall onto y
        if (std::none_of(angles.begin(), angles.end(),
                         [&](double known) { return std::abs(std::remainder(known - angle, pi)) < 1e-3; }))
            angles.push_back(angle);
    }
    std::vector<Point> best;
    const auto offer = [&](double angle, auto&& pack) {
        std::vector<Point> centres = pack(turned(space, angle));
        fill_gaps(turned(space, angle), diameter, centres);
        for (Point& p : centres) p = rotated(p, -angle);
        keep_longer(best, std::move(centres));
    };
    for (double angle : angles) {
        offer(angle, [&](const PackingSpace& p) { return best_lattice(p, diameter); });
        offer(angle, [&](const PackingSpace& p) { return row_by_row(p, diameter); });
        offer(angle + pi, [&](const PackingSpace& p) { return row_by_row(p, diameter); });
    }
    from_the_bottom(best, mouth);
    return best;
}

std::vector<Point> pack_rows(const PackingSpace& space, double diameter, Point mouth) {
    if (space.polygon.size() < 3 || !(diameter > 0) ||
        std::abs(area(space.polygon)) / (diameter * diameter) > most)
        return {};
    // Rows go from small x on: turned so that the bottom comes first.
    double far = 0;
    for (Point p : space.polygon)
        if (std::abs(p.x - mouth.x) > std::abs(far)) far = p.x - mouth.x;
    const double angle = far > 0 ? pi : 0;
    std::vector<Point> centres = row_by_row(turned(space, angle), diameter);
    for (Point& p : centres) p = rotated(p, -angle);
    return centres;
}

double largest_circle(const PackingSpace& space, int count, Point mouth) {
    if (count < 1 || space.polygon.size() < 3) return 0;
    double fits = 0, too_large = 2 * std::sqrt(std::abs(area(space.polygon)) / (count * pi));
    while (fits < (1 - 1e-4) * too_large && too_large > 1e-9) {
        const double middle = (fits + too_large) / 2;
        (int(pack_circles(space, middle, mouth).size()) >= count ? fits : too_large) = middle;
    }
    return fits;
}

std::vector<Point> pack_rectangles(const PackingSpace& space, RectangleSize size, Point mouth,
                                   bool against_wall, int columns) {
    std::vector<Point> centres;
    const Range range = x_range(space.polygon);
    if (space.polygon.size() < 3 || !(size.along_x > 0) || !(size.along_y > 0)) return centres;
    const bool mouth_low = std::abs(range.low - mouth.x) < std::abs(range.high - mouth.x);
    const double dir = mouth_low ? -1 : 1, far = mouth_low ? range.high : range.low;
    const auto row_at = [&](double x) {
        // The room between x and x + h: what is free on both ends, and beside every corner between.
        std::vector<double> lines{x + 1e-9 * dir * size.along_x, x + dir * (1 - 1e-9) * size.along_x};
        for (Point p : space.polygon)
            if ((p.x - x) * dir > 0 && (p.x - x) * dir < size.along_x) lines.push_back(p.x + 1e-12 * dir);
        Interval room{-1e300, 1e300};
        for (double line : lines) {
            const auto free = free_on(space, line, 0);
            if (free.empty()) return 0;
            const auto widest = *std::max_element(
                free.begin(), free.end(), [](Interval a, Interval b) { return a.to - a.from < b.to - b.from; });
            room = {std::max(room.from, widest.from), std::min(room.to, widest.to)};
        }
        const int most_here = int(std::floor((room.to - room.from) / size.along_y + 1e-9)),
                  count = columns > 0 ? std::min(columns, most_here) : most_here;
        const double used = count * size.along_y,
                     first = against_wall ? room.to - used : (room.from + room.to - used) / 2;
        for (int i = 0; i < count; ++i)
            centres.push_back({x + dir * size.along_x / 2, first + (i + 0.5) * size.along_y});
        return count;
    };
    double x = far;
    while (int(centres.size()) < most) {
        const double left = dir > 0 ? range.high - x : x - range.low;
        if (left < size.along_x * (1 - 1e-9)) break;
        // A round bottom leaves no room at first: a little further on.
        x += dir * (row_at(x) > 0 ? size.along_x : size.along_x / 16);
    }
    return centres;
}

} // namespace mavlo
