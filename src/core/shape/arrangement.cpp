#include "shape/arrangement.h"

#include "quantity/disjoint_sets.h"
#include "shape/budget.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <set>
#include <unordered_map>

namespace mavlo {
namespace {

constexpr double exact = 1e-9; ///< m: nearer than this is the same place

/// Numbers in the cells of a square grid.
class Grid {
  public:
    explicit Grid(double size)
        : m_size(size) {}
    void add(const Box& box, int number) {
        each(box, [&](long key) { m_cells[key].push_back(number); });
    }
    /// Every number whose box shares a cell with this one; some come twice.
    /// Cells that a box covers.
    double cells(const Box& box) const {
        return (std::floor((box.right - box.left) / m_size) + 2) *
               (std::floor((box.top - box.bottom) / m_size) + 2);
    }
    template <class Visit>
    void near(const Box& box, Visit visit) const {
        each(box, [&](long key) {
            if (const auto cell = m_cells.find(key); cell != m_cells.end())
                for (int number : cell->second) visit(number);
        });
    }

  private:
    template <class Visit>
    void each(const Box& box, Visit visit) const {
        // Coordinates beyond any drawing, as damaged files have them, share the outermost cells.
        const auto cell = [&](double x) { return long(std::floor(std::clamp(x / m_size, -1e9, 1e9))); };
        for (long x = cell(box.left); x <= cell(box.right); ++x)
            for (long y = cell(box.bottom); y <= cell(box.top); ++y) visit(x * 1'000'003L + y);
    }
    double m_size;
    std::unordered_map<long, std::vector<int>> m_cells;
};

Box grown(Box box, double by) {
    return {box.left - by, box.bottom - by, box.right + by, box.top + by};
}
Box box_about(Point p, double by) {
    return {p.x - by, p.y - by, p.x + by, p.y + by};
}

/// How much a place counts where several are made one: a crossing lies on both lines, a foot on one.
enum class Weight { End, Foot, Crossing };

struct HitPlace {
    Point at;
    Weight weight;
};

class Arranger {
  public:
    Arranger(std::vector<Piece> pieces, double tolerance)
        : m_pieces(std::move(pieces))
        , m_tolerance(tolerance)
        , m_grid(1) {}

    Arrangement run() {
        std::erase_if(m_pieces, [&](const Piece& p) { return length_of(p) < exact; });
        if (m_pieces.empty()) return {};
        m_cuts.resize(m_pieces.size());
        fill_grid();
        for (std::size_t i = 0; i < m_pieces.size(); ++i) cut_at_neighbours(int(i));
        make_places();
        join_places();
        make_edges();
        drop_doubles();
        drop_stubs();
        drop_unused_vertices();
        report();
        return std::move(m_out);
    }

  private:
    struct Cut {
        double share;
        Weight weight;
        Point at;
    };

    void fill_grid() {
        Box all;
        double length = 0;
        for (const Piece& piece : m_pieces) {
            m_boxes.push_back(grown(box_of(piece), m_tolerance));
            all.add({m_boxes.back().left, m_boxes.back().bottom});
            all.add({m_boxes.back().right, m_boxes.back().top});
            length += length_of(piece);
        }
        const double size = std::max(all.right - all.left, all.top - all.bottom);
        double cell = std::max(length / double(m_pieces.size()), size / 500);
        // Long slanting lines cover many cells: larger ones then.
        for (double most = 4e6; cell < size; cell *= 2) {
            m_grid = Grid(cell);
            double cells = 0;
            for (const Box& box : m_boxes) cells += m_grid.cells(box);
            if (cells < std::max(most, 20.0 * double(m_boxes.size()))) break;
        }
        for (std::size_t i = 0; i < m_pieces.size(); ++i) m_grid.add(m_boxes[i], int(i));
    }

    void cut_at_neighbours(int i) {
        std::set<int> seen;
        m_grid.near(m_boxes[std::size_t(i)], [&](int j) {
            spend(1);
            if (j <= i || !m_boxes[std::size_t(i)].near(m_boxes[std::size_t(j)], 0) || !seen.insert(j).second)
                return;
            spend(10);
            cut_at_ends(i, j);
            cut_at_ends(j, i);
            cut_at_crossings(i, j);
        });
    }

    /// Where an end of j lies on i.
    void cut_at_ends(int i, int j) {
        const Piece& piece = m_pieces[std::size_t(i)];
        for (Point end : {m_pieces[std::size_t(j)].a, m_pieces[std::size_t(j)].b}) {
            const double share = nearest_share(piece, end);
            const Point foot = point_at(piece, share);
            const double off = distance(foot, end);
            if (off > m_tolerance || near_an_end(piece, foot)) continue;
            // An end that lies there exactly is kept as it is; else it moves to its foot.
            m_cuts[std::size_t(i)].push_back(
                {share, off < exact ? Weight::End : Weight::Foot, off < exact ? end : foot});
        }
    }

    void cut_at_crossings(int i, int j) {
        const Piece &p = m_pieces[std::size_t(i)], &q = m_pieces[std::size_t(j)];
        for (const Crossing& c : crossings(p, q, m_tolerance)) {
            spend(100);
            const double on_p = std::clamp(c.on_first, 0.0, 1.0), on_q = std::clamp(c.on_second, 0.0, 1.0);
            const Point at_p = point_at(p, on_p), at_q = point_at(q, on_q);
            if (distance(at_p, at_q) > m_tolerance) continue;
            const bool end_p = near_an_end(p, at_p), end_q = near_an_end(q, at_q);
            if (end_p && end_q) continue;
            // Past the end of one it is no crossing, but the place to which that end is drawn.
            if (!end_p) m_cuts[std::size_t(i)].push_back({on_p, Weight::Crossing, at_p});
            if (!end_q) m_cuts[std::size_t(j)].push_back({on_q, Weight::Crossing, end_p ? at_q : at_p});
        }
    }

    bool near_an_end(const Piece& piece, Point p) const {
        return distance(piece.a, p) <= m_tolerance || distance(piece.b, p) <= m_tolerance;
    }

    void make_places() {
        for (std::size_t i = 0; i < m_pieces.size(); ++i) {
            auto& cuts = m_cuts[i];
            cuts.push_back({0, Weight::End, m_pieces[i].a});
            cuts.push_back({1, Weight::End, m_pieces[i].b});
            std::stable_sort(cuts.begin(), cuts.end(),
                             [](const Cut& x, const Cut& y) { return x.share < y.share; });
            for (const Cut& cut : cuts) m_places.push_back({cut.at, cut.weight});
        }
    }

    /// Places within the tolerance become one vertex each: at the heaviest of them, or where most of them lie.
    void join_places() {
        DisjointSets groups(m_places.size());
        Grid grid(std::max(4 * m_tolerance, 1e-7));
        for (std::size_t i = 0; i < m_places.size(); ++i) {
            grid.near(box_about(m_places[i].at, m_tolerance), [&](int j) {
                spend(1);
                if (distance(m_places[std::size_t(j)].at, m_places[i].at) <= m_tolerance)
                    groups.join(i, std::size_t(j));
            });
            grid.add(box_about(m_places[i].at, 0), int(i));
        }
        std::map<std::size_t, std::vector<std::size_t>> members;
        for (std::size_t i = 0; i < m_places.size(); ++i) members[groups.of(i)].push_back(i);
        m_vertex_of.resize(m_places.size());
        for (const auto& [group, list] : members) {
            const Point at = middle_of(list);
            note_gap(list, at);
            for (std::size_t i : list) m_vertex_of[i] = int(m_out.vertices.size());
            m_out.vertices.push_back(at);
        }
    }

    Point middle_of(const std::vector<std::size_t>& list) const {
        spend(double(list.size()) * double(list.size()));
        std::size_t best = list.front();
        int most = -1;
        for (std::size_t i : list) {
            int votes = 0;
            for (std::size_t j : list) votes += distance(m_places[i].at, m_places[j].at) < exact;
            votes += m_places[i].weight == Weight::Crossing ? 2000
                     : m_places[i].weight == Weight::Foot   ? 1000
                                                            : 0;
            if (votes > most) most = votes, best = i;
        }
        return m_places[best].at;
    }

    void note_gap(const std::vector<std::size_t>& list, Point at) {
        double off = 0;
        for (std::size_t i : list)
            if (m_places[i].weight == Weight::End) off = std::max(off, distance(m_places[i].at, at));
        if (off > 10 * exact) note(Healing::Kind::Gap, off, at);
    }

    void note(Healing::Kind kind, double size, Point at) {
        Healing& h = m_healed.try_emplace(kind, Healing{kind, 0, 0, at}).first->second;
        ++h.count;
        h.largest = std::max(h.largest, size);
    }

    void make_edges() {
        std::size_t place = 0;
        for (std::size_t i = 0; i < m_pieces.size(); ++i) {
            const auto& cuts = m_cuts[i];
            for (std::size_t k = 0; k + 1 < cuts.size(); ++k) {
                const int from = m_vertex_of[place + k], to = m_vertex_of[place + k + 1];
                const Piece part = part_of(m_pieces[i], cuts[k].share, cuts[k + 1].share);
                // What both ends of a piece draw together is gone; a loop back to its start is not.
                if (from == to && length_of(part) < 3.2 * m_tolerance) continue;
                m_out.edges.push_back({from, to, part.bulge, m_pieces[i].layer, -1});
                m_origin.push_back(int(i));
            }
            place += cuts.size();
        }
    }

    void drop_doubles() {
        std::map<std::pair<int, int>, std::vector<std::size_t>> known;
        std::vector<Arrangement::Edge> kept;
        std::set<int> noted;
        for (std::size_t i = 0; i < m_out.edges.size(); ++i) {
            const Arrangement::Edge& e = m_out.edges[i];
            auto& list = known[std::minmax(e.from, e.to)];
            spend(double(list.size()));
            const Point middle = point_at(m_out.piece(e), 0.5);
            const auto twin = std::find_if(list.begin(), list.end(), [&](std::size_t j) {
                return distance(point_at(m_out.piece(kept[j]), 0.5), middle) <= 2 * m_tolerance;
            });
            if (twin != list.end()) {
                if (kept[*twin].layer != e.layer) kept[*twin].also = e.layer;
                const int piece = m_origin[i];
                const bool whole = m_cuts[std::size_t(piece)].size() == 2;
                if (noted.insert(piece).second)
                    note(whole ? Healing::Kind::Twice : Healing::Kind::Overlap, length_of(m_out.piece(e)),
                         middle);
                continue;
            }
            list.push_back(kept.size());
            kept.push_back(e);
        }
        m_out.edges = kept;
    }

    /// What sticks out past a crossing by no more than the tolerance.
    void drop_stubs() {
        for (bool again = true; again;) {
            again = false;
            spend(double(m_out.edges.size()));
            std::vector<int> degree(m_out.vertices.size(), 0);
            for (const auto& e : m_out.edges) ++degree[std::size_t(e.from)], ++degree[std::size_t(e.to)];
            const auto is_stub = [&](const Arrangement::Edge& e) {
                const bool loose = degree[std::size_t(e.from)] == 1 || degree[std::size_t(e.to)] == 1;
                return loose && length_of(m_out.piece(e)) <= 1.5 * m_tolerance;
            };
            for (const auto& e : m_out.edges)
                if (is_stub(e)) {
                    note(Healing::Kind::Overshoot, length_of(m_out.piece(e)),
                         m_out.vertices[std::size_t(e.from)]);
                    again = true;
                }
            std::erase_if(m_out.edges, is_stub);
        }
    }

    void drop_unused_vertices() {
        std::vector<int> number(m_out.vertices.size(), -1);
        std::vector<Point> kept;
        for (auto& e : m_out.edges)
            for (int* end : {&e.from, &e.to}) {
                int& n = number[std::size_t(*end)];
                if (n < 0) {
                    n = int(kept.size());
                    kept.push_back(m_out.vertices[std::size_t(*end)]);
                }
                *end = n;
            }
        m_out.vertices = kept;
    }

    void report() {
        for (const auto& [kind, healing] : m_healed) m_out.healed.push_back(healing);
    }

    std::vector<Piece> m_pieces;
    double m_tolerance;
    Grid m_grid;
    std::vector<Box> m_boxes;
    std::vector<std::vector<Cut>> m_cuts;
    std::vector<HitPlace> m_places;
    std::vector<int> m_vertex_of; ///< of each place
    std::vector<int> m_origin;    ///< of each edge
    std::map<Healing::Kind, Healing> m_healed;
    Arrangement m_out;
};

/// Two edges that continue each other at a vertex of degree two, as one; nothing where they bend.
std::optional<Piece> joined(const Piece& first, const Piece& second, double tolerance) {
    if (first.straight() && second.straight()) {
        const Piece line{first.a, second.b, 0, first.layer};
        if (distance(first.a, second.b) < tolerance || distance_to(line, first.b) > exact * 10)
            return std::nullopt;
        return line;
    }
    if (first.straight() || second.straight()) return std::nullopt;
    const Circle c = circle_of(first), d = circle_of(second);
    if (distance(c.centre, d.centre) > 1e-6 * c.radius + 10 * exact ||
        std::abs(c.radius - d.radius) > 1e-6 * c.radius + 10 * exact || first.bulge * second.bulge < 0)
        return std::nullopt;
    const double sweep = sweep_of(first) + sweep_of(second);
    if (std::abs(sweep) > 5) return std::nullopt; // a bulge near a whole turn says little
    return Piece{first.a, second.b, std::tan(sweep / 4), first.layer};
}

} // namespace

Piece Arrangement::piece(const Edge& edge) const {
    return {vertices[std::size_t(edge.from)], vertices[std::size_t(edge.to)], edge.bulge, edge.layer};
}

std::vector<OpenEnd> Arrangement::open_ends() const {
    std::vector<int> ends(vertices.size(), 0), last(vertices.size(), -1);
    for (std::size_t i = 0; i < edges.size(); ++i)
        for (int v : {edges[i].from, edges[i].to}) ++ends[std::size_t(v)], last[std::size_t(v)] = int(i);
    std::vector<OpenEnd> list;
    for (std::size_t v = 0; v < vertices.size(); ++v)
        if (ends[v] == 1) list.push_back({vertices[v], int(v), last[v]});
    return list;
}

Arrangement arrange(std::vector<Piece> pieces, double tolerance) {
    return Arranger(std::move(pieces), tolerance).run();
}

Arrangement simplified(const Arrangement& in, double tolerance, bool across_layers) {
    Arrangement out = in;
    std::vector<std::vector<int>> at(in.vertices.size());
    std::vector<bool> gone(out.edges.size(), false);
    for (std::size_t i = 0; i < out.edges.size(); ++i) {
        at[std::size_t(out.edges[i].from)].push_back(int(i));
        at[std::size_t(out.edges[i].to)].push_back(int(i));
    }
    for (std::size_t v = 0; v < at.size(); ++v) {
        if (at[v].size() != 2 || at[v][0] == at[v][1]) continue;
        const int one = at[v][0], other = at[v][1];
        const auto &e = out.edges[std::size_t(one)], &f = out.edges[std::size_t(other)];
        if (!across_layers && (e.layer != f.layer || e.also != f.also)) continue;
        const Piece first = e.to == int(v) ? out.piece(e) : reversed(out.piece(e)),
                    second = f.from == int(v) ? out.piece(f) : reversed(out.piece(f));
        const auto whole = joined(first, second, tolerance);
        if (!whole) continue;
        const int from = e.to == int(v) ? e.from : e.to, to = f.from == int(v) ? f.to : f.from;
        if (from == to) continue;
        out.edges[std::size_t(one)] = {from, to, whole->bulge, e.layer, e.also};
        gone[std::size_t(other)] = true;
        std::replace(at[std::size_t(to)].begin(), at[std::size_t(to)].end(), other, one);
    }
    std::vector<Arrangement::Edge> kept;
    for (std::size_t i = 0; i < out.edges.size(); ++i)
        if (!gone[i]) kept.push_back(out.edges[i]);
    out.edges = kept;
    return out;
}

} // namespace mavlo
