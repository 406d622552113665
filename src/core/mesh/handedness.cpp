#include "mesh/handedness.h"

#include <algorithm>
#include <numeric>

namespace mavlo {
namespace {

void mirror(Point& p) {
    p.y = -p.y;
}

void mirror(Tile& tile) {
    for (Point& p : tile.outline.points) mirror(p);
    for (Edge& edge : tile.outline.edges)
        if (edge.centre) mirror(*edge.centre);
    for (Region& region : tile.regions) mirror(region.seed);
    for (SizeHint& hint : tile.hints) mirror(hint.at);
}

void put_in_order(Outline& outline) {
    std::vector<int> order(outline.points.size()), place(order.size());
    std::iota(order.begin(), order.end(), 0);
    const auto key = [&](int i) {
        const Point& p = outline.points[std::size_t(i)];
        return std::pair(p.x, p.y);
    };
    std::sort(order.begin(), order.end(), [&](int a, int b) { return key(a) < key(b); });
    std::vector<Point> points;
    for (int old : order) {
        place[std::size_t(old)] = int(points.size());
        points.push_back(outline.points[std::size_t(old)]);
    }
    outline.points = points;
    for (Edge& edge : outline.edges) {
        edge.from = place[std::size_t(edge.from)];
        edge.to = place[std::size_t(edge.to)];
        if (edge.from > edge.to) std::swap(edge.from, edge.to);
    }
    std::sort(outline.edges.begin(), outline.edges.end(),
              [](const Edge& a, const Edge& b) { return std::pair(a.from, a.to) < std::pair(b.from, b.to); });
}

} // namespace

Handed to_one_hand(const Tile& whole) {
    double lean = 0, size = 0;
    for (const Point& p : whole.outline.points) lean += p.y, size += norm(p);
    Handed out{whole, lean > 1e-9 * size};
    if (out.mirrored) mirror(out.tile);
    put_in_order(out.tile.outline);
    return out;
}

TileMesh mirror_image(TileMesh mesh) {
    for (Point& p : mesh.nodes) mirror(p);
    for (auto& t : mesh.triangles) t.node = {t.node[0], t.node[2], t.node[1], t.node[5], t.node[4], t.node[3]};
    for (auto* edges : {&mesh.gap_edges, &mesh.outside_edges})
        for (auto& edge : *edges) std::swap(edge[0], edge[2]);
    std::swap(mesh.on_first, mesh.on_second);
    std::vector<int> image(mesh.image.size(), -1);
    for (std::size_t i = 0; i < image.size(); ++i)
        if (mesh.image[i] >= 0) image[std::size_t(mesh.image[i])] = int(i);
    mesh.image = image;
    return mesh;
}

} // namespace mavlo
