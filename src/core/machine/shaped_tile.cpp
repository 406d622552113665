#include "machine/shaped_tile.h"

#include "machine/graph_tile.h"
#include "quantity/constants.h"
#include "shape/faces.h"
#include "shape/outline_pieces.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace mavlo {
namespace {

constexpr double same_line = 1e-8;       ///< m
constexpr double least_overlap = 1e-10;  ///< m2: touching is none
constexpr int of_tile = 0, of_shape = 1; ///< layers

/// A shape where it stands in the tile.
struct Placed {
    std::size_t shape;
    std::vector<Piece> pieces;
    Polygon polygon;
    double direction;
};

/// Where a face belongs: to a shape, else to a region of the tile; neither: it lies outside.
struct Owner {
    int shape = -1, region = -1;
    double direction = 0;
    int restored_by = -1; ///< the shape that gave back what an earlier one had taken
    bool inside() const { return region >= 0; }
};

Piece mirrored(const Piece& p) {
    return {{p.a.x, -p.a.y}, {p.b.x, -p.b.y}, -p.bulge, p.layer};
}

Piece turned(const Piece& p, double angle) {
    return {rotated(p.a, angle), rotated(p.b, angle), p.bulge, p.layer};
}

class Shaper {
  public:
    Shaper(Tile tile, const std::vector<ShapeOutline>& shapes, std::string side)
        : m_tile(std::move(tile))
        , m_shapes(shapes)
        , m_side(std::move(side))
        , m_old(m_tile.regions) {}

    Result<Tile> run() {
        for (std::size_t i = 0; i < m_shapes.size(); ++i)
            if (m_shapes[i].side == m_side) place(i);
        if (m_placed.empty()) return std::move(m_tile);
        locate_regions();
        const Arrangement graph = all_lines();
        const std::vector<OwnedFace> faces = owned_faces(graph);
        if (!check(faces)) return m_problems;
        rebuild(without_inner_lines(graph, faces));
        return std::move(m_tile);
    }

  private:
    /// In this pitch and, where it reaches over, from the next ones.
    void place(std::size_t number) {
        const ShapeOutline& shape = m_shapes[number];
        for (int k = -1; k <= 1; ++k)
            for (int image = 0; image < (shape.mirrored ? 2 : 1); ++image) {
                Placed placed{
                    number, {}, {}, (image ? -shape.direction : shape.direction) + k * (m_tile.pitch + pi)};
                for (Piece p : shape.pieces) {
                    if (image) p = mirrored(p);
                    p.layer = of_shape;
                    placed.pieces.push_back(turned(p, k * m_tile.pitch));
                }
                for (const Piece& p : placed.pieces) {
                    const int steps = p.straight() ? 1 : 2 + int(std::abs(sweep_of(p)) / 0.01);
                    for (int i = 0; i < steps; ++i) placed.polygon.push_back(point_at(p, double(i) / steps));
                }
                m_placed.push_back(std::move(placed));
            }
    }

    void locate_regions() {
        std::vector<Piece> pieces;
        for (const Edge& edge : m_tile.outline.edges) {
            pieces.push_back(piece_of(m_tile.outline, edge));
            pieces.back().layer = of_tile;
        }
        m_plain = arrange(pieces, same_line);
        m_faces = plane_faces(m_plain).faces;
        for (const PlaneFace& face : m_faces) {
            const auto region = std::find_if(m_tile.regions.begin(), m_tile.regions.end(),
                                             [&](const Region& r) { return holds(m_plain, face, r.seed); });
            m_region_of.push_back(region == m_tile.regions.end() ? -1 : int(region - m_tile.regions.begin()));
        }
    }

    Arrangement all_lines() const {
        std::vector<Piece> pieces;
        for (const auto& edge : m_plain.edges) pieces.push_back(m_plain.piece(edge));
        for (const Placed& placed : m_placed)
            pieces.insert(pieces.end(), placed.pieces.begin(), placed.pieces.end());
        return arrange(pieces, same_line);
    }

    Owner owner_at(Point p) const {
        Owner owner;
        for (std::size_t i = 0; i < m_faces.size() && !owner.inside(); ++i)
            if (m_region_of[i] >= 0 && holds(m_plain, m_faces[i], p)) owner.region = m_region_of[i];
        if (!owner.inside()) return owner;
        const Region& region = m_old[std::size_t(owner.region)];
        for (const Placed& placed : m_placed) {
            if (!contains(placed.polygon, p)) continue;
            // Steel over the same steel, air over air: what the tile has there, again.
            const ShapeOutline& shape = m_shapes[placed.shape];
            const bool same_stuff = shape.use == region.use && shape.material_path == region.material;
            if (same_stuff && owner.shape >= 0) owner.restored_by = int(placed.shape);
            owner.shape = same_stuff ? -1 : int(placed.shape);
            owner.direction = same_stuff ? 0 : placed.direction;
        }
        return owner;
    }

    struct OwnedFace {
        PlaneFace face;
        Owner owner;
    };

    std::vector<OwnedFace> owned_faces(const Arrangement& graph) const {
        std::vector<OwnedFace> list;
        for (PlaneFace& face : plane_faces(graph).faces) {
            const Owner owner = owner_at(face.inside);
            list.push_back({std::move(face), owner});
        }
        return list;
    }

    /// Whether no shape overlaps what it must not, and each changes something.
    bool check(const std::vector<OwnedFace>& faces) {
        std::vector<double> changed(m_shapes.size(), 0);
        std::vector<std::map<Use, double>> overlaps(m_shapes.size());
        for (const auto& [face, owner] : faces) {
            if (owner.restored_by >= 0) changed[std::size_t(owner.restored_by)] += face.area;
            if (owner.shape < 0) continue;
            const auto shape = std::size_t(owner.shape);
            const Use old = m_old[std::size_t(owner.region)].use;
            if (old != Use::Iron && old != Use::Air) overlaps[shape][old] += face.area;
            changed[shape] += face.area;
        }
        for (std::size_t i = 0; i < m_shapes.size(); ++i) {
            if (m_shapes[i].side != m_side) continue;
            const std::string path = "drawings.shapes." + m_shapes[i].name;
            for (const auto& [use, area] : overlaps[i])
                if (area > least_overlap)
                    m_problems.push_back(
                        {path,
                         fmt::format("“{}” overlaps {} by {:.3g} mm² a pitch; move it away or make it smaller.",
                                     m_shapes[i].name,
                                     use == Use::Conductor ? "the winding"
                                     : use == Use::Magnet  ? "a magnet"
                                                           : "the shaft",
                                     area * (m_tile.mirrored ? 2e6 : 1e6))});
            if (changed[i] > least_overlap) continue;
            m_problems.push_back(
                {path,
                 m_shapes[i].use == Use::Iron
                     ? fmt::format("“{}” lies in steel already; let it cross a pocket.", m_shapes[i].name)
                     : fmt::format("“{}” cuts nothing out of the {}'s steel; move it onto the lamination.",
                                   m_shapes[i].name, m_side)});
        }
        return m_problems.empty();
    }

    /// Lines with the same on both sides are none, but for those that the tile had.
    Arrangement without_inner_lines(const Arrangement& graph, const std::vector<OwnedFace>& faces) const {
        std::vector<std::vector<Owner>> sides(graph.edges.size());
        for (const OwnedFace& owned : faces) {
            const auto note = [&](const Walk& walk) {
                for (const HalfEdge& half : walk) sides[std::size_t(half.edge)].push_back(owned.owner);
            };
            note(owned.face.outer);
            for (const Walk& hole : owned.face.holes) note(hole);
        }
        std::vector<Piece> pieces;
        for (std::size_t i = 0; i < graph.edges.size(); ++i) {
            const auto& edge = graph.edges[i];
            const bool any =
                std::any_of(sides[i].begin(), sides[i].end(), [](const Owner& o) { return o.inside(); });
            const bool tile_line = edge.layer == of_tile || edge.also == of_tile;
            const bool alike =
                sides[i].size() == 2 && sides[i][0].shape == sides[i][1].shape &&
                (sides[i][0].shape >= 0 || (sides[i][0].region == sides[i][1].region && !tile_line));
            if (any && !alike) pieces.push_back(graph.piece(edge));
        }
        return arrange(pieces, same_line);
    }

    void rebuild(const Arrangement& graph) {
        const TileEdges edges{m_tile.first_angle(), m_tile.half_pitch(), m_tile.mirrored};
        m_tile.regions.clear();
        for (const auto& [face, owner] : owned_faces(graph)) {
            if (!owner.inside()) continue;
            Region region = m_old[std::size_t(owner.region)];
            if (owner.shape >= 0) region = of(owner, edges.spans(graph, face));
            region.seed = face.inside;
            m_tile.regions.push_back(std::move(region));
        }
        m_tile.outline = outline_of(graph, edges);
        for (const auto& edge : graph.edges)
            if (edge.layer == of_shape) add_hints(m_tile, graph.piece(edge));
    }

    Region of(const Owner& owner, Spans spans) const {
        const ShapeOutline& shape = m_shapes[std::size_t(owner.shape)];
        Region region;
        region.use = shape.use;
        region.path = m_side + ".shapes." + shape.name;
        region.material = shape.material_path;
        if (shape.use == Use::Magnet) {
            region.magnet = Remanence{owner.direction, 0};
            region.part = 100 + owner.shape; // beside the kind's own pieces
            region.spans = spans;
        }
        return region;
    }

    Tile m_tile;
    const std::vector<ShapeOutline>& m_shapes;
    std::string m_side;
    std::vector<Region> m_old; ///< regions of the tile without shapes
    std::vector<Placed> m_placed;
    Arrangement m_plain;
    std::vector<PlaneFace> m_faces;
    std::vector<int> m_region_of;
    Problems m_problems;
};

} // namespace

Result<Tile> with_shapes(Tile tile, const std::vector<ShapeOutline>& shapes, const std::string& side) {
    const bool one_sided = std::any_of(shapes.begin(), shapes.end(),
                                       [&](const ShapeOutline& s) { return s.side == side && !s.mirrored; });
    if (one_sided && tile.mirrored) tile = unmirrored(tile);
    return Shaper(std::move(tile), shapes, side).run();
}

} // namespace mavlo
