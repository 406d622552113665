// Pieces made into faces: areas, holes, healing, and Euler's formula on random drawings.

#include "quantity/constants.h"
#include "shape/plane_faces.h"
#include "support.h"
#include "test_program.h"

#include <numeric>
#include <random>

using namespace mavlo;

namespace {

void add_rectangle(std::vector<Piece>& to, double left, double bottom, double right, double top) {
    const Point c[] = {{left, bottom}, {right, bottom}, {right, top}, {left, top}};
    for (int i = 0; i < 4; ++i) to.push_back({c[i], c[(i + 1) % 4]});
}

double all_areas(const PlaneFaces& faces) {
    double sum = 0;
    for (const PlaneFace& f : faces.faces) sum += f.area;
    return sum;
}

/// Pieces of the graph that hang together.
int components(const Arrangement& graph) {
    std::vector<int> root(graph.vertices.size());
    std::iota(root.begin(), root.end(), 0);
    const auto find = [&](int v) {
        while (root[std::size_t(v)] != v) v = root[std::size_t(v)];
        return v;
    };
    for (const auto& e : graph.edges) root[std::size_t(find(e.from))] = find(e.to);
    std::vector<bool> used(graph.vertices.size(), false);
    for (const auto& e : graph.edges) used[std::size_t(find(e.from))] = true;
    return int(std::count(used.begin(), used.end(), true));
}

} // namespace

class TestArrangement : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void crossing_rectangles_part_each_other() {
        std::vector<Piece> pieces;
        add_rectangle(pieces, 0, 0, 4, 2);
        add_rectangle(pieces, 1, -1, 3, 3);
        const auto faces = plane_faces(arrange(pieces, 1e-9));
        QCOMPARE(faces.faces.size(), std::size_t(5));
        CLOSE(all_areas(faces), 8 + 8 - 4, 1e-12);
        for (const PlaneFace& f : faces.faces) QVERIFY(f.holes.empty());
    }
    void a_ring_has_a_hole() {
        std::vector<Piece> pieces;
        add_arc(pieces, {{1, 1}, 3}, 0, 2 * pi, 0);
        add_arc(pieces, {{1, 1}, 1}, 0.7, 2 * pi, 0);
        const Arrangement graph = arrange(pieces, 1e-9);
        const auto faces = plane_faces(graph);
        QCOMPARE(faces.faces.size(), std::size_t(2));
        for (const PlaneFace& f : faces.faces) {
            const bool ring = !f.holes.empty();
            CLOSE(f.area, ring ? 8 * pi : pi, 1e-10);
            CLOSE(norm(f.centroid - Point{1, 1}), 0, 1e-9);
            QVERIFY(holds(graph, f, f.inside));
            QCOMPARE(holds(graph, f, Point{1, 1}), !ring);
            QVERIFY(!holds(graph, f, Point{9, 9}));
        }
    }
    void gaps_and_overshoots_are_mended_and_said() {
        std::vector<Piece> pieces{
            {{0, 0}, {1, 0}}, {{1, 0}, {1, 1}}, {{1, 1 + 4e-6}, {0, 1}}, {{0, 1}, {0, -5e-6}}};
        const Arrangement mended = arrange(pieces, 1e-5);
        QVERIFY(mended.open_ends().empty());
        QCOMPARE(plane_faces(mended).faces.size(), std::size_t(1));
        CLOSE(plane_faces(mended).faces[0].area, 1, 2e-5);
        QVERIFY(!mended.healed.empty());
        const Arrangement open = arrange(pieces, 1e-7);
        QVERIFY(open.open_ends().size() >= 2);
        QVERIFY(plane_faces(open).faces.empty());
    }
    void what_lies_twice_is_kept_once() {
        std::vector<Piece> pieces;
        add_rectangle(pieces, 0, 0, 1, 1);
        add_rectangle(pieces, 0, 0, 1, 1);
        pieces.push_back({{0.25, 0}, {0.75, 0}}); // along a side
        const Arrangement graph = arrange(pieces, 1e-9);
        const auto faces = plane_faces(graph);
        QCOMPARE(faces.faces.size(), std::size_t(1));
        CLOSE(faces.faces[0].area, 1, 1e-12);
        double length = 0;
        for (const auto& e : graph.edges) length += length_of(graph.piece(e));
        CLOSE(length, 4, 1e-9);
        // An arc over an arc of the same circle.
        std::vector<Piece> arcs;
        add_arc(arcs, {{0, 0}, 1}, 0, 2 * pi, 0);
        add_arc(arcs, {{0, 0}, 1}, 0.3, 1.9, 0);
        const Arrangement circle = arrange(arcs, 1e-9);
        length = 0;
        for (const auto& e : circle.edges) length += length_of(circle.piece(e));
        CLOSE(length, 2 * pi, 1e-7);
    }
    void needless_points_go() {
        std::vector<Piece> pieces;
        for (int i = 0; i < 10; ++i) pieces.push_back({{i / 10.0, 0}, {(i + 1) / 10.0, 0}});
        pieces.push_back({{1, 0}, {1, 1}});
        pieces.push_back({{1, 1}, {0, 1}});
        pieces.push_back({{0, 1}, {0, 0}});
        const Arrangement plain = simplified(arrange(pieces, 1e-9), 1e-9);
        QCOMPARE(plain.edges.size(), std::size_t(4));
        CLOSE(plane_faces(plain).faces.at(0).area, 1, 1e-12);
    }
    void euler_and_total_area_of_random_drawings() {
        std::mt19937 random(17);
        const auto number = [&](double low, double high) {
            return std::uniform_real_distribution(low, high)(random);
        };
        for (int round = 0; round < 120; ++round) {
            std::vector<Piece> pieces;
            add_rectangle(pieces, -1, -1, 1, 1); // round all of it
            const int count = 2 + int(random() % 12);
            for (int i = 0; i < count; ++i) {
                const Point at{number(-0.5, 0.5), number(-0.5, 0.5)};
                if (random() % 2)
                    add_arc(pieces, {at, number(0.05, 0.45)}, number(0, 6), 2 * pi, 0);
                else
                    add_rectangle(pieces, at.x - number(0.05, 0.4), at.y - number(0.05, 0.4),
                                  at.x + number(0.05, 0.4), at.y + number(0.05, 0.4));
            }
            const Arrangement graph = arrange(pieces, 1e-9);
            QVERIFY(graph.open_ends().empty());
            const auto faces = plane_faces(graph);
            // V - E + F = 1 + C, the unbounded face counted.
            std::vector<bool> used(graph.vertices.size(), false);
            for (const auto& e : graph.edges) used[std::size_t(e.from)] = used[std::size_t(e.to)] = true;
            const int v = int(std::count(used.begin(), used.end(), true)), e = int(graph.edges.size()),
                      f = int(faces.faces.size()) + 1;
            QCOMPARE(v - e + f, 1 + components(graph));
            CLOSE(all_areas(faces), 4, 1e-7); // they tile the rectangle
            for (const PlaneFace& face : faces.faces) {
                QVERIFY(face.area > 0);
                QVERIFY(holds(graph, face, face.inside));
            }
        }
    }
};
MAVLO_TEST(arrangement, TestArrangement, Nothing)
#include "test_arrangement.moc"
