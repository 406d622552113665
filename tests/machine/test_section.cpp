#include "machine/drawing.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

class TestSection : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void faces_of_two_squares() {
        Outline o;
        const int a = o.add({0, 0}), b = o.add({1, 0}), c = o.add({1, 1}), d = o.add({0, 1}), e = o.add({3, 0}),
                  f = o.add({3, 1});
        o.chain({a, b, c, d, a});
        o.chain({b, e, f, c});
        const auto list = faces(o);
        QCOMPARE(list.size(), 2U);
        CLOSE(area(list[0]) + area(list[1]), 3, 1e-12);
        QVERIFY(contains(list[0], {0.5, 0.5}) != contains(list[1], {0.5, 0.5}));
    }
    void arcs_have_their_length_and_points() {
        Outline o;
        const int a = o.add({1, 0}), b = o.add({0, 1});
        o.arc(a, b);
        CLOSE(length_of(o, o.edges[0]), M_PI / 2, 1e-12);
        const Point middle = point_on(o, o.edges[0], 0.5);
        CLOSE(norm(middle), 1, 1e-12);
        CLOSE(angle_of(middle), M_PI / 4, 1e-12);
    }
    void every_region_is_drawn_and_none_overlap() {
        for (const auto& design :
             {design_of({}), design_of({{"stator.slot.kind", "radial"}}),
              design_of({{"stator.slots", "36"},
                         {"rotor.poles", "4"},
                         {"stator.slot.tooth_width", "2.6 mm"},
                         {"stator.slot.opening", "1.6 mm"},
                         {"stator.slot.corner_radius", "0.6 mm"}}),
              design_of({{"rotor.magnet.arc", "1"}}), design_of({{"winding.layers", "1"}})}) {
            const Machine m = machine_of(design);
            const Drawing s = make_drawing(m);
            int conductors = 0, magnets = 0;
            for (const auto& r : s.stator().regions) conductors += r.use == Use::Conductor;
            for (const auto& r : s.rotor().regions) magnets += r.use == Use::Magnet;
            QCOMPARE(conductors, m.slots * m.winding.layout.input.layers);
            QCOMPARE(magnets, m.poles);
            double sides = 0;
            for (const auto& r : s.stator().regions) {
                QVERIFY(area(r.polygon) > 0);
                if (r.use == Use::Conductor) sides += area(r.polygon);
            }
            CLOSE(sides, m.slots * m.winding.slot_area, 2e-3 * sides);
        }
    }
    void the_first_pole_is_north_on_the_x_axis() {
        const Machine m = machine_of({});
        const Drawing s = make_drawing(m);
        const DrawnRegion* magnet = region_at(s.rotor(), {m.rotor_radius() - 1e-3, 0});
        QVERIFY(magnet);
        QCOMPARE(magnet->use, Use::Magnet);
        QCOMPARE(magnet->polarity, 1);
        CLOSE(magnet->direction, 0, 1e-9);
    }
};
MAVLO_TEST(section, TestSection, Nothing)
#include "test_section.moc"
