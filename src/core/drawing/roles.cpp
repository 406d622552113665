#include "drawing/roles.h"

#include "drawing/centre.h"
#include "drawing/gap_side.h"
#include "quantity/constants.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace mavlo {
namespace {

constexpr double right_angle_slack = 0.02; ///< rad
constexpr double tangential_share = 0.17;  ///< of a direction along the radius: less is across it

bool goes_on(const Piece& a, const Piece& b) {
    if (a.straight() != b.straight()) return false;
    if (a.straight()) {
        const Point u = tangent_at(a, 0), v = tangent_at(b, 0);
        return std::abs(cross(u, v)) < 2e-4 && dot(u, v) > 0;
    }
    const Circle c = circle_of(a), d = circle_of(b);
    return a.bulge * b.bulge > 0 && distance(c.centre, d.centre) < 1e-3 * c.radius &&
           std::abs(c.radius - d.radius) < 1e-3 * c.radius;
}

Piece one_of(const Piece& a, const Piece& b) {
    if (a.straight()) return {a.a, b.b, 0, a.layer};
    return {a.a, b.b, std::tan((sweep_of(a) + sweep_of(b)) / 4), a.layer};
}

bool is_circle(const std::vector<Piece>& sides) {
    return !sides.empty() && std::all_of(sides.begin(), sides.end(), [&](const Piece& p) {
        return !p.straight() &&
               distance(circle_of(p).centre, circle_of(sides.front()).centre) < 1e-3 * circle_of(p).radius;
    });
}

/// A block: four straight sides with right angles between them.
bool is_block(const std::vector<Piece>& sides) {
    if (sides.size() != 4) return false;
    for (std::size_t k = 0; k < 4; ++k) {
        const Piece &a = sides[k], &b = sides[(k + 1) % 4];
        if (!a.straight() || std::abs(dot(tangent_at(a, 0), tangent_at(b, 0))) > right_angle_slack)
            return false;
    }
    return true;
}

/// Four sides or so, two of them about the centre or nearly: what lies on a rotor's surface.
bool is_shell(const std::vector<Piece>& sides) {
    const auto arcs = std::count_if(sides.begin(), sides.end(), [](const Piece& p) { return !p.straight(); });
    return arcs >= 1 && sides.size() >= 3 && sides.size() <= 8;
}

bool names_magnet(const std::string& name) {
    const std::string layer = lower_case(name);
    return layer.find("mag") != std::string::npos || layer == "pm" || layer.starts_with("pm_") ||
           layer.find("aimant") != std::string::npos || layer.find("iman") != std::string::npos;
}

class Proposer {
  public:
    Proposer(const Arrangement& graph, const PlaneFaces& faces, const Ring& ring,
             const std::vector<std::string>& layers)
        : m_graph(graph)
        , m_faces(faces)
        , m_ring(ring)
        , m_layers(layers)
        , m_face_of(2 * graph.edges.size(), -1) {
        for (std::size_t f = 0; f < faces.faces.size(); ++f) {
            mark(faces.faces[f].outer, int(f));
            for (const Walk& hole : faces.faces[f].holes) mark(hole, int(f));
        }
    }

    std::vector<DrawnFace> run() {
        std::vector<int> own = faces_of_ring();
        if (m_ring.side == DrawnSide::Rotor)
            for (int f : own) m_out.push_back({f, rotor_role(f, own), std::nullopt});
        else
            stator_roles(own);
        agree();
        m_out.insert(m_out.begin(), {m_ring.iron, Role::Iron, std::nullopt});
        if (m_ring.core >= 0) m_out.push_back({m_ring.core, Role::Shaft, std::nullopt});
        return m_out;
    }

  private:
    const PlaneFace& face(int f) const { return m_faces.faces[std::size_t(f)]; }

    void mark(const Walk& walk, int f) {
        for (HalfEdge s : walk) m_face_of[2 * std::size_t(s.edge) + (s.forward ? 0 : 1)] = f;
    }

    /// What touches the iron or lies in its pockets, and what touches that: neither the gap nor what is beyond
    /// it.
    std::vector<int> faces_of_ring() const {
        std::vector<int> own;
        std::set<int> seen{m_ring.iron, m_ring.core};
        std::vector<int> open{m_ring.iron};
        while (!open.empty()) {
            const int at = open.back();
            open.pop_back();
            for (int f : neighbours(at)) {
                // The gap, the bore and the other part's iron go round the centre.
                if (!seen.insert(f).second || contains(face(f).polygon, {})) continue;
                own.push_back(f);
                open.push_back(f);
            }
        }
        std::sort(own.begin(), own.end());
        return own;
    }

    /// Faces of one size at one radius are one thing, whatever a gap or a stray line makes of some of them.
    void agree() {
        for (DrawnFace& drawn : m_out) {
            std::map<Role, int> votes;
            for (const DrawnFace& other : m_out)
                if (are_alike(face(drawn.face), face(other.face))) ++votes[other.role];
            const auto most = std::max_element(
                votes.begin(), votes.end(), [](const auto& a, const auto& b) { return a.second < b.second; });
            if (most->second > 2 * votes[drawn.role]) drawn.role = most->first;
        }
    }

    static bool are_alike(const PlaneFace& a, const PlaneFace& b) {
        return std::abs(a.area - b.area) < 2e-3 * a.area &&
               std::abs(norm(a.centroid) - norm(b.centroid)) < 1e-3 * norm(a.centroid);
    }

    std::set<int> neighbours(int f) const {
        std::set<int> list;
        const auto look = [&](const Walk& walk) {
            for (HalfEdge s : walk) {
                const int other = m_face_of[2 * std::size_t(s.edge) + (s.forward ? 1 : 0)];
                if (other >= 0) list.insert(other);
            }
        };
        look(face(f).outer);
        for (const Walk& hole : face(f).holes) look(hole);
        return list;
    }

    /// Share of a face's outline that was drawn on a layer whose name says magnet.
    double named_share(int f) const {
        double named = 0, all = 0;
        for (HalfEdge s : face(f).outer) {
            const auto& e = m_graph.edges[std::size_t(s.edge)];
            const double length = length_of(m_graph.piece(e));
            all += length;
            for (int layer : {e.layer, e.also})
                if (layer >= 0 && names_magnet(m_layers[std::size_t(layer)])) {
                    named += length;
                    break;
                }
        }
        return named / all;
    }

    Role rotor_role(int f, const std::vector<int>& own) const {
        const auto sides = sides_of(m_graph, face(f));
        if (is_circle(sides)) return Role::Air;
        const auto near = neighbours(f);
        const bool has_air_beside = std::any_of(near.begin(), near.end(), [&](int n) {
            return n != m_ring.iron && std::find(own.begin(), own.end(), n) != own.end();
        });
        if (named_share(f) > 0.9) return Role::Magnet;
        // Beside a magnet, a much smaller block is the air at its end.
        const bool beside_larger = std::any_of(near.begin(), near.end(), [&](int n) {
            return n != m_ring.iron && face(n).area > 3 * face(f).area && is_block(sides_of(m_graph, face(n)));
        });
        if (is_block(sides)) return beside_larger ? Role::Air : Role::Magnet;
        const bool outside_iron = m_ring.gap_outside ? norm(face(f).centroid) > m_ring.outer - 1e-6
                                                     : norm(face(f).centroid) < m_ring.inner + 1e-6;
        if (outside_iron && is_shell(sides)) return Role::Magnet;
        // Let into the surface: nobody closes a notch with a line.
        if (reaches_gap(f) && is_curved_block(sides)) return Role::Magnet;
        // An arc-shaped magnet in a pocket has air at both of its ends.
        if (has_air_beside && is_curved_block(sides)) return Role::Magnet;
        return Role::Air;
    }

    /// Whether an edge lies on the circle that bounds the iron towards the gap.
    bool reaches_gap(int f) const {
        const double radius = m_ring.gap_outside ? m_ring.outer : m_ring.inner;
        return std::any_of(face(f).outer.begin(), face(f).outer.end(), [&](HalfEdge s) {
            const Piece p = piece_of(m_graph, s);
            return is_about(p, {}, 1e-6) && std::abs(norm(p.a) - radius) < 1e-4 * radius;
        });
    }

    static bool is_curved_block(const std::vector<Piece>& sides) {
        if (sides.size() != 4) return false;
        const bool arcs_first = !sides[0].straight() && !sides[2].straight() && sides[1].straight() &&
                                sides[3].straight(),
                   arcs_next = !sides[1].straight() && !sides[3].straight() && sides[0].straight() &&
                               sides[2].straight();
        return arcs_first || arcs_next;
    }

    /// Conductors are what repeats with the largest area; smaller closed shapes are air, circles bolt holes.
    void stator_roles(const std::vector<int>& own) {
        double most = 0;
        for (int f : own)
            if (!is_circle(sides_of(m_graph, face(f)))) most = std::max(most, face(f).area);
        for (int f : own) {
            const bool large = face(f).area > 0.4 * most && !is_circle(sides_of(m_graph, face(f)));
            // What has a conductor lie in it is the insulation round it.
            m_out.push_back({f, large && face(f).holes.empty() ? Role::Conductor : Role::Air, std::nullopt});
        }
    }

    const Arrangement& m_graph;
    const PlaneFaces& m_faces;
    const Ring& m_ring;
    const std::vector<std::string>& m_layers;
    std::vector<int> m_face_of; ///< left of each side
    std::vector<DrawnFace> m_out;
};

/// Whether a face's outline, from one side, is a plain circle about the centre.
bool is_plain(const Arrangement& graph, const Walk& walk) {
    return std::all_of(walk.begin(), walk.end(),
                       [&](HalfEdge s) { return is_about(piece_of(graph, s), {}, 1e-5); });
}

/// Radii between which a face lies, its holes taken out.
Span bounds_of(const Arrangement& graph, const PlaneFace& face) {
    Span s = span_of(face.polygon);
    for (const Walk& hole : face.holes)
        if (const Polygon polygon = polygon_of(graph, hole); contains(polygon, {}))
            s.inner = span_of(polygon).inner;
    if (contains(face.polygon, {}) && s.inner > 0 && face.holes.empty()) s.inner = 0;
    return s;
}

/// What is said for a face's ring being a rotor (above zero) or a stator.
double rotor_votes(const Arrangement& graph, const PlaneFaces& faces, Span ring,
                   const std::vector<std::string>& layers) {
    double named = 0, blocks = 0;
    for (const PlaneFace& face : faces.faces) {
        const double at = norm(face.centroid);
        if (contains(face.polygon, {}) || at < ring.inner || at > ring.outer) continue;
        if (is_block(sides_of(graph, face))) ++blocks;
        for (HalfEdge side : face.outer) {
            const std::string name = lower_case(layers[std::size_t(graph.edges[std::size_t(side.edge)].layer)]);
            named += (name.find("rotor") != std::string::npos || names_magnet(name)) -
                     (name.find("stator") != std::string::npos);
        }
    }
    return named != 0 ? named : blocks;
}

/// Whether of two rings, by their irons, the inner one is the stator.
bool is_outer_rotor(const Arrangement& graph, const PlaneFaces& faces, int inner, int outer,
                    const std::vector<std::string>& layers) {
    const PlaneFace &in = faces.faces[std::size_t(inner)], &out = faces.faces[std::size_t(outer)];
    const Span in_span = span_of(in.polygon), out_span = bounds_of(graph, out);
    const double middle = (in_span.outer + out_span.inner) / 2;
    const double in_votes = rotor_votes(graph, faces, {0, middle}, layers),
                 out_votes = rotor_votes(graph, faces, {middle, 1e300}, layers);
    if (in_votes != out_votes) return out_votes > in_votes && in_votes <= 0;
    // Slots are open to the gap; what magnets stand on is not.
    constexpr double open = 0.97;
    return edge_share(graph, in, in_span.outer, bounds_of(graph, in).inner) < open &&
           edge_share(graph, out, out_span.inner, out_span.outer) >= open;
}

std::optional<Ring> whole_ring(const Arrangement& graph, const PlaneFaces& faces, DrawnSide side,
                               const RingHints& hints) {
    std::vector<int> nested; // round the centre, inside out
    for (int f = 0; f < int(faces.faces.size()); ++f)
        if (contains(faces.faces[std::size_t(f)].polygon, {})) nested.push_back(f);
    std::sort(nested.begin(), nested.end(), [&](int a, int b) {
        return area(faces.faces[std::size_t(a)].polygon) < area(faces.faces[std::size_t(b)].polygon);
    });
    if (nested.empty()) return std::nullopt;
    // From without: iron, (gap, iron,) hole.
    const std::size_t n = nested.size();
    const auto face = [&](std::size_t k) -> const PlaneFace& { return faces.faces[std::size_t(nested[k])]; };
    const bool two = hints.both && n >= 3;
    const bool outer_rotor = two && is_outer_rotor(graph, faces, nested[n - 3], nested[n - 1], hints.layers);
    const std::size_t iron = two && (side == DrawnSide::Rotor) != outer_rotor ? n - 3 : n - 1;
    Ring ring;
    ring.side = side;
    ring.iron = nested[iron];
    ring.outer = span_of(face(iron).polygon).outer;
    if (iron > 0) ring.inner = span_of(face(iron - 1).polygon).inner;
    if (side == DrawnSide::Rotor) {
        const double hole = iron > 0 ? span_of(face(iron - 1).polygon).outer : 0;
        ring.gap_outside =
            two ? !outer_rotor
                : gap_lies_outside(graph, faces, ring.iron, hole, ring.outer).value_or(!hints.outer_rotor);
        if (!ring.gap_outside) ring.inner = hole; // magnets may stand in the hole
        // A stator's bore, or the gap, belongs to no part.
        if (iron == 1 && ring.gap_outside) ring.core = nested[0];
        return ring;
    }
    ring.gap_outside =
        two ? outer_rotor
            : iron > 0 && is_plain(graph, face(iron - 1).outer) && !is_plain(graph, face(iron).outer);
    return ring;
}

std::optional<Ring> sector_ring(const Arrangement& graph, const PlaneFaces& faces, DrawnSide side,
                                const RingHints& hints) {
    if (faces.faces.empty()) return std::nullopt;
    std::vector<int> by_area(faces.faces.size());
    for (std::size_t i = 0; i < by_area.size(); ++i) by_area[i] = int(i);
    std::sort(by_area.begin(), by_area.end(), [&](int a, int b) {
        return faces.faces[std::size_t(a)].area > faces.faces[std::size_t(b)].area;
    });
    std::vector<std::pair<Span, int>> irons;
    for (int f : by_area) {
        const Span s = span_of(faces.faces[std::size_t(f)].polygon);
        const bool apart = std::all_of(irons.begin(), irons.end(), [&](const auto& other) {
            return s.inner >= other.first.outer - 1e-6 || s.outer <= other.first.inner + 1e-6;
        });
        if (apart) irons.emplace_back(s, f);
        if (irons.size() == (hints.both ? 2U : 1U)) break;
    }
    std::sort(irons.begin(), irons.end(),
              [](const auto& a, const auto& b) { return a.first.outer < b.first.outer; });
    const bool two = hints.both && irons.size() == 2;
    const bool outer_rotor =
        two && is_outer_rotor(graph, faces, irons[0].second, irons[1].second, hints.layers);
    const auto& chosen = two && (side == DrawnSide::Rotor) != outer_rotor ? irons.front() : irons.back();
    Ring ring;
    ring.side = side;
    ring.iron = chosen.second;
    ring.inner = chosen.first.inner;
    ring.outer = chosen.first.outer;
    ring.gap_outside = (side == DrawnSide::Rotor) != (two ? outer_rotor : hints.outer_rotor);
    if (!two)
        ring.gap_outside =
            gap_lies_outside(graph, faces, ring.iron, ring.inner, ring.outer).value_or(ring.gap_outside);
    return ring;
}

/// Direction across the thinner way of a block, or along the radius where it has none.
Point across(const std::vector<Piece>& sides, Point centroid) {
    if (is_block(sides)) {
        const double a = length_of(sides[0]), b = length_of(sides[1]);
        if (std::abs(a - b) > 0.02 * std::max(a, b))
            return a < b ? tangent_at(sides[0], 0) : tangent_at(sides[1], 0);
    }
    return (1 / norm(centroid)) * centroid;
}

} // namespace

const std::vector<std::string>& role_words() {
    static const std::vector<std::string> words{"iron", "magnet", "air", "conductor", "shaft", "solid"};
    return words;
}

std::string to_string(Role role) {
    return role_words()[std::size_t(role)];
}

std::optional<Role> role_of(const std::string& word) {
    for (std::size_t i = 0; i < role_words().size(); ++i)
        if (word == role_words()[i]) return Role(i);
    return std::nullopt;
}

std::vector<Piece> sides_of(const Arrangement& graph, const PlaneFace& face) {
    std::vector<Piece> sides;
    for (HalfEdge s : face.outer) {
        const Piece p = piece_of(graph, s);
        if (!sides.empty() && goes_on(sides.back(), p))
            sides.back() = one_of(sides.back(), p);
        else
            sides.push_back(p);
    }
    while (sides.size() > 1 && goes_on(sides.back(), sides.front())) {
        sides.front() = one_of(sides.back(), sides.front());
        sides.pop_back();
    }
    return sides;
}

std::optional<Ring> find_ring(const Arrangement& graph, const PlaneFaces& faces, const Portion& extent,
                              DrawnSide side, const RingHints& hints) {
    return extent.whole() ? whole_ring(graph, faces, side, hints) : sector_ring(graph, faces, side, hints);
}

double pole_side(const Arrangement& graph, const PlaneFace& magnet, bool gap_outside) {
    const Point radius = (1 / norm(magnet.centroid)) * magnet.centroid;
    Point d = across(sides_of(graph, magnet), magnet.centroid);
    const double outward = dot(d, radius);
    if (std::abs(outward) < tangential_share) return between_poles;
    if ((outward < 0) == gap_outside) d = -1 * d;
    const double turned = cross(radius, d);
    return std::abs(turned) < 0.05 ? 0 : turned > 0 ? 1 : -1;
}

std::vector<DrawnFace> propose_roles(const Arrangement& graph, const PlaneFaces& faces, const Ring& ring,
                                     const std::vector<std::string>& layers) {
    return Proposer(graph, faces, ring, layers).run();
}

void propose_directions(const Arrangement& graph, const PlaneFaces& faces, const Portion& portion,
                        bool gap_outside, std::vector<DrawnFace>& roles) {
    std::vector<std::pair<double, DrawnFace*>> tangential;
    for (DrawnFace& drawn : roles) {
        if (drawn.role != Role::Magnet) continue;
        const PlaneFace& face = faces.faces[std::size_t(drawn.face)];
        const Point radius = (1 / norm(face.centroid)) * face.centroid;
        Point d = across(sides_of(graph, face), face.centroid);
        const double outward = dot(d, radius);
        if (std::abs(outward) <
            tangential_share) { // of neighbouring poles: the one pushes where the other pulls
            if (cross(radius, d) < 0) d = -1 * d;
            drawn.direction = angle_of(d);
            tangential.emplace_back(angle_of(face.centroid), &drawn);
            continue;
        }
        if (outward < 0) d = -1 * d;
        const long pole = std::lround((angle_of(face.centroid) - portion.axis) / portion.pitch());
        drawn.direction = angle_of(pole % 2 ? -1 * d : d);
    }
    for (auto& [angle, drawn] : tangential) {
        // Between poles k and k + 1: towards the one whose lines go outwards, from the gap or into it.
        const long before = std::lround(std::floor((angle - portion.axis) / portion.pitch()));
        if ((before % 2 == 0) == gap_outside) drawn->direction = std::remainder(*drawn->direction + pi, 2 * pi);
    }
}

} // namespace mavlo
