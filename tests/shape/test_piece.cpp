// Straight pieces and arcs: lengths, areas, crossings, against closed forms.

#include "quantity/constants.h"
#include "shape/piece.h"
#include "support.h"
#include "test_program.h"

#include <random>

using namespace mavlo;

namespace {

/// An arc about `centre` from one angle through `sweep`.
Piece arc(Point centre, double radius, double from, double sweep) {
    return {centre + polar(radius, from), centre + polar(radius, from + sweep), std::tan(sweep / 4), 0};
}

double area(const std::vector<Piece>& closed) {
    double sum = 0;
    for (const Piece& p : closed) sum += swept_area(p);
    return sum;
}

} // namespace

class TestPiece : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void arcs_know_their_circle_data() {
        QTest::addColumn<double>("radius");
        QTest::addColumn<double>("from");
        QTest::addColumn<double>("sweep");
        QTest::newRow("a quarter") << 2.0 << 0.3 << pi / 2;
        QTest::newRow("clockwise") << 0.5 << 2.0 << -1.0;
        QTest::newRow("more than half") << 1.0 << -1.0 << 4.5;
        QTest::newRow("shallow") << 1e3 << 0.1 << 1e-4;
        QTest::newRow("nearly a turn") << 3.0 << 0.0 << 6.2;
    }
    void arcs_know_their_circle() {
        QFETCH(double, radius);
        QFETCH(double, from);
        QFETCH(double, sweep);
        const Point centre{0.7, -0.2};
        const Piece piece = arc(centre, radius, from, sweep);
        const Circle circle = circle_of(piece);
        CLOSE(circle.radius / radius, 1, 1e-6);
        CLOSE(norm(circle.centre - centre) / radius, 0, 1e-6);
        CLOSE(sweep_of(piece), sweep, 1e-9);
        CLOSE(length_of(piece) / (radius * std::abs(sweep)), 1, 1e-6);
        for (double t : {0.0, 0.2, 0.5, 0.9, 1.0}) {
            const Point at = point_at(piece, t), wanted = centre + polar(radius, from + t * sweep);
            CLOSE(norm(at - wanted) / radius, 0, 1e-6);
            const Point tangent = tangent_at(piece, t),
                        along = polar(1, from + t * sweep + (sweep > 0 ? 1 : -1) * pi / 2);
            CLOSE(norm(tangent - along), 0, 1e-6);
            CLOSE(nearest_share(piece, wanted), t, 1e-6);
        }
        CLOSE(bulge_through(piece.a, point_at(piece, 0.5), piece.b), piece.bulge,
              1e-6 * (1 + std::abs(piece.bulge)));
    }
    void areas_by_greens_theorem() {
        std::vector<Piece> circle;
        add_arc(circle, {{5, 3}, 2}, 0.4, 2 * pi, 0);
        CLOSE(area(circle), 4 * pi, 1e-12);
        std::vector<Piece> clockwise;
        add_arc(clockwise, {{5, 3}, 2}, 0.4, -2 * pi, 0);
        CLOSE(area(clockwise), -4 * pi, 1e-12);
        // A stadium, 4 by 2 with half circles.
        const std::vector<Piece> stadium{
            {{-2, -1}, {2, -1}}, arc({2, 0}, 1, -pi / 2, pi), {{2, 1}, {-2, 1}}, arc({-2, 0}, 1, pi / 2, pi)};
        CLOSE(area(stadium), 8 + pi, 1e-12);
        // Where it lies does not matter.
        std::vector<Piece> moved = stadium;
        for (Piece& p : moved) p.a = p.a + Point{100, -50}, p.b = p.b + Point{100, -50};
        CLOSE(area(moved), 8 + pi, 1e-9);
    }
    void parts_and_reverses() {
        const Piece whole = arc({0, 0}, 1, 0.2, 2.4);
        const Piece part = part_of(whole, 0.25, 0.75);
        CLOSE(norm(part.a - polar(1, 0.8)), 0, 1e-12);
        CLOSE(norm(part.b - polar(1, 2.0)), 0, 1e-12);
        CLOSE(circle_of(part).radius, 1, 1e-12);
        const Piece back = reversed(whole);
        CLOSE(sweep_of(back), -2.4, 1e-12);
        CLOSE(swept_area(back), -swept_area(whole), 1e-12);
        QCOMPARE(reversed(back).bulge, whole.bulge);
    }
    void crossings_of_lines_and_circles() {
        const Piece line{{-2, 0.5}, {2, 0.5}}, half = arc({0, 0}, 1, 0, pi);
        const auto two = crossings(line, half, 1e-9);
        QCOMPARE(two.size(), std::size_t(2));
        for (const Crossing& c : two) {
            CLOSE(norm(point_at(line, c.on_first) - point_at(half, c.on_second)), 0, 1e-9);
            CLOSE(norm(point_at(line, c.on_first)), 1, 1e-9);
        }
        QCOMPARE(crossings({{-2, 1}, {2, 1}}, half, 1e-9).size(), std::size_t(1)); // touches
        QVERIFY(crossings({{-2, 1.01}, {2, 1.01}}, half, 1e-9).empty());
        QVERIFY(crossings({{-2, -0.5}, {2, -0.5}}, half, 1e-9).empty()); // the circle's other half
        QCOMPARE(crossings({{0, 0}, {1, 1}}, {{0, 1}, {1, 0}}, 1e-9).size(), std::size_t(1));
        QVERIFY(crossings({{0, 0}, {1, 1}}, {{0, 0.1}, {1, 1.1}}, 1e-9).empty());
        const auto circles = crossings(arc({0, 0}, 1, 0, 3), arc({1, 0}, 1, 1, 3), 1e-9);
        QCOMPARE(circles.size(), std::size_t(1)); // of the two, the upper alone lies on both
        CLOSE(norm(point_at(arc({0, 0}, 1, 0, 3), circles[0].on_first) - Point{0.5, std::sqrt(0.75)}), 0, 1e-9);
    }
    void random_crossings_lie_on_both() {
        std::mt19937 random(3);
        const auto number = [&](double low, double high) {
            return std::uniform_real_distribution(low, high)(random);
        };
        int found = 0;
        for (int round = 0; round < 4000; ++round) {
            const auto piece = [&]() -> Piece {
                const Point a{number(-1, 1), number(-1, 1)}, b{number(-1, 1), number(-1, 1)};
                return {a, b, random() % 2 ? 0 : number(-1.5, 1.5), 0};
            };
            const Piece p = piece(), q = piece();
            const auto both = crossings(p, q, 1e-9);
            const auto other = crossings(q, p, 1e-9);
            QCOMPARE(both.size(), other.size());
            for (const Crossing& c : both) {
                QVERIFY(c.on_first >= 0 && c.on_first <= 1 && c.on_second >= 0 && c.on_second <= 1);
                CLOSE(norm(point_at(p, c.on_first) - point_at(q, c.on_second)), 0, 1e-6);
                ++found;
            }
            // The distance from any point is that to the nearest of many samples, or less.
            const Point far{number(-2, 2), number(-2, 2)};
            double sampled = 1e9;
            for (int i = 0; i <= 200; ++i) sampled = std::min(sampled, distance(far, point_at(p, i / 200.0)));
            const double exact = distance_to(p, far);
            QVERIFY(exact <= sampled + 1e-12);
            QVERIFY(exact >= sampled - 0.05);
        }
        QVERIFY(found > 1000);
    }
    void smooth_chains_follow_their_samples() {
        // A sine by arcs through every second sample.
        std::vector<Point> samples;
        for (int i = 0; i <= 64; ++i) samples.push_back({i / 10.0, std::sin(i / 10.0)});
        std::vector<Piece> chain;
        add_smooth(chain, samples, 7);
        QCOMPARE(chain.size(), std::size_t(32));
        double length = 0, wanted = 0;
        for (const Piece& p : chain) {
            QCOMPARE(p.layer, 7);
            length += length_of(p);
        }
        for (int i = 0; i < 6400; ++i)
            wanted += std::hypot(1e-3, std::sin((i + 1) / 1000.0) - std::sin(i / 1000.0));
        CLOSE(length / wanted, 1, 1e-4);
        const Box box = box_of(arc({0, 0}, 1, 0.5, 2)); // over the top
        CLOSE(box.top, 1, 1e-12);
        CLOSE(box.right, std::cos(0.5), 1e-12);
    }
};
MAVLO_TEST(piece, TestPiece, Nothing)
#include "test_piece.moc"
