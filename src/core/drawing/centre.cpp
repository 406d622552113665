#include "drawing/centre.h"

#include "shape/budget.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

struct Candidate {
    Point at;
    double weight = 0;
};

/// An arc's centre is the less sure the shorter the arc.
double slack(const Piece& arc, double tolerance) {
    const double sweep = std::abs(sweep_of(arc));
    return tolerance * std::max(1.0, std::min(50.0, 4 / (sweep * sweep)));
}

} // namespace

bool is_about(const Piece& arc, Point centre, double tolerance) {
    return !arc.straight() && distance(circle_of(arc).centre, centre) <= slack(arc, tolerance);
}

bool points_to(const Piece& line, Point centre, double tolerance) {
    if (!line.straight()) return false;
    const Point along = tangent_at(line, 0);
    return std::abs(cross(along, centre - line.a)) <= 2 * tolerance;
}

std::optional<Point> machine_centre(const std::vector<Piece>& pieces, double tolerance) {
    std::vector<Candidate> candidates;
    for (const Piece& p : pieces) {
        if (p.straight()) continue;
        const Point centre = circle_of(p).centre;
        spend(double(candidates.size()));
        const auto known = std::find_if(candidates.begin(), candidates.end(), [&](const Candidate& c) {
            return distance(c.at, centre) <= tolerance;
        });
        if (known == candidates.end())
            candidates.push_back({centre, length_of(p)});
        else
            known->weight += length_of(p);
    }
    if (candidates.empty()) return std::nullopt;
    // Only the heaviest are worth the look at every line.
    std::sort(candidates.begin(), candidates.end(),
              [](const auto& a, const auto& b) { return a.weight > b.weight; });
    candidates.resize(std::min<std::size_t>(candidates.size(), 12));
    for (Candidate& c : candidates)
        for (const Piece& p : pieces)
            if (points_to(p, c.at, tolerance)) c.weight += length_of(p);
    return std::max_element(candidates.begin(), candidates.end(),
                            [](const auto& a, const auto& b) { return a.weight < b.weight; })
        ->at;
}

} // namespace mavlo
