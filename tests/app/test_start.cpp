// The first page: shapes, slots and poles, demos.

#include "app/window_fixture.h"
#include "start/start_page.h"
#include "test_program.h"

#include <QFileInfo>

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
    void shapes_are_found_by_what_they_are() {
        WindowFixture f;
        f.window->show_start();
        const auto seen = [&] {
            int count = 0;
            for (const auto* tile : f.window->findChildren<ShapeTile*>()) count += tile->isVisible();
            return count;
        };
        const int all = seen();
        QCOMPARE(std::size_t(all), starting_shapes().size());
        QTest::mouseClick(f.child("start_filter:cage"), Qt::LeftButton);
        QCOMPARE(seen(), 4);
        QVERIFY(f.child<ShapeTile>("shape:cage-two-poles")->isVisible());
        QTest::mouseClick(f.child("start_filter:outside"), Qt::LeftButton);
        QCOMPARE(seen(), 0); // a cage outside there is none
        QTest::mouseClick(f.child("start_filter:cage"), Qt::LeftButton);
        QCOMPARE(seen(), 3);
        QTest::mouseClick(f.child("start_filter:disc"), Qt::LeftButton);
        QCOMPARE(seen(), 7); // either place
        QTest::mouseClick(f.child("start_filter:disc"), Qt::LeftButton);
        QTest::mouseClick(f.child("start_filter:outside"), Qt::LeftButton);
        QCOMPARE(seen(), all);
    }
    void what_was_open_comes_back_by_a_click() {
        WindowFixture f;
        QVERIFY(!f.document().save(f.file("hoist two.mavlo")));
        f.window->open_file(f.file("hoist two.mavlo"));
        f.window->show_start();
        auto* row = f.child<QAbstractButton>("recent:hoist two");
        QTRY_VERIFY(row->accessibleDescription().startsWith(QStringLiteral("today")));
        QTest::mouseClick(row, Qt::LeftButton);
        QCOMPARE(QFileInfo(f.document().file()).completeBaseName(), QStringLiteral("hoist two"));
        QCOMPARE(f.window->bench(), std::string("draw"));
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
