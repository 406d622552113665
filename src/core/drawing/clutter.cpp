#include "drawing/clutter.h"

#include "drawing/centre.h"
#include "shape/budget.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

namespace mavlo {
namespace {

std::vector<Box> boxes_of(const std::vector<Piece>& pieces) {
    std::vector<Box> boxes;
    for (const Piece& p : pieces) boxes.push_back(box_of(p));
    return boxes;
}

/// How many others a piece goes right through.
int times_crossed(const std::vector<Piece>& pieces, const std::vector<Box>& boxes, std::size_t i,
                  double tolerance) {
    int count = 0;
    spend(double(pieces.size()));
    for (std::size_t j = 0; j < pieces.size(); ++j) {
        if (j == i || !boxes[i].near(boxes[j], tolerance)) continue;
        for (const Crossing& c : crossings(pieces[i], pieces[j], tolerance)) {
            const double off_first = std::min(c.on_first, 1 - c.on_first) * length_of(pieces[i]),
                         off_second = std::min(c.on_second, 1 - c.on_second) * length_of(pieces[j]);
            count += off_first > 3 * tolerance && off_second > 3 * tolerance;
        }
    }
    return count;
}

/// A straight line with an end that nothing meets, that points to the centre or goes right through others.
std::set<std::size_t> construction_lines(const std::vector<Piece>& pieces, double tolerance) {
    std::set<std::size_t> found;
    const std::vector<Box> boxes = boxes_of(pieces);
    const Arrangement graph = arrange(pieces, tolerance);
    for (const OpenEnd& end : graph.open_ends()) {
        spend(double(pieces.size()));
        for (std::size_t i = 0; i < pieces.size(); ++i) {
            const Piece& p = pieces[i];
            const bool is_end = distance(p.a, end.at) <= tolerance || distance(p.b, end.at) <= tolerance;
            if (!is_end || !p.straight()) continue;
            const int crossed = times_crossed(pieces, boxes, i, tolerance);
            if (crossed >= 2 || (crossed >= 1 && points_to(p, {}, tolerance))) found.insert(i);
        }
    }
    return found;
}

/// Circles about the centre that others go right through: pitch circles and the like.
std::set<std::size_t> construction_circles(const std::vector<Piece>& pieces, double tolerance) {
    std::map<long, std::vector<std::size_t>> rings; // by radius
    for (std::size_t i = 0; i < pieces.size(); ++i)
        if (is_about(pieces[i], {}, tolerance))
            rings[std::lround(circle_of(pieces[i]).radius / (2 * tolerance))].push_back(i);
    std::set<std::size_t> found;
    const std::vector<Box> boxes = boxes_of(pieces);
    for (const auto& [radius, ring] : rings) {
        double sweep = 0;
        int crossed = 0;
        for (std::size_t i : ring) {
            sweep += std::abs(sweep_of(pieces[i]));
            crossed += times_crossed(pieces, boxes, i, tolerance);
        }
        if (crossed >= 3 && sweep > 6.2) found.insert(ring.begin(), ring.end());
    }
    return found;
}

template <class Drop>
void leave_out(std::vector<Piece>& pieces, LeftOut& left_out, Drop drop) {
    std::vector<Piece> kept;
    for (std::size_t i = 0; i < pieces.size(); ++i) (drop(i) ? left_out.lines : kept).push_back(pieces[i]);
    pieces = kept;
}

/// Layers all of whose open ends are those of construction lines.
std::set<int> construction_layers(const std::vector<Piece>& pieces, const std::set<std::size_t>& lines,
                                  double tolerance) {
    std::set<int> layers;
    for (std::size_t i : lines) layers.insert(pieces[i].layer);
    std::vector<Piece> rest;
    for (const Piece& p : pieces)
        if (!layers.contains(p.layer)) rest.push_back(p);
    if (rest.empty()) return {};
    // What remains must close by itself, and the machine be in it.
    const Arrangement graph = arrange(rest, tolerance);
    const bool has_ring =
        std::any_of(rest.begin(), rest.end(), [&](const Piece& p) { return is_about(p, {}, tolerance); });
    return graph.open_ends().empty() && has_ring ? layers : std::set<int>{};
}

} // namespace

void drop_construction(std::vector<Piece>& pieces, const std::vector<std::string>& layers, double tolerance,
                       LeftOut& left_out) {
    const auto lines = construction_lines(pieces, tolerance);
    const auto whole = construction_layers(pieces, lines, tolerance);
    for (int layer : whole)
        left_out.sentences.push_back(
            fmt::format("Layer {} holds construction lines and was left out.", layers[std::size_t(layer)]));
    if (!whole.empty()) {
        leave_out(pieces, left_out, [&](std::size_t i) { return whole.contains(pieces[i].layer); });
    } else if (!lines.empty()) {
        left_out.sentences.push_back(fmt::format("{} construction lines were left out.", lines.size()));
        leave_out(pieces, left_out, [&](std::size_t i) { return lines.contains(i); });
    }
    const auto circles = construction_circles(pieces, tolerance);
    if (circles.empty()) return;
    left_out.sentences.push_back(
        "Circles that other lines go through were taken for construction and left out.");
    leave_out(pieces, left_out, [&](std::size_t i) { return circles.contains(i); });
}

void drop_far_parts(Arrangement& graph, double tolerance, LeftOut& left_out) {
    const PlaneFaces faces = plane_faces(graph);
    const std::size_t count = faces.outlines.size();
    std::vector<double> reach(count, 0);
    std::vector<bool> round(count, false);
    std::vector<double> straight(count, 0), curved(count, 0); ///< lengths
    double outermost = 0;
    for (std::size_t i = 0; i < graph.edges.size(); ++i) {
        const Piece p = graph.piece(graph.edges[i]);
        const auto c = std::size_t(faces.component[i]);
        reach[c] = std::max({reach[c], norm(p.a), norm(p.b), norm(point_at(p, 0.5))});
        (p.straight() ? straight : curved)[c] += length_of(p);
        if (!is_about(p, {}, tolerance)) continue;
        round[c] = true;
        outermost = std::max(outermost, norm(p.a));
    }
    // An outline with eccentric faces goes round the centre, too; a frame does so with straight lines.
    for (std::size_t c = 0; c < count; ++c)
        if (curved[c] > 0.25 * straight[c] && contains(polygon_of(graph, faces.outlines[c]), {}))
            round[c] = true;
    for (std::size_t c = 0; c < count; ++c)
        if (round[c]) outermost = std::max(outermost, reach[c]);
    std::size_t dropped = 0;
    std::vector<Arrangement::Edge> kept;
    for (std::size_t i = 0; i < graph.edges.size(); ++i) {
        const auto c = std::size_t(faces.component[i]);
        if (round[c] || reach[c] <= outermost + tolerance) {
            kept.push_back(graph.edges[i]);
        } else {
            ++dropped;
            left_out.lines.push_back(graph.piece(graph.edges[i]));
        }
    }
    if (dropped == 0) return;
    graph.edges = kept;
    left_out.sentences.push_back(fmt::format(
        "{} lines apart from the machine, such as a frame or a title block, were left out.", dropped));
}

} // namespace mavlo
