// The desktop's parts by themselves: jobs, plot, frame, pad, rows, document.

#include "app/window_fixture.h"
#include "compute/jobs.h"
#include "plot/plot.h"
#include "section/view_frame.h"
#include "shell/typed_number.h"
#include "test_program.h"

#include <QSignalSpy>
#include <atomic>
#include <thread>

using namespace mavlo;
using namespace mavlo::app;

class TestParts : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void decimal_commas() {
        const QLocale before;
        QLocale::setDefault(QLocale::C);
        for (const auto& [typed, meant] : {std::pair("0,9 mm", "0.9 mm"),
                                           {" -1,25", " -1.25"},
                                           {"0,5 W/(m2.K)", "0.5 W/(m2.K)"},
                                           {"1,5 N.m", "1.5 N.m"},
                                           {"0.9 mm", "0.9 mm"},
                                           {"1, 2, 3", "1, 2, 3"},
                                           {"1,2,3", "1,2,3"},
                                           {"0.1,5", "0.1,5"},
                                           {"= min(0,5 mm, 3 mm)", "= min(0,5 mm, 3 mm)"},
                                           {"1,500 rpm", "1,500 rpm"},
                                           {"M330,5", "M330,5"},
                                           {"auto", "auto"},
                                           {"1,5.2", "1,5.2"}})
            QCOMPARE(typed_number(QString::fromUtf8(typed)), std::string(meant));
        QLocale::setDefault(QLocale(QLocale::German));
        QCOMPARE(typed_number(QStringLiteral("1,500 rpm")), std::string("1.500 rpm"));
        QLocale::setDefault(before);
    }
    void jobs_run_in_turn_with_progress_and_stop() {
        Jobs jobs;
        std::vector<int> ended;
        std::atomic<bool> go = false;
        auto work = [&](const Watch& watch) {
            for (int i = 0; i < 50 && !watch.stop.stop_requested(); ++i) {
                while (!go && !watch.stop.stop_requested())
                    std::this_thread::sleep_for(std::chrono::milliseconds(1));
                watch.progress(i + 1, 50);
            }
        };
        const int first = jobs.submit(QStringLiteral("first"), work, [&] { ended.push_back(1); });
        const int second = jobs.submit(QStringLiteral("second"), work, [&] { ended.push_back(2); });
        QVERIFY(first != second);
        QVERIFY(QTest::qWaitFor([&] { return !jobs.states().empty() && jobs.states()[0].running; }, 2000));
        QCOMPARE(jobs.states().size(), 2U);
        QVERIFY(!jobs.states()[1].running);
        jobs.stop(first);
        QVERIFY(QTest::qWaitFor([&] { return ended.size() == 1; }, 2000));
        go = true;
        QVERIFY(QTest::qWaitFor([&] { return ended.size() == 2; }, 2000));
        QCOMPARE(ended, (std::vector<int>{1, 2}));
        QVERIFY(jobs.states().empty());
    }
    void a_paused_job_lets_others_run_and_loses_nothing() {
        Jobs jobs;
        std::vector<int> ended;
        std::atomic<int> steps = 0;
        const int held = jobs.submit(
            QStringLiteral("held"),
            [&](const Watch& watch) {
                for (int i = 0; i < 40 && !watch.stop.stop_requested(); ++i) {
                    std::this_thread::sleep_for(std::chrono::milliseconds(2));
                    ++steps;
                    watch.progress(i + 1, 40);
                }
            },
            [&] { ended.push_back(1); });
        QVERIFY(QTest::qWaitFor([&] { return steps > 2; }, 5000));
        jobs.pause(held);
        QVERIFY(jobs.is_paused(held));
        QTest::qWait(50);
        const int at = steps;
        const auto behind = [&](int number) {
            jobs.submit(
                QStringLiteral("behind"), [&](const Watch&) { QVERIFY(steps == at); },
                [&ended, number] { ended.push_back(number); });
        };
        behind(2), behind(3);
        QVERIFY(QTest::qWaitFor([&] { return ended.size() == 2; }, 5000));
        QCOMPARE(ended, (std::vector<int>{2, 3}));
        QVERIFY(at < 40 && steps == at); // nothing moved meanwhile
        QVERIFY(jobs.states().front().paused);
        QCOMPARE(jobs.states().front().done, at);
        jobs.go_on(held);
        QVERIFY(QTest::qWaitFor([&] { return ended.size() == 3; }, 5000));
        QCOMPARE(int(steps), 40);
        // One that is held is stopped, and one that waits to begin is held, too.
        const int stuck = jobs.submit(
            QStringLiteral("stuck"),
            [&](const Watch& watch) {
                while (!watch.stop.stop_requested()) watch.progress(1, 2);
            },
            [&] { ended.push_back(4); });
        QTest::qWait(20);
        jobs.pause(stuck);
        QTest::qWait(20);
        jobs.stop(stuck);
        QVERIFY(QTest::qWaitFor([&] { return ended.size() == 4; }, 5000));
    }
    void the_frame_keeps_the_point_under_the_cursor() {
        ViewFrame frame;
        frame.fit({100, 50, 400, 400}, 0.08);
        QVERIFY(frame.is_fitted());
        const QPointF cursor(330, 180);
        const Point before = frame.to_metres(cursor);
        frame.zoom(3, cursor);
        const Point after = frame.to_metres(cursor);
        CLOSE(distance(before, after), 0, 1e-12);
        QVERIFY(!frame.is_fitted());
        const QPointF there = frame.to_screen({0.01, 0.02});
        CLOSE(frame.to_metres(there).x, 0.01, 1e-12);
        frame.pan({10, -5});
        CLOSE(frame.to_screen({0.01, 0.02}).x() - there.x(), 10, 1e-9);
        for (int i = 0; i < 200; ++i) frame.zoom(2, cursor);
        QVERIFY(std::isfinite(frame.scale()) && frame.scale() < 1e7);
    }
    void the_section_zooms_pans_and_fits() {
        WindowFixture f;
        SectionView& section = f.window->section();
        const QPointF label = *section.handle_position("gap");
        QWheelEvent wheel(label, section.mapToGlobal(label), {}, {0, 240}, Qt::NoButton, {}, Qt::NoScrollPhase,
                          false);
        QCoreApplication::sendEvent(&section, &wheel);
        const QPointF zoomed = *section.handle_position("gap");
        CLOSE(zoomed.x(), label.x(), 1.5);
        f.drag(&section, {20, 650}, {80, 600}); // bare ground
        CLOSE(section.handle_position("gap")->x() - zoomed.x(), 60, 5);
        QTest::keyClick(&section, Qt::Key_0);
        CLOSE(section.handle_position("gap")->x(), label.x(), 1e-6);
    }
    void a_plot_reads_copies_and_saves() {
        Plot plot;
        plot.resize(500, 300);
        plot.show();
        const Curve curve{"torque", "N.m", "rotor_angle", "deg", {0, 1, 2, 3}, {0, 5, -5, 0}};
        plot.show_curves({{curve, QStringLiteral("torque"), Qt::red, false, false},
                          {curve, QStringLiteral("again"), Qt::blue, true, true}},
                         QStringLiteral("x"), QStringLiteral("y"));
        QCoreApplication::processEvents();
        auto* canvas = plot.findChildren<QWidget*>().front();
        QTest::mouseMove(canvas, QPoint(200, 100));
        QTest::mouseMove(canvas, QPoint(210, 105));
        QVERIFY(QTest::qWaitFor([&] { return plot.reading().contains(QStringLiteral("N.m at")); }, 2000));
        QCOMPARE(plot.copied_table().split('\n').size(), 6);
        QTemporaryDir folder;
        for (const char* name : {"p.png", "p.svg", "p.pdf"})
            QVERIFY(plot.save(folder.filePath(QString::fromLatin1(name))));
        QVERIFY(!plot.save(folder.filePath(QStringLiteral("p.doc"))));
        QVERIFY(!plot.save(QStringLiteral("/nowhere/p.png")));
        plot.clear();
        QVERIFY(plot.copied_table().isEmpty());
    }
    void the_pad_stays_within_its_limit_and_obeys_keys() {
        DqPad pad;
        pad.resize(300, 220);
        pad.set_limit(10);
        QSignalSpy spy(&pad, &DqPad::changed);
        QTest::mouseClick(&pad, Qt::LeftButton, {}, QPoint(2, 2));
        CLOSE(std::hypot(pad.current().d, pad.current().q), 10, 1e-9);
        QVERIFY(pad.current().d < 0 && pad.current().q > 0);
        QTest::keyClick(&pad, Qt::Key_0);
        QTest::keyClick(&pad, Qt::Key_Up);
        QTest::keyClick(&pad, Qt::Key_Left, Qt::ShiftModifier);
        CLOSE(pad.current().q, 0.2, 1e-12);
        CLOSE(pad.current().d, -1, 1e-12);
        QCOMPARE(spy.count(), 5); // once more when the hand lets go
    }
    void words_and_numbers_of_answers() {
        QCOMPARE(name_words("torque_peak_to_peak"), QStringLiteral("torque peak to peak"));
        QCOMPARE(name_words("back_emf_uv"), QStringLiteral("back-EMF UV"));
        QCOMPARE(shown_figure({"x", 0.0123, "N.m"}), std::string("12.3 mN·m"));
        QCOMPARE(shown_figure({"x", 15000.0, "W"}), std::string("15 kW"));
        QCOMPARE(shown_figure({"x", 6.032e-4, "m3"}), std::string("603.2 cm³"));
        QCOMPARE(shown_figure({"x", 0.05, "kg"}), std::string("50 g"));
        QCOMPARE(shown_figure({"x", 12000, "rpm"}), std::string("12000 rpm"));
        QCOMPARE(shown_figure({"x", std::nullopt, "W"}), std::string("–"));
        QCOMPARE(shown_figure({"x", 27.0026, "V", 0.0344}), std::string("27.003 ± 0.034 V"));
        QCOMPARE(shown_figure({"x", 0.1476, "N.m", 0.0091}), std::string("0.1476 ± 0.0091 N·m"));
        QCOMPARE(shown_figure({"x", 1234, "W", 56}), std::string("1234 ± 56 W"));
        QCOMPARE(shown_figure({"x", 0.05, "1"}), std::string("0.05"));
    }
    void dimensions_read_like_a_drawing() {
        const Parameter *width = find_parameter("stator.slot.tooth_width"),
                        *arc = find_parameter("rotor.magnet.arc"),
                        *angle = find_parameter("stator.slot.body_angle");
        QCOMPARE(dimension_text(*width, 6.4e-3), QStringLiteral("6.40"));
        QCOMPARE(dimension_text(*arc, 0.86), QStringLiteral("0.86"));
        QCOMPARE(dimension_text(*angle, 0.2792526803), QStringLiteral("16.00°"));
        CLOSE(rounded_to_step(*width, 6.4372e-3, 0.3e-3 / 1), 6.4e-3, 1e-12);
        CLOSE(rounded_to_step(*width, 6.4372e-3, 0.03e-3), 6.44e-3, 1e-12);
    }
    void gestures_merge_and_others_do_not() {
        Document d;
        for (int i = 0; i < 5; ++i) QVERIFY(!d.set_text("gap", QStringLiteral("1.%1 mm").arg(i + 1), 77));
        QCOMPARE(d.undo_stack().count(), 1);
        QVERIFY(!d.set_text("gap", QStringLiteral("2 mm")));
        QCOMPARE(d.undo_stack().count(), 2);
        d.undo_stack().undo();
        d.undo_stack().undo();
        CLOSE(d.value("gap"), 1e-3, 1e-12);
        QVERIFY(d.set_text("gap", QStringLiteral("wide")));
        QVERIFY(d.set_text("no.such.path", QStringLiteral("1 mm")));
        QVERIFY(!d.set_text("gap", QStringLiteral("1 mm"))); // the same again is no step
        QCOMPARE(d.undo_stack().count(), 2);
    }
    void escape_takes_back_what_was_typed() {
        WindowFixture f;
        auto* edit = f.child<QLineEdit>("edit:gap");
        QTest::mouseClick(edit, Qt::LeftButton);
        QCoreApplication::processEvents();
        QTest::keyClicks(edit, QStringLiteral("99 furlong"));
        QTest::keyClick(edit, Qt::Key_Return);
        QVERIFY(edit->property("wrong").toBool());
        QTest::keyClick(edit, Qt::Key_Escape);
        QVERIFY(!edit->property("wrong").toBool());
        QCOMPARE(edit->text(), QStringLiteral("1"));
        QVERIFY(f.document().undo_stack().isClean());
    }
    void choices_and_materials_are_chosen_from_lists() {
        WindowFixture f;
        auto* kind = f.child<QComboBox>("edit:stator.slot.kind");
        kind->setFocus();
        QVERIFY(kind->findText(QStringLiteral("parallel tooth")) >= 0); // in the trade's words
        QTest::keyClicks(kind, QStringLiteral("radial"));
        QCOMPARE(f.text("stator.slot.kind"), std::string("radial"));
        QVERIFY(f.child("row:stator.slot.body_angle")->isVisible() &&
                !f.child("row:stator.slot.tooth_width")->isVisible());
        auto* steel = f.child<QComboBox>("edit:stator.steel");
        QVERIFY(steel->findText(QStringLiteral("M400-50A")) >= 0 &&
                steel->findText(QStringLiteral("copper")) < 0);
        steel->setEditText(QStringLiteral("linear(4000)"));
        QTest::keyClick(steel->lineEdit(), Qt::Key_Return);
        QCOMPARE(f.document().built()->machine.substance("stator.steel")->material.curve.linear_mu_r(), 4000.0);
        steel->setEditText(QStringLiteral("cheese"));
        QTest::keyClick(steel->lineEdit(), Qt::Key_Return);
        QVERIFY(!f.document().is_good());
        QVERIFY(f.document().problems().front().sentence.find("cheese") != std::string::npos);
    }
    void a_smooth_stator_shows_everywhere_without_harm() {
        WindowFixture f("smooth");
        for (int i = 0; i < 5; ++i) {
            f.window->show_bench(registry<BenchKind>().names()[std::size_t(i)]);
            QVERIFY(f.settle());
            QVERIFY(!f.window->grab().isNull());
        }
        QCOMPARE(f.window->tell_tales().cells()[0].value, QStringLiteral("–"));
        // A question whose need is not met says why on its card, and is not asked.
        f.window->show_bench("ask");
        f.window->part<AskBench>().choose("load");
        QVERIFY(f.settle());
        const auto* price = f.window->part<AskBench>().card("load")->findChild<QLabel*>("price:load");
        QVERIFY(price && price->text().contains(QStringLiteral("winding")));
        QVERIFY(!f.child("ask:load")->isEnabled());
    }
};
MAVLO_TEST(parts, TestParts, Windows)
#include "test_parts.moc"
