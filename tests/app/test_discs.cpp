// An axial machine in the window: its discs on Draw with one part in hand, its field on Probe.

#include "draw/disc_space.h"
#include "draw/disc_view.h"
#include "night.h"
#include "support.h"
#include "test_program.h"
#include "window_fixture.h"

#include <QComboBox>
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
            if (!is_tried(shape)) continue;
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
    void magnets_outlines_are_those_of_discs() {
        WindowFixture f("axial");
        auto* outline = f.child<QComboBox>("edit:rotor.magnet.outline");
        QStringList words;
        for (int k = 0; k < outline->count(); ++k) words << outline->itemText(k);
        QCOMPARE(words, QStringList({"sector", "rectangle", "round"}));
        f.document().set_text("machine.topology", QStringLiteral("inner-rotor"));
        QCOMPARE(outline->itemText(0), QStringLiteral("arc"));
    }
    void a_straight_machine_lies_along_its_motion() {
        WindowFixture f("linear");
        QVERIFY(f.settle());
        auto* strip = f.child<DiscView>("discs");
        QVERIFY(strip->isVisible() && !f.child<DiscSpace>("disc_space")->isVisible());
        QSignalSpy chosen(strip, &DiscView::part_chosen);
        // From above to below: the stator's back, the magnets, the back iron.
        QStringList met;
        for (int y = 30; y < strip->height() - 12; y += 2) {
            QTest::mouseClick(strip, Qt::LeftButton, {}, QPoint(strip->width() / 2, y));
            const QString part = QString::fromStdString(chosen.takeLast().first().value<std::string>());
            if (!part.isEmpty() && (met.isEmpty() || met.last() != part)) met << part;
        }
        QVERIFY2(met.size() >= 4 && met.first() == QStringLiteral("stator") &&
                     met.contains(QStringLiteral("stator.slot")) &&
                     met.contains(QStringLiteral("rotor.magnet")) && met.last() == QStringLiteral("rotor"),
                 qPrintable(met.join(' ')));
    }
    void a_straight_machine_speaks_of_thrust() {
        WindowFixture f("linear");
        QVERIFY(f.settle());
        const auto cells = f.window->tell_tales().cells();
        QVERIFY2(cells.front().title.startsWith(QStringLiteral("Thrust")), qPrintable(cells.front().title));
        QCOMPARE(cells.front().unit, QStringLiteral("N"));
        QVERIFY(cells.front().value.toDouble() > 100);
        // Rows in its own units: typed, and taken.
        f.child<QPushButton>("part:Rating")->click();
        f.type("edit:rating.speed", QStringLiteral("3 m/s"));
        QVERIFY(f.document().is_good());
        CLOSE(f.document().value("rating.speed"), 3, 1e-12);
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        QCOMPARE(bench.card("load")->title(), QStringLiteral("Thrust over a period"));
        bench.ask("load");
        QVERIFY(f.settle());
        QVERIFY(bench.answer("load") && bench.answer("load")->figure("thrust_mean"));
        // The full answer takes the quick one's place in the strip.
        const auto full = f.window->tell_tales().cells().front();
        QVERIFY(!full.quick);
        CLOSE(full.value.toDouble(), *bench.answer("load")->figure("thrust_mean"), 0.6);
    }
};
MAVLO_TEST(discs, TestDiscs, Windows)
#include "test_discs.moc"
