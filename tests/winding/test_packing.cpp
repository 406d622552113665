// Conductors in slots: none overlaps another or the liner, fills add up, and rows are as dense as by hand.

#include "machine/slot_space.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

#include <fmt/format.h>
#include <random>

using namespace mavlo;

namespace {

/// A slot of straight sides: `low` wide at x = 0, `high` wide at x = height; its mouth below.
PackingSpace trapezoid(double low, double high, double height, double margin = 0) {
    PackingSpace space{{{0, -low / 2}, {height, -high / 2}, {height, high / 2}, {0, low / 2}}, {}};
    space.margin = {margin, margin, margin, 0};
    return space;
}

void check_circles(const PackingSpace& space, const std::vector<Point>& centres, double d) {
    for (std::size_t i = 0; i < centres.size(); ++i) {
        QVERIFY(contains(space.polygon, centres[i]));
        QVERIFY(clearance(space, centres[i]) > d / 2 * (1 - 1e-7));
        for (std::size_t k = 0; k < i; ++k) QVERIFY(distance(centres[i], centres[k]) > d * (1 - 1e-7));
    }
}

/// Hexagonal rows as one lays them by hand: the first on the bottom against one wall, each next in its hollows.
int rows_by_hand(double low, double high, double height, double d) {
    int count = 0, row = 0;
    for (double x = height - d / 2; x > d / 2 - 1e-12; x -= std::sqrt(3.0) / 2 * d, ++row) {
        const double slope = (high - low) / 2 / height, off = d / 2 * std::hypot(1, slope);
        const double half = low / 2 + slope * x - off; // where a centre may lie
        if (half < 0) continue;
        const double bottom = low / 2 + slope * (height - d / 2) - off, start = -bottom + (row % 2 ? d / 2 : 0);
        const double first = start + std::ceil((-half - start) / d - 1e-9) * d;
        if (first <= half + 1e-12) count += 1 + int(std::floor((half - first) / d + 1e-9));
    }
    return count;
}

} // namespace

class TestPacking : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void at_least_as_dense_as_rows_laid_by_hand_data() {
        QTest::addColumn<double>("low");
        QTest::addColumn<double>("high");
        QTest::addColumn<double>("height");
        QTest::addColumn<double>("wire");
        // Widths at mouth and bottom, depth, wire over its enamel, mm.
        QTest::newRow("small slot, 0.8 mm") << 4.0 << 8.0 << 12.0 << 0.855;
        QTest::newRow("parallel sides, 1 mm") << 6.0 << 6.0 << 20.0 << 1.062;
        QTest::newRow("narrow, thick wire") << 3.2 << 3.2 << 18.0 << 1.468;
        QTest::newRow("deep, thin wire") << 5.0 << 9.0 << 25.0 << 0.544;
        QTest::newRow("outer rotor, narrowing") << 9.0 << 5.0 << 14.0 << 0.959;
    }
    void at_least_as_dense_as_rows_laid_by_hand() {
        QFETCH(double, low);
        QFETCH(double, high);
        QFETCH(double, height);
        QFETCH(double, wire);
        const PackingSpace space = trapezoid(low, high, height);
        const auto centres = pack_circles(space, wire, {0, 0});
        check_circles(space, centres, wire);
        const int by_hand = rows_by_hand(low, high, height, wire);
        QVERIFY(by_hand > 20);
        QVERIFY2(int(centres.size()) >= by_hand,
                 qPrintable(QStringLiteral("%1 of %2").arg(centres.size()).arg(by_hand)));
        // The first ones lie at the bottom.
        QVERIFY(centres.front().x > centres.back().x);
    }
    void known_counts() {
        // Exactly four in a square of two diameters, three in a row of three.
        QCOMPARE(int(pack_circles(trapezoid(2, 2, 2), 1, {0, 0}).size()), 4);
        QCOMPARE(int(pack_circles(trapezoid(1, 1, 3), 1, {0, 0}).size()), 3);
        QCOMPARE(int(pack_circles(trapezoid(1, 1, 3, 0.1), 1, {0, 0}).size()), 0);
        const Point mouth{0, 0};
        CLOSE(largest_circle(trapezoid(1, 1, 3), 3, mouth), 1, 1e-3);
        CLOSE(largest_circle(trapezoid(2, 2, 2), 4, mouth), 1, 1e-3);
        QCOMPARE(int(pack_circles(trapezoid(0.5, 0.5, 3), 1, {0, 0}).size()), 0);
        QCOMPARE(int(pack_rectangles(trapezoid(2, 2, 3), {1, 2}, {0, 0}, false).size()), 3);
        QCOMPARE(int(pack_rectangles(trapezoid(2, 4, 3), {1, 2}, {0, 0}, false).size()), 3);
        QCOMPARE(int(pack_rectangles(trapezoid(2, 2, 3), {1, 0.9}, {0, 0}, true).size()), 6);
    }
    void random_wires_in_random_slots() {
        std::mt19937 random(17);
        const auto number = [&](double low, double high) {
            return std::uniform_real_distribution(low, high)(random);
        };
        const char* shapes[] = {"surface", "surface-distributed", "surface-outer", "bar",
                                "reluctance-barriers"};
        int packed = 0;
        for (int round = 0; packed < 300 && round < 900; ++round) {
            auto project = new_project(shapes[round % 5]);
            if (!project) project = new_project("surface");
            Design design = project->variants.front().design;
            auto& t = design.texts;
            t["winding.turns"] = std::to_string(1 + int(number(0, 40)));
            t["winding.conductor.strands"] = std::to_string(1 + int(number(0, 4)));
            t["winding.conductor.grade"] = std::to_string(int(number(0, 3.99)));
            t["winding.conductor.shape"] = round % 4 == 3 ? "rectangular" : "round";
            if (round % 4 == 3) {
                t["winding.conductor.width"] = fmt::format("{:.3f} mm", number(0.5, 4));
                t["winding.conductor.height"] = fmt::format("{:.3f} mm", number(0.3, 2));
            } else {
                t["winding.conductor.diameter"] = fmt::format("{:.3f} mm", number(0.25, 1.6));
            }
            t["winding.separator"] = round % 2 ? "0.3 mm" : "0 mm";
            if (is_used(design, "stator.slot.liner")) t["stator.slot.liner"] = round % 3 ? "0.25 mm" : "0 mm";
            const auto machine = build_machine(design, {});
            if (!machine) continue;
            ++packed;
            const SlotFilling filling = fill_slot(*machine, 0);
            const auto spaces = slot_spaces(*machine);
            const double w = filling.outer_width, h = filling.outer_height;
            for (const auto& place : filling.places) {
                const PackingSpace& space = spaces[std::size_t(place.layer)];
                if (filling.round) {
                    QVERIFY(clearance(space, place.at) > w / 2 * (1 - 1e-6));
                } else {
                    for (double sx : {-0.5, 0.5})
                        for (double sy : {-0.5, 0.5}) {
                            const Point corner = place.at + Point{sx * h * (1 - 1e-6), sy * w * (1 - 1e-6)};
                            QVERIFY(contains(space.polygon, corner) && clearance(space, corner) > -1e-9);
                        }
                }
                for (const auto& other : filling.places) {
                    if (&other == &place) break;
                    if (filling.round)
                        QVERIFY(distance(other.at, place.at) > w * (1 - 1e-6));
                    else
                        QVERIFY(std::abs(other.at.x - place.at.x) > h * (1 - 1e-6) ||
                                std::abs(other.at.y - place.at.y) > w * (1 - 1e-6));
                }
            }
            // Fill is the sum of the areas over the slot's.
            const ConductorSize size = size_conductor(machine->winding.conductor);
            const double turns = machine->winding.most_turns_in_slot(),
                         one =
                             filling.round ? pi / 4 * size.diameter * size.diameter : size.width * size.height,
                         outer = filling.round ? pi / 4 * w * w : w * h;
            CLOSE(size.fill, turns * size.strands * one / machine->winding.slot_area, 1e-9);
            CLOSE(size.insulated_fill, turns * size.strands * outer / free_area(spaces), 1e-9);
        }
        QCOMPARE(packed, 300);
    }
    void rooms_have_the_slots_area() {
        for (const char* name : {"surface", "surface-distributed", "bar"}) {
            const Machine m = machine_of(new_project(name)->variants.front().design);
            double sum = 0;
            for (const PackingSpace& space : slot_spaces(m)) sum += area(space.polygon);
            CLOSE(sum / m.winding.slot_area, 1, 3e-3); // arcs in chords
        }
    }
    void a_slot_drawn_whole_has_the_same_rooms() {
        for (const char* name : {"surface", "surface-distributed", "bar"}) {
            const Design design = new_project(name)->variants.front().design;
            const auto half = slot_spaces(machine_of(design)),
                       whole = slot_spaces(machine_of(design, {false, true}));
            QCOMPARE(whole.size(), half.size());
            for (std::size_t k = 0; k < half.size(); ++k) {
                QCOMPARE(whole[k].margin.size(), whole[k].polygon.size());
                CLOSE(area(whole[k].polygon) / area(half[k].polygon), 1, 1e-6);
                CLOSE(whole[k].free_area() / half[k].free_area(), 1, 1e-6);
            }
        }
    }
    void what_does_not_fit_says_by_how_much() {
        Design design = new_project("surface")->variants.front().design;
        design.texts["winding.conductor.diameter"] = "2 mm";
        design.texts["winding.turns"] = "40";
        const Machine m = machine_of(design);
        const SlotFilling filling = fill_slot(m, 0, Packing::Measured);
        QVERIFY(!filling.fits());
        QVERIFY(filling.largest > 0 && filling.largest < filling.outer_width);
        // Of that size they do.
        int least = 1 << 20;
        for (const PackingSpace& space : slot_spaces(m))
            least = std::min(least, int(pack_circles(space, filling.largest * 0.9999,
                                                     {m.section.stator().tile.gap_radius, 0})
                                            .size()));
        QVERIFY(least >= filling.wanted[0]);
    }
};
MAVLO_TEST(packing, TestPacking, Nothing)
#include "test_packing.moc"
