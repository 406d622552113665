#include "drawing/section.h"

#include "shape/outline_pieces.h"
#include "shape/plane_faces.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace mavlo {
namespace {

constexpr double here = 1e-8;

Arrangement graph_of(const Outline& outline) {
    Arrangement graph;
    graph.vertices = outline.points;
    for (const Edge& e : outline.edges) graph.edges.push_back({e.from, e.to, piece_of(outline, e).bulge, 0});
    return graph;
}

bool on_line(Point p, double angle) {
    return std::abs(cross(polar(1, angle), p)) < here && dot(polar(1, angle), p) > -here;
}

constexpr int rank_of_shaft = 2, rank_of_air = 3;

/// How particular a region is; the gap's side and the outside count least.
int rank_of(const Region* region) {
    if (!region) return 0;
    switch (region->use) {
    case Use::Magnet:
        return 5;
    case Use::Conductor:
        return 4;
    case Use::Air:
        return rank_of_air;
    case Use::Solid:
        return rank_of_shaft;
    case Use::Iron:
        break;
    }
    return 1;
}

std::string layer_of(int rank, bool turns) {
    const std::string side = turns ? "ROTOR_" : "STATOR_";
    switch (rank) {
    case 5:
        return side + "MAGNET";
    case 4:
        return side + "CONDUCTOR";
    case 3:
        return side + "AIR";
    case 2:
        return side + "SHAFT";
    default:
        return side + "IRON";
    }
}

class Writer {
  public:
    Writer(const Machine& machine, Shown shown)
        : m_machine(machine)
        , m_shown(shown) {}

    SectionPieces run() {
        for (std::size_t b = 0; b < m_machine.section.bodies.size(); ++b) {
            const Body& body = m_machine.section.bodies[b];
            const int pitches = m_shown == Shown::Whole      ? body.pitches
                                : m_shown == Shown::Computed ? m_machine.sector().pitches[b]
                                                             : 1;
            add(body, pitches);
        }
        return m_out;
    }

  private:
    void add(const Body& body, int pitches) {
        const Tile& tile = body.tile;
        const Arrangement graph = graph_of(tile.outline);
        const std::vector<PlaneFace> faces = plane_faces(graph).faces;
        const std::vector<const Region*> owners = edge_owners(graph, faces, tile);
        for (std::size_t i = 0; i < graph.edges.size(); ++i) {
            const Piece p = graph.piece(graph.edges[i]);
            const int rank = rank_of(owners[i]);
            if ((is_of_mesh(p, tile) && !parts_magnets(p, owners[i], tile)) || closes_air(p, rank, tile))
                continue;
            const int layer = layer_number(layer_of(rank, body.turns));
            const bool on_axis = tile.mirrored && p.straight() && on_line(p.a, 0) && on_line(p.b, 0);
            const bool on_boundary =
                p.straight() && on_line(p.a, tile.half_pitch()) && on_line(p.b, tile.half_pitch());
            const bool halved = is_halved(tile);
            if (on_axis && (halved || !parts_conductors(rank, body))) continue;
            for (int k = 0; k < pitches; ++k) {
                put(p, tile.turn + k * tile.pitch, false, layer);
                if (tile.mirrored && !halved && !on_axis && !on_boundary)
                    put(p, tile.turn + k * tile.pitch, true, layer);
            }
        }
        if (m_shown != Shown::Whole) cut(graph, faces, body, pitches);
    }

    bool is_halved(const Tile& tile) const { return m_shown == Shown::Half && tile.mirrored; }

    /// Closes what is less than the turn.
    void cut(const Arrangement& graph, const std::vector<PlaneFace>& faces, const Body& body, int pitches) {
        const Tile& tile = body.tile;
        const double last = tile.turn - tile.pitch / 2 + pitches * tile.pitch;
        const auto draw = [&](double at, double drawn_at) {
            for (const CutPart& part : cut_parts(graph, faces, body, at))
                m_out.pieces.push_back({polar(part.from, drawn_at), polar(part.to, drawn_at), 0, part.layer});
        };
        if (is_halved(tile))
            draw(0, tile.turn);
        else
            draw(tile.half_pitch(), tile.turn - tile.pitch / 2);
        draw(tile.half_pitch(), last);
    }

    bool parts_conductors(int rank, const Body& body) const {
        return rank == 4 && !body.turns && m_machine.winding.layout.sharing == SlotSharing::SideBySide;
    }

    /// Magnets of neighbouring poles that touch are two.
    static bool parts_magnets(const Piece& p, const Region* owner, const Tile& tile) {
        return owner && owner->magnet && owner->spans != Spans::Boundary && p.straight() &&
               on_line(p.a, tile.half_pitch()) && on_line(p.b, tile.half_pitch());
    }

    /// What a cut between two pitches goes through, between two radii.
    struct CutPart {
        double from, to;
        int layer;
    };

    /// Steel, magnets and closed pockets at an angle of the tile; neither the shaft nor air that is open to the
    /// gap.
    std::vector<CutPart> cut_parts(const Arrangement& graph, const std::vector<PlaneFace>& faces,
                                   const Body& body, double at) {
        const Tile& tile = body.tile;
        std::vector<CutPart> parts;
        for (const PlaneFace& face : faces) {
            const Region* region = region_in(graph, face, tile);
            const int rank = rank_of(region);
            const bool is_open = rank == rank_of_air && reaches_gap(graph, face, tile);
            if (!region || is_open || rank == rank_of_shaft || region->path.ends_with(".bore")) continue;
            for (HalfEdge side : face.outer) {
                const Piece p = piece_of(graph, side);
                if (!p.straight() || !on_line(p.a, at) || !on_line(p.b, at)) continue;
                double from = std::min(norm(p.a), norm(p.b));
                const double to = std::max(norm(p.a), norm(p.b));
                // The hole in the middle of a solid body is the mesh's alone.
                if (!tile.outside() && std::abs(from - tile.far_radius) < here && inner_radius(body) == 0)
                    from = 0;
                parts.push_back({from, to, layer_number(layer_of(rank, body.turns))});
            }
        }
        return parts;
    }

    static bool reaches_gap(const Arrangement& graph, const PlaneFace& face, const Tile& tile) {
        return std::any_of(face.outer.begin(), face.outer.end(),
                           [&](HalfEdge side) { return on_gap(piece_of(graph, side), tile); });
    }

    static bool on_gap(const Piece& p, const Tile& tile) {
        return !p.straight() && norm(circle_of(p).centre) < here &&
               std::abs(norm(p.a) - tile.gap_radius) < here;
    }

    static const Region* region_in(const Arrangement& graph, const PlaneFace& face, const Tile& tile) {
        const Region* region = nullptr;
        for (const Region& r : tile.regions)
            if (holds(graph, face, r.seed)) region = &r;
        return region;
    }

    double inner_radius(const Body& body) const {
        const Values& v = m_machine.values;
        return m_machine.outer_rotor() ? v.number("stator.bore_diameter") / 2
               : body.turns            ? v.number("rotor.shaft_diameter") / 2
                                       : 0;
    }

    /// The tile's own edges, the circle round the hole that is left out, and the gap's where it is lifted.
    bool is_of_mesh(const Piece& p, const Tile& tile) const {
        if (p.straight())
            for (double angle : {tile.first_angle(), tile.half_pitch()})
                if ((angle != 0 || !tile.mirrored) && on_line(p.a, angle) && on_line(p.b, angle)) return true;
        if (p.straight() || norm(circle_of(p).centre) > here) return false;
        const double r = norm(p.a);
        if (!tile.outside() && std::abs(r - tile.far_radius) < here) return true;
        return tile.gap_radius != tile.face_radius && std::abs(r - tile.gap_radius) < here;
    }

    /// Air that is open to the gap ends nowhere.
    static bool closes_air(const Piece& p, int rank, const Tile& tile) {
        return rank == rank_of_air && on_gap(p, tile);
    }

    static std::vector<const Region*> edge_owners(const Arrangement& graph, const std::vector<PlaneFace>& faces,
                                                  const Tile& tile) {
        std::vector<const Region*> owners(graph.edges.size(), nullptr);
        for (const PlaneFace& face : faces) {
            const Region* region = region_in(graph, face, tile);
            const auto raise = [&](const Walk& walk) {
                for (HalfEdge e : walk)
                    if (const Region*& owner = owners[std::size_t(e.edge)]; rank_of(region) > rank_of(owner))
                        owner = region;
            };
            raise(face.outer);
            for (const Walk& hole : face.holes) raise(hole);
        }
        return owners;
    }

    void put(Piece p, double axis, bool image, int layer) {
        if (image) p = {{p.a.x, -p.a.y}, {p.b.x, -p.b.y}, -p.bulge, 0};
        m_out.pieces.push_back({rotated(p.a, axis), rotated(p.b, axis), p.bulge, layer});
    }

    int layer_number(const std::string& name) {
        const auto found = std::find(m_out.layers.begin(), m_out.layers.end(), name);
        if (found != m_out.layers.end()) return int(found - m_out.layers.begin());
        m_out.layers.push_back(name);
        return int(m_out.layers.size()) - 1;
    }

    const Machine& m_machine;
    Shown m_shown;
    SectionPieces m_out;
};

} // namespace

SectionPieces section_pieces(const Machine& machine, Shown shown) {
    return Writer(machine, shown).run();
}

} // namespace mavlo
