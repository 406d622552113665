#include "mesh/body_mesh.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <map>
#include <numbers>
#include <tuple>

namespace mavlo {
namespace {

/// Lays out pieces round a sector: halves of a mirrored tile, or whole tiles. Half h is mirrored when even: it
/// covers the angles (h-1)g … hg, and pitch h/2 is centred on 2 (h/2) g. Whole tile h covers (2h-1)g … (2h+1)g.
class Layout {
  public:
    Layout(const Body& body, int number, const TileMesh& mesh, int pitches, int sign, bool side_by_side)
        : m_body(body)
        , m_tile(body.tile)
        , m_mesh(mesh)
        , m_number(number)
        , m_pitches(pitches)
        , m_sign(sign)
        , m_side_by_side(side_by_side) {
        m_out.smallest_angle = mesh.smallest_angle;
    }

    BodyMesh run() {
        const int pieces = m_tile.mirrored ? 2 * m_pitches : m_pitches;
        m_out.copies = pieces;
        std::vector<int> previous;
        for (int h = 0; h < pieces; ++h) {
            const std::vector<int> ids = place_nodes(h, previous);
            for (std::size_t r = 0; r < m_tile.regions.size(); ++r) m_out.parts.push_back(part(int(r), h));
            place_elements(h, ids);
            previous = ids;
            if (h == 0) m_start = ids;
        }
        close(previous);
        m_out.magnets = int(m_magnets.size());
        number_unknowns();
        m_out.image = std::move(m_image);
        return std::move(m_out);
    }

  private:
    bool reversed(int h) const { return m_tile.mirrored && h % 2 == 0; }
    int pitch_of(int h) const { return m_tile.mirrored ? h / 2 : h; }

    double angle(int h, double local) const {
        const double axis = m_tile.turn + pitch_of(h) * m_tile.pitch;
        return reversed(h) ? axis - local : axis + local;
    }

    /// A node's angle in its tile, exact on the tile's edges.
    double local_angle(std::size_t node) const {
        return m_mesh.on_first[node]    ? m_tile.first_angle()
               : m_mesh.on_second[node] ? m_tile.half_pitch()
                                        : m_tile.chart.angle(m_mesh.nodes[node]);
    }

    /// The node of the piece before that this node is, when the pieces touch there; -1 for others.
    int shared(int h, std::size_t node, const std::vector<int>& previous) const {
        if (h == 0) return -1;
        // Even halves begin on the second edge, odd ones on the axis: there the half before has the same node.
        if (m_tile.mirrored)
            return (h % 2 ? m_mesh.on_first[node] : m_mesh.on_second[node]) ? previous[node] : -1;
        if (!m_mesh.on_first[node]) return -1;
        return previous[std::size_t(m_partner[node])];
    }

    std::vector<int> place_nodes(int h, const std::vector<int>& previous) {
        if (!m_tile.mirrored && m_partner.empty()) find_partners();
        std::vector<int> ids(m_mesh.nodes.size());
        for (std::size_t i = 0; i < ids.size(); ++i) {
            if (const int same = shared(h, i, previous); same >= 0) {
                ids[i] = same;
                continue;
            }
            ids[i] = int(m_out.nodes.size());
            m_out.nodes.push_back(m_tile.place(m_tile.chart.height(m_mesh.nodes[i]), angle(h, local_angle(i))));
            m_image.push_back(-1);
            m_fixed.push_back(m_mesh.on_outside[i] && !m_tile.open && !m_tile.mirror);
        }
        return ids;
    }

    /// Nodes at the sector's far end are those at its beginning, with the sector's sign.
    void close(const std::vector<int>& last) {
        for (std::size_t i = 0; i < last.size(); ++i) {
            if (!m_mesh.on_second[i]) continue;
            // A mirrored tile's first half begins on the same edge that the last one ends on.
            const std::size_t start = m_tile.mirrored ? i : std::size_t(m_mesh.image[i]);
            assert(start < m_start.size() && "a node on the far edge has its like on the near one");
            m_image[std::size_t(last[i])] = m_start[start];
        }
    }

    void find_partners() {
        m_partner.assign(m_mesh.nodes.size(), -1);
        for (std::size_t i = 0; i < m_mesh.image.size(); ++i)
            if (m_mesh.image[i] >= 0) m_partner[std::size_t(m_mesh.image[i])] = int(i);
    }

    Part part(int index, int h) {
        const Region& region = m_tile.regions[std::size_t(index)];
        Part out;
        out.use = region.use;
        out.body = m_number;
        out.region = index;
        out.pitch = pitch_of(h);
        out.substance = region.substance;
        if (region.use == Use::Conductor) out.layer = m_side_by_side ? upper(region, h) : region.part;
        if (region.magnet) magnet(region, h, out);
        return out;
    }

    bool upper(const Region& region, int h) const { return m_tile.mirrored ? h % 2 : region.seed.y > 0; }

    void magnet(const Region& region, int h, Part& out) {
        const double axis = m_tile.turn + out.pitch * m_tile.pitch,
                     a = reversed(h) ? -region.magnet->angle : region.magnet->angle;
        const double turn = region.magnet->turn;
        const double flip = m_body.alternates && out.pitch % 2 ? std::numbers::pi : 0;
        // On a flat chart directions do not turn with the place.
        out.direction = {(m_tile.chart.is_flat() ? 0 : axis) + a - turn * axis + flip, turn};
        // Halves that the axis parts are one body; those that a boundary parts belong to the boundary.
        int where = 2 * out.pitch + (upper(region, h) ? 1 : 0);
        if (region.spans == Spans::Axis) where = 2 * out.pitch;
        if (region.spans == Spans::Boundary) {
            where = out.pitch + (upper(region, h) ? 1 : 0);
            if (where == m_pitches) {
                where = 0;
                out.magnet_sign = m_sign;
            }
        }
        const auto key = std::tuple(region.path, region.part, int(region.spans), where);
        out.magnet = m_magnets.try_emplace(key, int(m_magnets.size())).first->second;
    }

    void place_elements(int h, const std::vector<int>& ids) {
        const int first_part = int(m_out.parts.size() - m_tile.regions.size());
        for (const auto& t : m_mesh.triangles) {
            std::array<int, 6> node{};
            for (std::size_t k = 0; k < 6; ++k) node[k] = ids[std::size_t(t.node[k])];
            if (reversed(h)) node = {node[0], node[2], node[1], node[5], node[4], node[3]};
            m_out.elements.push_back({node, first_part + t.region, t.curved});
        }
        for (const auto& e : m_mesh.gap_edges) m_out.gap.push_back(circle_edge(e, h, ids));
        if (m_tile.open)
            for (const auto& e : m_mesh.outside_edges) m_out.outside.push_back(circle_edge(e, h, ids));
    }

    BodyMesh::CircleEdge circle_edge(const std::array<int, 3>& e, int h, const std::vector<int>& ids) const {
        BodyMesh::CircleEdge edge{{ids[std::size_t(e[0])], ids[std::size_t(e[1])], ids[std::size_t(e[2])]},
                                  angle(h, local_angle(std::size_t(e[0]))),
                                  angle(h, local_angle(std::size_t(e[2])))};
        if (edge.from > edge.to) {
            std::swap(edge.from, edge.to);
            std::swap(edge.node[0], edge.node[2]);
        }
        return edge;
    }

    void number_unknowns() {
        const std::size_t n = m_out.nodes.size();
        m_out.unknown.assign(n, -1);
        m_out.sign.assign(n, 1);
        for (std::size_t i = 0; i < n; ++i)
            if (m_image[i] < 0 && !m_fixed[i]) m_out.unknown[i] = m_out.unknowns++;
        for (std::size_t i = 0; i < n; ++i)
            if (m_image[i] >= 0 && !m_fixed[i]) {
                m_out.unknown[i] = m_out.unknown[std::size_t(m_image[i])];
                m_out.sign[i] = std::int8_t(m_sign);
            }
    }

    const Body& m_body;
    const Tile& m_tile;
    const TileMesh& m_mesh;
    int m_number, m_pitches, m_sign;
    bool m_side_by_side;
    BodyMesh m_out;
    std::vector<int> m_start, m_image, m_partner;
    std::vector<bool> m_fixed;
    std::map<std::tuple<std::string, int, int, int>, int> m_magnets;
};

} // namespace

BodyMesh body_mesh(const Body& body, int number, const TileMesh& mesh, int pitches, int sign,
                   bool side_by_side) {
    return Layout(body, number, mesh, pitches, sign, side_by_side).run();
}

void displace(BodyMesh& mesh, const Tile& tile, const std::function<Point(Point)>& by) {
    const double layer = tile.face_radius - tile.gap_radius;
    std::vector<double> share;
    for (Point& p : mesh.nodes) {
        share.push_back(std::clamp((tile.chart.height(p) - tile.gap_radius) / layer, 0.0, 1.0));
        const Point moved = by(p);
        assert(norm(moved) < std::abs(layer));
        p = p + share.back() * moved;
    }
    constexpr double little = 1e-6;
    for (const BodyMesh::Element& e : mesh.elements)
        for (std::size_t k = 0; k < 3; ++k) { // edges within the layer stay straight
            const auto middle = std::size_t(e.node[3 + k]), from = std::size_t(e.node[k]),
                       to = std::size_t(e.node[(k + 1) % 3]);
            if (share[middle] > little && share[middle] < 1 - little)
                mesh.nodes[middle] = 0.5 * (mesh.nodes[from] + mesh.nodes[to]);
        }
}

} // namespace mavlo
