// Wind, Probe, Ask and Weigh in the real window.

#include "app/window_fixture.h"
#include "probe/phase_pad.h"
#include "test_program.h"

#include <QClipboard>
#include <numbers>

using namespace mavlo;
using namespace mavlo::app;

class TestBenches : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void turning_the_ring_turns_the_field() {
        WindowFixture f;
        f.window->show_bench("probe");
        QVERIFY(f.settle());
        SectionView& section = f.window->section();
        auto* live = f.window->findChild<LiveField*>();
        QVERIFY(!live); // not a child: watched through the panel instead
        const QPointF from = section.ring_handle();
        QTest::mousePress(&section, Qt::LeftButton, {}, from.toPoint());
        QTest::mouseMove(&section, (from + QPointF(-4, -60)).toPoint());
        QTest::mouseRelease(&section, Qt::LeftButton, {}, (from + QPointF(-4, -60)).toPoint());
        QVERIFY(section.angle() > 0.05 && section.angle() < 0.6);
        QVERIFY(f.settle());
        QVERIFY(f.child<QLabel>("probe_readout")->text().contains(QStringLiteral("N·m")));
        CLOSE(f.child<QLineEdit>("probe_angle")->text().toDouble(), section.angle() * 180 / std::numbers::pi,
              0.006);
        section.setFocus();
        const double before = section.angle();
        QTest::keyClick(&section, Qt::Key_Left);
        CLOSE(section.angle() - before, std::numbers::pi / 180, 1e-9);
        QTest::keyClick(&section, Qt::Key_Home);
        CLOSE(section.angle(), 0, 1e-12);
    }
    void dragging_the_current_gives_torque() {
        WindowFixture f;
        f.window->show_bench("probe");
        auto* pad = f.child<DqPad>("dq_pad");
        const QPointF centre = QRectF(pad->rect()).center();
        f.drag(pad, centre, centre - QPointF(0, 60));
        QVERIFY(pad->current().q > 5 && pad->current().d == 0);
        QVERIFY(f.settle());
        const QString readout = f.child<QLabel>("probe_readout")->text();
        QVERIFY2(!readout.contains(QStringLiteral(">0 N·m")), qPrintable(readout));
        f.type("probe_advance", QStringLiteral("90"));
        QVERIFY(pad->current().d < -5 && std::abs(pad->current().q) < 1e-6);
        pad->setFocus();
        QTest::keyClick(pad, Qt::Key_0);
        QCOMPARE(pad->current().d, 0.0);
    }
    void a_phase_may_be_open_or_shorted() {
        WindowFixture f("surface");
        f.window->show_bench("probe");
        auto* panel = f.window->findChild<ProbePanel*>();
        auto* fault = f.child<QComboBox>("probe_fault");
        QCOMPARE(fault->count(), 7); // none, three open, three shorted
        panel->set_current({0, 5});
        const auto& lags = f.document().built()->machine.winding.layout.lags;
        const auto largest_of_u = [&] {
            double most = 0;
            for (int k = 0; k < 24; ++k)
                most = std::max(most, std::abs(panel->current().at(0.26 * k, lags)[0]));
            return most;
        };
        CLOSE(largest_of_u(), 5, 0.05);
        fault->setFocus();
        QTest::keyClicks(fault, QStringLiteral("U o"));
        QCOMPARE(fault->currentText(), QStringLiteral("U open"));
        CLOSE(largest_of_u(), 0, 0);
        // Joined at its ends the phase brakes: its current comes when it has been found.
        fault->setCurrentIndex(4);
        QCOMPARE(fault->currentText(), QStringLiteral("U shorted"));
        CLOSE(largest_of_u(), 0, 0);
        QTRY_VERIFY_WITH_TIMEOUT(largest_of_u() > 0.1, 60000);
        CLOSE(panel->current().at(0.4, lags)[1], CurrentWave(Dq{0, 5}).at(0.4, lags)[1], 1e-9);
        fault->setCurrentIndex(0);
        CLOSE(largest_of_u(), 5, 0.05);
    }
    void columns_of_switched_phases_are_dragged() {
        WindowFixture f("salient");
        f.window->show_bench("probe");
        auto* pad = f.child<PhasePad>("phase_pad");
        QVERIFY(pad->isVisible());
        QVERIFY(!f.child<DqPad>("dq_pad")->isVisible());
        QCOMPARE(pad->currents(), std::vector<double>({12, 0, 0})); // the first phase at its rating
        const auto readout = [&] { return f.child<QLabel>("probe_readout")->text(); };
        f.drag(pad, pad->top_of(0), pad->column(0).center());
        QVERIFY(pad->currents()[0] > 9 && pad->currents()[0] < 11); // half of the largest
        QVERIFY(f.settle());
        QVERIFY2(!readout().contains(QStringLiteral(">0 N·m")), qPrintable(readout()));
        QVERIFY(readout().contains(QStringLiteral("Flux linkages U, V, W")));
        // The second phase is aligned where the rotor stands: alone it does not pull.
        f.drag(pad, pad->column(1).center() + QPointF(0, 30), pad->column(1).center() - QPointF(0, 20));
        QVERIFY(pad->currents()[1] > 9 && pad->currents()[1] < 16);
        f.drag(pad, pad->top_of(0), pad->column(0).bottomLeft() + QPointF(5, 15));
        QCOMPARE(pad->currents()[0], 0.0);
        QVERIFY(f.settle());
        QVERIFY2(readout().contains(QStringLiteral(">0 N·m")), qPrintable(readout()));
        pad->setFocus();
        const double before = pad->currents()[0];
        QTest::keyClick(pad, Qt::Key_Up, Qt::ShiftModifier);
        CLOSE(pad->currents()[0], before + 2, 1e-9); // a tenth of the largest current
        QTest::keyClick(pad, Qt::Key_Right);
        QTest::keyClick(pad, Qt::Key_Down);
        QVERIFY(pad->currents()[1] < 16);
    }
    void overlays_range_and_play() {
        WindowFixture f;
        f.window->show_bench("probe");
        QVERIFY(f.settle());
        f.type("probe_range", QStringLiteral("1.5 T"));
        CLOSE(f.window->section().range_high(), 1.5, 1e-12);
        const QImage with = f.window->section().grab().toImage();
        QTest::mouseClick(f.child("overlay:flux density"), Qt::LeftButton);
        QVERIFY(!f.window->section().overlays().has("flux density"));
        QVERIFY(f.window->section().grab().toImage() != with);
        QTest::mouseClick(f.child("play"), Qt::LeftButton);
        QVERIFY(QTest::qWaitFor([&] { return f.window->section().angle() > 0.02; }, 5000));
        QTest::mouseClick(f.child("play"), Qt::LeftButton);
        CLOSE(f.window->section().range_high(), 1.5, 1e-12); // kept while the rotor turned
    }
    void the_field_under_the_cursor_is_read() {
        WindowFixture f;
        f.window->show_bench("probe");
        QVERIFY(f.settle());
        SectionView& section = f.window->section();
        QTest::mouseMove(&section, QPoint(section.width() / 2 + 100, section.height() / 2 + 40));
        QTest::mouseMove(&section, QPoint(section.width() / 2 + 101, section.height() / 2 + 41));
        QVERIFY(QTest::qWaitFor(
            [&] { return f.child<QLabel>("reading")->text().contains(QStringLiteral("|B|")); }, 2000));
    }
    void cogging_is_asked_exported_and_goes_stale() {
        WindowFixture f;
        f.window->show_bench("ask");
        AskBench& bench = f.window->part<AskBench>();
        f.type("input:cogging:points", QStringLiteral("8")); // Enter asks
        QVERIFY(QTest::qWaitFor([&] { return bench.answer("cogging") != nullptr; }, 60000));
        QVERIFY(f.settle());
        QCOMPARE(int(bench.card("cogging")->state()), int(AnswerState::Fresh));
        QVERIFY(f.child<QLabel>("sentence")->text().contains(QStringLiteral("60 times a turn")));
        QVERIFY(f.child<QLabel>("figure:cogging_peak_to_peak")->text().contains(QStringLiteral("N·m")));
        QVERIFY(!f.window->tell_tales().cells()[1].quick); // the full figure replaced the quick one
        for (const char* name : {"c.csv", "c.json", "c.png", "c.svg", "c.pdf"}) {
            QVERIFY2(bench.answer_view().export_to(f.file(name)), name);
            QVERIFY2(QFileInfo(f.file(name)).size() > 300, name);
        }
        QFile csv(f.file("c.csv"));
        QVERIFY(csv.open(QIODevice::ReadOnly));
        const QString content = QString::fromUtf8(csv.readAll());
        QVERIFY(content.contains(QStringLiteral("rotor_angle [deg],torque [N.m]")));
        QCOMPARE(
            content.split('\n').filter(QRegularExpression(QStringLiteral("^[0-9.e-]+,-?[0-9.e-]+$"))).size() >=
                8,
            true);
        f.document().set_text("gap", QStringLiteral("1.2 mm"));
        QCOMPARE(int(bench.card("cogging")->state()), int(AnswerState::Stale));
        QVERIFY(bench.answer("cogging"));
        QVERIFY(f.window->tell_tales().cells()[1].quick);
        f.document().undo_stack().undo();
        QCOMPARE(int(bench.card("cogging")->state()), int(AnswerState::Fresh));
        // The answer lies beside the project and is found again.
        MainWindow second;
        QVERIFY(second.open_file(f.file()));
        second.part<AskBench>().card("cogging")->findChild<QLineEdit*>()->setText(QStringLiteral("8"));
        second.document().set_text("gap", QStringLiteral("1.1 mm"));
        second.document().undo_stack().undo();
        QVERIFY(second.part<AskBench>().answer("cogging"));
    }
    void the_error_of_the_mesh_is_asked_for_and_shown() {
        WindowFixture f;
        f.window->show_bench("ask");
        AskBench& bench = f.window->part<AskBench>();
        f.type("input:cogging:points", QStringLiteral("8"));
        QVERIFY(QTest::qWaitFor([&] { return bench.answer("cogging") != nullptr; }, 60000));
        QVERIFY(f.settle());
        auto* button = f.child<QPushButton>("estimate_error");
        QVERIFY(button->isVisible());
        QVERIFY(!f.child<QLabel>("figure:cogging_peak_to_peak")->text().contains(QStringLiteral("±")));
        QTest::mouseClick(button, Qt::LeftButton);
        QVERIFY(QTest::qWaitFor([&] { return bench.answer("cogging")->has_errors(); }, 60000));
        QVERIFY(f.settle());
        QVERIFY(f.child<QLabel>("figure:cogging_peak_to_peak")->text().contains(QStringLiteral("±")));
        QVERIFY(!button->isVisible()); // it is known now
        QCOMPARE(int(bench.card("cogging")->state()), int(AnswerState::Fresh));
    }
    void the_field_follows_a_dragged_dimension_on_draw() {
        WindowFixture f;
        f.window->show_bench("draw");
        QTest::mouseClick(f.child<QPushButton>("overlay:flux density"), Qt::LeftButton);
        QVERIFY(f.settle());
        SectionView& section = f.window->section();
        const auto first = section.result();
        QVERIFY(first && first->problems.empty());
        const auto handle = section.handle_position("stator.slot.depth");
        QVERIFY(handle.has_value());
        const QPoint from = handle->toPoint();
        QTest::mousePress(&section, Qt::LeftButton, {}, from);
        for (int step = 1; step <= 3; ++step) {
            const auto shown = section.result();
            QTest::mouseMove(&section, from - QPoint(4 * step, 0));
            QVERIFY(
                QTest::qWaitFor([&] { return section.result() != shown; }, 5000)); // while the button is held
            QVERIFY(section.result()->problems.empty());
            QVERIFY(section.result()->request.built->hash == f.window->document().built()->hash);
        }
        QTest::mouseRelease(&section, Qt::LeftButton, {}, from - QPoint(12, 0));
        QVERIFY(f.settle());
        QVERIFY(section.result()->request.built->hash != first->request.built->hash);
    }
    void every_question_answers_and_shows_its_plots() {
        WindowFixture f;
        f.window->show_bench("ask");
        AskBench& bench = f.window->part<AskBench>();
        for (const char* name : {"input:no-load:points", "input:load:points"})
            f.child<QLineEdit>(name)->setText(QStringLiteral("12"));
        for (const char* question : {"winding", "no-load", "load"}) {
            QTest::mouseClick(bench.card(question), Qt::LeftButton, {}, QPoint(40, 18)); // unfolds it
            QTest::mouseClick(f.child((std::string("ask:") + question).c_str()), Qt::LeftButton);
            QVERIFY(
                QTest::qWaitFor([&] { return bench.answer(question) != nullptr && bench.is_idle(); }, 60000));
            auto* choice = f.child<QComboBox>("plot_choice");
            QVERIFY(choice->count() >= 2);
            for (int i = 0; i < choice->count(); ++i) choice->setCurrentIndex(i);
        }
        QVERIFY(f.child<QLabel>("figure:efficiency")->text().endsWith(QStringLiteral("%")));
        QVERIFY(bench.answer("load")->figure("torque_mean") > 0);
    }
    void a_question_can_be_stopped() {
        WindowFixture f;
        f.window->show_bench("ask");
        AskBench& bench = f.window->part<AskBench>();
        f.type("input:cogging:points", QStringLiteral("2000"));
        QVERIFY(QTest::qWaitFor([&] { return bench.card("cogging")->state() == AnswerState::Running; }, 20000));
        QTest::mouseClick(f.child("ask:cogging"), Qt::LeftButton);
        QVERIFY(QTest::qWaitFor([&] { return bench.is_idle(); }, 3000));
        QVERIFY(!bench.answer("cogging"));
        QCOMPARE(int(bench.card("cogging")->state()), int(AnswerState::None));
    }
    void wrong_inputs_are_refused_on_the_card() {
        WindowFixture f;
        f.window->show_bench("ask");
        f.window->part<AskBench>().choose("cogging");
        f.child<QLineEdit>("input:cogging:points")->setText(QStringLiteral("2.5"));
        QVERIFY(!f.child<QPushButton>("ask:cogging")->isEnabled());
        f.child<QLineEdit>("input:cogging:points")->setText({});
        QVERIFY(f.child<QPushButton>("ask:cogging")->isEnabled());
    }
    void a_wanted_resistance_finds_its_conductor() {
        WindowFixture f;
        f.window->show_bench("wind");
        const double before = machine_conductor(f.document().built()->machine).resistance;
        f.type("wanted_resistance", QString::number(before * 1.25) + QStringLiteral(" Ohm"));
        CLOSE(machine_conductor(f.document().built()->machine).resistance, before * 1.25, 1e-4 * before);
        f.type("wanted_resistance", QStringLiteral("0.0001"));
        bool said = false;
        for (auto* label : f.window->findChildren<QLabel*>())
            said |= label->text().contains(QStringLiteral("more than fits"));
        QVERIFY(said);
    }
    void weigh_sets_variants_side_by_side() {
        WindowFixture f;
        f.document().add_variant(QStringLiteral("long"));
        f.document().set_text("machine.stack_length", QStringLiteral("60 mm"));
        f.window->show_bench("weigh");
        QVERIFY(f.settle());
        auto* table = f.window->part<WeighBench>().findChild<QTableWidget*>();
        QCOMPARE(table->columnCount(), 4);
        // Under the sections and the group's word stands the torque, of the quick model.
        const auto torque = [&](int column) {
            return table->item(2, column)->text().section(' ', 1, 1).toDouble();
        };
        QVERIFY(table->item(2, 0)->text().contains(QStringLiteral("Torque at rated")));
        CLOSE(torque(3) / torque(2), 1.2, 0.01);
        QVERIFY(table->item(2, 3)->text().contains(QStringLiteral("+20.0 %")));
    }
};
MAVLO_TEST(benches, TestBenches, Windows)
#include "test_benches.moc"
