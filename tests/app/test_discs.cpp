// An axial machine in the window: its discs on Draw with one part in hand, its field on Probe.

#include "draw/disc_space.h"
#include "draw/disc_view.h"
#include "support.h"
#include "test_program.h"
#include "window_fixture.h"

#include <QSignalSpy>

using namespace mavlo;
using namespace mavlo::app;

class TestDiscs : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void they_stand_under_the_section_of_an_axial_machine_alone() {
        WindowFixture axial("axial"), round("surface");
        QVERIFY(axial.child<DiscView>("discs")->isVisible());
        QVERIFY(!round.child<DiscView>("discs")->isVisible());
        const auto problem = round.document().set_text("machine.topology", QStringLiteral("axial-one-rotor"));
        QVERIFY(!problem);
        // The round machine's slots are drawn round an axis: said, and nothing falls.
        QVERIFY(!round.document().is_good());
        round.document().set_text("stator.slot.kind", QStringLiteral("parallel-slot"));
        round.document().set_text("rotor.magnet.outline", QStringLiteral("sector"));
        QVERIFY2(round.document().is_good(),
                 qPrintable(QString::fromStdString(
                     to_string(round.document().is_good() ? Problem{} : round.document().problems().front()))));
        QVERIFY(round.child<DiscView>("discs")->isVisible());
    }
    void the_unrolled_section_follows_the_circle_on_the_face() {
        WindowFixture f("axial");
        auto* discs = f.child<DiscView>("discs");
        const double before = discs->radius(), wanted = 0.045;
        QVERIFY(before > 0.05);
        const QImage seen = discs->grab().toImage();
        f.drag(discs, discs->on_face(before), discs->on_face(wanted));
        CLOSE(discs->radius(), wanted, 1e-3);
        QVERIFY(discs->grab().toImage() != seen);
        f.drag(discs, discs->on_face(discs->radius()), discs->on_face(0.2)); // not beyond the ring
        CLOSE(discs->radius(), 0.07, 1e-6);
        discs->setFocus();
        QTest::keyClick(discs, Qt::Key_Left);
        QVERIFY(discs->radius() < 0.07 - 1e-4);
    }
    void a_part_is_in_hand_in_all_views() {
        WindowFixture f("axial");
        auto* discs = f.child<DiscView>("discs");
        const QRectF magnets = discs->layer("rotor.magnet");
        QVERIFY(!magnets.isEmpty());
        QSignalSpy chosen(discs, &DiscView::part_chosen);
        QTest::mouseClick(discs, Qt::LeftButton, {}, magnets.center().toPoint());
        QCOMPARE(chosen.count(), 1);
        QVERIFY(f.child<QPushButton>("part:Rotor")->isChecked());
        QTest::mouseClick(f.child<QPushButton>("part:Stator"), Qt::LeftButton);
        QTest::mouseClick(discs, Qt::LeftButton, {}, discs->layer("stator").topLeft().toPoint() + QPoint(4, 4));
        QVERIFY(f.child<QPushButton>("part:Stator")->isChecked());
    }
    void the_machine_in_space_is_turned_by_hand_and_by_keys() {
        WindowFixture f("axial-coreless");
        auto* space = f.child<DiscSpace>("disc_space");
        QVERIFY(space->isVisible());
        const double turn = space->turn(), tilt = space->tilt();
        const QImage seen = space->grab().toImage();
        f.drag(space, space->rect().center(), space->rect().center() + QPoint(40, -60));
        QVERIFY(space->turn() > turn + 0.2 && space->tilt() < tilt - 0.3);
        QVERIFY(space->grab().toImage() != seen);
        QTest::keyClick(space, Qt::Key_Up);
        QTest::keyClick(space, Qt::Key_Left);
        QVERIFY(std::isfinite(space->turn()));
    }
    void every_axial_shape_is_drawn_and_its_field_shown() {
        for (const char* shape : {"axial", "axial-yokeless", "axial-coreless", "axial-two-stators"}) {
            WindowFixture f(shape);
            QVERIFY2(f.document().is_good(), shape);
            QVERIFY2(!f.child<DiscView>("discs")->layer("rotor.magnet").isEmpty(), shape);
            f.window->show_bench("probe");
            QVERIFY2(f.settle(), shape);
            const auto field = f.window->section().result();
            QVERIFY2(field && field->problems.empty(), shape);
            QVERIFY2(field->picture.highest_flux_density > 0.2, shape);
        }
    }
    void a_dimension_is_dragged_on_the_rolled_section() {
        WindowFixture f("axial");
        SectionView& section = f.window->section();
        section.set_close_up(true);
        QVERIFY(f.settle());
        const auto handle = section.handle_position("stator.slot.depth");
        QVERIFY(handle.has_value());
        const double before = f.document().value("stator.slot.depth");
        f.drag(&section, *handle, *handle + QPointF(0, -12)); // away from the gap
        QVERIFY(f.document().value("stator.slot.depth") > before);
        f.document().undo_stack().undo();
        CLOSE(f.document().value("stator.slot.depth"), before, 1e-9);
    }
};
MAVLO_TEST(discs, TestDiscs, Windows)
#include "test_discs.moc"
