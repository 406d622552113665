// The first page: shapes, slots and poles, demos.

#include "app/window_fixture.h"
#include "start/start_page.h"
#include "test_program.h"

using namespace mavlo;
using namespace mavlo::app;

class TestStart : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_shape_with_chosen_slots_and_poles() {
        WindowFixture f;
        f.document().undo_stack().setClean();
        QTest::keyClick(f.window.get(), Qt::Key_N, Qt::ControlModifier);
        auto* map = f.child<PairMap>("pair_map");
        QVERIFY(map->isVisible());
        QVERIFY(!f.window->tell_tales().isVisible());
        QTest::mouseMove(map, map->cell(12, 6).center().toPoint());
        QTest::mouseClick(map, Qt::LeftButton, {}, map->cell(24, 20).center().toPoint());
        QVERIFY(map->chosen() && map->chosen()->slots == 24 && map->chosen()->poles == 20);
        QVERIFY(f.child<QLabel>("pair_words")->text().contains(QStringLiteral("0.933")));
        QTest::mouseClick(f.child<ShapeTile>("shape:surface"), Qt::LeftButton);
        QCOMPARE(f.text("stator.slots"), std::string("24"));
        QCOMPARE(f.text("rotor.poles"), std::string("20"));
        QVERIFY(f.document().is_good());
        QCOMPARE(f.window->bench(), std::string("draw"));
        QVERIFY(f.window->tell_tales().isVisible());
    }
    void what_cannot_be_wound_says_why_and_keys_pass_over_it() {
        WindowFixture f;
        f.window->show_start();
        auto* map = f.child<PairMap>("pair_map");
        QTest::mouseClick(map, Qt::LeftButton, {},
                          map->cell(12, 6).center().toPoint()); // two poles a phase belt short
        QVERIFY(!map->chosen());
        map->choose(12, 4);
        map->setFocus();
        QTest::keyClick(map, Qt::Key_Right);
        QCOMPARE(map->chosen()->poles, 8);
        f.child<QComboBox>("start_phases")->setCurrentText(QStringLiteral("5 phases"));
        QVERIFY(map->cell(12, 8).isEmpty() || !map->chosen());
        map->choose(20, 18);
        QVERIFY(map->chosen());
    }
    void pairs_are_judged_as_the_literature_does() {
        const auto good = judge_pair(12, 10, 3, 2);
        QVERIFY(bool(good));
        CLOSE(good->winding_factor, 0.933, 1e-3);
        QCOMPARE(good->cogging_per_turn, 60);
        QVERIFY(!good->unbalanced_pull);
        QVERIFY(judge_pair(9, 8, 3, 2)->unbalanced_pull);
        QCOMPARE(judge_pair(9, 8, 3, 2)->cogging_per_turn, 72);
        QVERIFY(!judge_pair(12, 6, 3, 2));
    }
    void a_demo_opens() {
        WindowFixture f;
        f.document().undo_stack().setClean();
        f.window->show_start();
        QTest::mouseClick(f.child("demo:mill"), Qt::LeftButton);
        QCOMPARE(f.text("rotor.kind"), std::string("spoke"));
        f.window->show_start();
        QVERIFY(f.child<StartPage>("start_page")->isVisible());
    }
};
MAVLO_TEST(start, TestStart, Windows)
#include "test_start.moc"
