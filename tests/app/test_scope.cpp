// The scope in the real window: a run on blocks, its cursor dragged, circuit and section with it.

#include "app/window_fixture.h"
#include "circuit/bridge.h"
#include "scope/measured.h"
#include "scope/time_bar.h"
#include "test_program.h"

#include <QDir>
#include <QMenu>
#include <QTemporaryDir>

using namespace mavlo;
using namespace mavlo::app;

namespace {

/// A run of one second: phase U rises straight from 0 to 10 A on its upper switch and jumps to its lower diode.
Answer made_run() {
    Answer a;
    a.question = "in-time";
    a.inputs = {{"supply", "blocks"}};
    const std::vector<double> t{0, 0.5, 0.5, 1};
    const auto add = [&](const char* name, const char* unit, std::vector<double> y) {
        a.curves.push_back({name, unit, "time", "s", t, std::move(y)});
    };
    add("torque", "N.m", {1, 2, 2, 1});
    add("current_u", "A", {0, 10, 10, 4});
    add("current_v", "A", {0, -10, -10, -4});
    add("current_w", "A", {0, 0, 0, 0});
    add("voltage_u", "V", {20, 20, -5, -5});
    add("voltage_v", "V", {-20, -20, 5, 5});
    add("voltage_w", "V", {0, 0, 0, 0});
    add("gate_u", "1", {1, 1, 0, 0});
    add("gate_v", "1", {-1, -1, -1, -1});
    add("gate_w", "1", {0, 0, 0, 0});
    add("dc_current", "A", {0, 10, 0, 0});
    add("rotor_angle", "deg", {0, 90, 90, 180});
    return a;
}

} // namespace

class TestScope : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// Against closed forms: a sine over whole periods, a straight line, a jump.
    void a_stretch_is_measured() {
        Curve sine{"a", "V", "time", "s", {}, {}};
        for (int i = 0; i <= 4000; ++i) {
            sine.x.push_back(i * 1e-5);
            sine.y.push_back(3 + 10 * std::sin(2 * EIGEN_PI * 50 * i * 1e-5) +
                             2 * std::cos(2 * EIGEN_PI * 250 * i * 1e-5));
        }
        const Measured m = measured(sine, 0.005, 0.025);
        CLOSE(m.mean, 3, 1e-6);
        CLOSE(m.rms, std::sqrt(9 + 50 + 2), 1e-4);
        const Curve waves = spectrum_between(sine, 0.01, 0.03, 10);
        CLOSE(waves.x[0], 50, 1e-9);
        CLOSE(waves.y[0], 10, 1e-3);
        CLOSE(waves.y[4], 2, 1e-3);
        CLOSE(waves.y[2], 0, 1e-3);
        const Curve step{"b", "V", "time", "s", {0, 1, 1, 2}, {0, 2, 6, 6}};
        const Measured before = measured(step, 0, 1), all = measured(step, 0, 2);
        CLOSE(before.mean, 1, 1e-12);
        CLOSE(before.most, 2, 0);
        CLOSE(before.rms, std::sqrt(4.0 / 3), 1e-12);
        CLOSE(all.mean, 3.5, 1e-12);
        CLOSE(all.most, 6, 0);
        CLOSE(measured(step, 0.5, 0.5 + 1e-9).mean, 1, 1e-6);
    }
    void between_two_cursors_and_through_a_stretch() {
        Strips strips;
        strips.resize(800, 500);
        strips.show();
        strips.show_strips(strips_of(*TimeRecord::of(made_run()), false));
        QCoreApplication::processEvents();
        TimeBar bar;
        bar.resize(800, 26);
        bar.show();
        bar.show_curve(TimeRecord::of(made_run())->answer().curves.front());
        connect(&strips, &Strips::stretch_changed, &bar, &TimeBar::show_stretch);
        connect(&bar, &TimeBar::stretch_wanted, &strips, &Strips::set_stretch);
        auto* plot = strips.findChild<QWidget*>();
        const QPoint quarter(strips.pixel_of(0.25), 200), half(strips.pixel_of(0.5), 200);
        QTest::mouseClick(plot, Qt::LeftButton, {}, quarter);
        CLOSE(strips.cursor(), 0.25, 0.005);
        QVERIFY(!strips.mark());
        QTest::mouseClick(plot, Qt::LeftButton, Qt::ShiftModifier, half);
        CLOSE(strips.cursor(), 0.25, 0.005);
        CLOSE(strips.mark().value_or(0), 0.5, 0.005);
        QTest::keyClick(&strips, Qt::Key_Escape);
        QVERIFY(!strips.mark());
        // A shorter stretch, moved along by its bar.
        strips.set_stretch(0.2, 0.4);
        const int before = strips.pixel_of(0.4);
        const auto at = [&](double seconds) { return QPoint(int(bar.pixel_of(seconds)), 13); };
        QTest::mousePress(&bar, Qt::LeftButton, {}, at(0.3));
        QTest::mouseMove(&bar, at(0.5));
        QTest::mouseRelease(&bar, Qt::LeftButton, {}, at(0.5));
        CLOSE(double(strips.pixel_of(0.6)), double(before), 4.0);
        strips.set_spectra(true);
        QVERIFY(strips.pixel_of(1) < before); // they stand beside
        strips.set_spectra(false);
        QCoreApplication::processEvents();
        // In lanes U and V, alike but for their sign, no longer share the strip's middle.
        const QImage together = strips.grab().toImage();
        strips.set_lanes(true);
        QCoreApplication::processEvents();
        QVERIFY(strips.grab().toImage() != together);
        strips.set_lanes(false);
        QCoreApplication::processEvents();
        QCOMPARE(strips.grab().toImage(), together);
    }
    void a_record_is_read_at_an_instant() {
        const auto record = TimeRecord::of(made_run());
        QVERIFY(record.has_value());
        CLOSE(record->duration(), 1, 0);
        const Moment before = record->at(0.25), after = record->at(0.75);
        CLOSE(before.current[0], 5, 1e-12);
        CLOSE(before.rotor_angle, EIGEN_PI / 4, 1e-12);
        QCOMPARE((*before.gates)[0], 1);
        QCOMPARE((*after.gates)[0], 0);
        CLOSE(after.current[0], 7, 1e-12);
        CLOSE(record->at(-3).torque, 1, 1e-12); // the nearest
        CLOSE(value_at(record->answer().curves[0], 0.5), 2, 1e-12);
        // At the jump the later value stands.
        QCOMPARE((*record->at(0.5).gates)[0], 0);
        Answer other = made_run();
        other.curves.front().x_name = "rotor_angle";
        QVERIFY(!TimeRecord::of(other));
    }
    void what_conducts_is_named_and_lit() {
        const auto record = TimeRecord::of(made_run());
        Schematic schematic;
        schematic.resize(268, 180);
        schematic.set_supply("blocks", 10);
        schematic.show_moment(record->at(0.25));
        QCOMPARE(schematic.conducting(), QStringList({"U upper switch", "V lower switch"}));
        const QImage switched = schematic.grab().toImage();
        schematic.show_moment(record->at(0.75));
        // The gate is open, the current goes on through the lower diode.
        QCOMPARE(schematic.conducting(), QStringList({"U lower diode", "V lower switch"}));
        QVERIFY(schematic.grab().toImage() != switched);
        for (const char* supply : {"sine-voltage", "short-circuit", "currents", "rectifier"}) {
            Moment still = record->at(0);
            if (std::string(supply) != "rectifier") still.gates.reset();
            schematic.set_supply(supply, 10);
            schematic.show_moment(still);
            QVERIFY(schematic.conducting().isEmpty());
            QVERIFY(!schematic.grab().isNull());
        }
    }
    void strokes_are_read_as_half_bridges() {
        // A period of 45 degrees at 1200 rpm lasts 6.25 ms; U is on, then chopped, then off.
        Answer a;
        a.question = "strokes";
        a.inputs = {{"speed", "1200 rpm"}};
        a.figures = {{"aligned_angle", 15, "deg"}};
        const auto add = [&](const char* name, const char* unit, std::vector<double> y) {
            a.curves.push_back({name, unit, "rotor_angle", "deg", {-22.5, -10, 0, 22.5}, std::move(y)});
        };
        add("torque", "N.m", {0, 4, 4, 0});
        for (const char* name : {"current_u", "voltage_u"}) add(name, "A", {0, 10, 8, 4});
        for (const char* name : {"current_v", "voltage_v", "current_w", "voltage_w"})
            add(name, "A", {0, 0, 0, 0});
        add("gate_u", "1", {1, 0, -1, -1});
        add("gate_v", "1", {-1, -1, -1, -1});
        add("gate_w", "1", {-1, -1, -1, -1});
        add("dc_current", "A", {0, 10, 0, -4});
        a.curves.push_back({"flux_linkage", "Wb", "current", "A", {0, 1}, {0, 1}});
        const auto record = TimeRecord::of(a);
        QVERIFY(record.has_value());
        CLOSE(record->duration(), 6.25e-3, 1e-12);
        CLOSE(record->at(0).rotor_angle, -7.5 * EIGEN_PI / 180, 1e-12);
        QCOMPARE(record->phases(), std::size_t(3));
        Schematic schematic;
        schematic.resize(268, 180);
        schematic.set_supply(record->supply(), 10);
        const double on = 0.5e-3, chopped = 12.5 / 45 * 6.25e-3, off = 5e-3;
        schematic.show_moment(record->at(on));
        QCOMPARE(schematic.conducting(), QStringList({"U upper switch", "U lower switch"}));
        const QImage first = schematic.grab().toImage();
        schematic.show_moment(record->at(chopped));
        QCOMPARE(schematic.conducting(), QStringList({"U lower diode", "U lower switch"}));
        schematic.show_moment(record->at(off));
        QCOMPARE(schematic.conducting(), QStringList({"U lower diode", "U upper diode"}));
        QVERIFY(schematic.grab().toImage() != first);
        QCOMPARE(strips_of(*record, false)[0].states, QStringList({"on", "free", "off"}));
        add("tooth_force_radial", "N", {0, 120, 40, 5});
        const auto pulled = strips_of(*TimeRecord::of(a), false);
        QCOMPARE(pulled.back().title, QStringLiteral("pull on a tooth of U"));
        QCOMPARE(pulled.back().curves[0].curve.y, (std::vector<double>{0, 120, 40, 5}));
    }
    void strips_follow_the_supply_and_the_switch_of_lines() {
        const auto record = TimeRecord::of(made_run());
        const auto phases = strips_of(*record, false), lines = strips_of(*record, true);
        QCOMPARE(int(phases.size()), 5); // gates, voltage, current, torque, link
        QVERIFY(phases[0].steps);
        QCOMPARE(lines[1].curves[0].name, QStringLiteral("UV"));
        CLOSE(lines[1].curves[0].curve.y[0], 40, 1e-12);
        CLOSE(lines[1].curves[2].curve.y[0], -20, 1e-12); // W to U
    }
    void a_delta_has_its_legs_by_the_line_currents() {
        Answer delta = made_run();
        const std::vector<double> t = delta.curves.front().x;
        for (const auto& [name, y] : std::initializer_list<std::pair<const char*, std::vector<double>>>{
                 {"line_current_u", {0, 0, 0, 0}},
                 {"line_current_v", {0, -20, -20, -8}},
                 {"line_current_w", {0, 20, 20, 8}}})
            delta.curves.push_back({name, "A", "time", "s", t, y});
        const auto record = TimeRecord::of(delta), star = TimeRecord::of(made_run());
        QVERIFY(record->is_delta() && !star->is_delta());
        CLOSE(star->at(0.25).line[1], -5, 1e-12);
        CLOSE(record->at(0.25).current[1], -5, 1e-12);
        CLOSE(record->at(0.25).line[1], -10, 1e-12);
        const auto phases = strips_of(*record, false), lines = strips_of(*record, true);
        CLOSE(phases[2].curves[1].curve.y[1], -10, 1e-12);
        CLOSE(lines[2].curves[1].curve.y[1], -20, 1e-12);
        QCOMPARE(lines[1].curves[0].curve.y, phases[1].curves[0].curve.y); // the phases lie between the lines
        Schematic schematic;
        schematic.resize(268, 180);
        schematic.set_supply("blocks", 20, true);
        schematic.show_moment(record->at(0.25));
        // U's leg carries nothing here, though its phase does.
        QCOMPARE(schematic.conducting(), QStringList({"V lower switch", "W lower diode"}));
        const QImage in_delta = schematic.grab().toImage();
        schematic.set_supply("blocks", 20);
        QVERIFY(schematic.grab().toImage() != in_delta);
    }
    void the_same_by_the_map_and_on_fields_stands_side_by_side() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& ask = f.window->part<AskBench>();
        QuestionCard* card = ask.card("in-time");
        for (const auto& [key, text] : std::initializer_list<std::pair<const char*, const char*>>{
                 {"supply", "six-step"}, {"points", "60"}, {"map_steps", "3"}})
            QVERIFY(card->set_input(key, QString::fromLatin1(text)));
        ask.choose("in-time");
        QTest::mouseClick(f.child("ask:in-time"), Qt::LeftButton);
        QVERIFY(QTest::qWaitFor([&] { return ask.answer("in-time") != nullptr && ask.is_idle(); }, 120000));
        const double by_map = *ask.answer("in-time")->figure("torque_mean");
        auto* beside = f.child<QPushButton>("lay_beside");
        QVERIFY(beside->isVisible());
        const auto actions = beside->menu()->actions();
        QCOMPARE(actions.size(), 2); // on the fields, and its fundamental as given current
        actions[0]->trigger();
        auto* table = f.child<SideBySide>("side_by_side");
        QVERIFY(QTest::qWaitFor([&] { return table->isVisible() && ask.is_idle(); }, 120000));
        // The map's answer is still the one in hand; the fields' stands in the second column, with its change.
        CLOSE(*ask.answer("in-time")->figure("torque_mean"), by_map, 0);
        QCOMPARE(table->columnCount(), 4);
        QVERIFY(table->horizontalHeaderItem(2)->text().contains(QStringLiteral("field")));
        int row = 0;
        while (row < table->rowCount() && table->item(row, 0)->text() != QStringLiteral("Mean torque")) ++row;
        QVERIFY(row < table->rowCount() && !table->item(row, 2)->text().isEmpty());
        QVERIFY(table->item(row, 3)->text().contains('%') ||
                table->item(row, 3)->text() == QStringLiteral("the same"));
        QVERIFY(table->as_text().count('\n') == table->rowCount() + 1);
        // Asked once more it is there at once, and over the curves it can be laid, too.
        beside->menu()->actions()[0]->trigger();
        QVERIFY(table->isVisible());
        auto* choice = f.child<QComboBox>("plot_choice");
        choice->setCurrentIndex(choice->findText(QStringLiteral("Torque")));
        QVERIFY(!table->isVisible());
        QVERIFY(f.child<QComboBox>("other_answer")->isVisible());
    }
    void a_run_is_asked_and_its_cursor_dragged() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& ask = f.window->part<AskBench>();
        QuestionCard* card = ask.card("in-time");
        QVERIFY(card);
        for (const auto& [key, text] : std::initializer_list<std::pair<const char*, const char*>>{
                 {"supply", "blocks"}, {"method", "field"}, {"points", "60"}})
            QVERIFY(card->set_input(key, QString::fromLatin1(text)));
        QVERIFY(!card->set_input("nothing", QStringLiteral("1")));
        ask.choose("in-time");
        QTest::mouseClick(f.child("ask:in-time"), Qt::LeftButton);
        // While it runs its strips grow.
        const auto growing = [&] { return ask.findChild<Strips*>(QStringLiteral("growing")); };
        QVERIFY(QTest::qWaitFor([&] { return growing() && growing()->isVisible(); }, 120000));
        QVERIFY(growing()->strips().size() == 2 && growing()->strips()[0].curves.size() == 3);
        const std::size_t points = growing()->strips()[0].curves[0].curve.x.size();
        QVERIFY(points >= 2);
        QVERIFY(QTest::qWaitFor([&] { return ask.answer("in-time") != nullptr && ask.is_idle(); }, 120000));
        QVERIFY(growing()->strips()[0].curves[0].curve.x.size() >= points);
        QVERIFY(!growing()->isVisible());
        ScopeView& scope = ask.answer_view().scope();
        QVERIFY(scope.isVisible());
        QCOMPARE(f.child<QComboBox>("plot_choice")->currentText(), QStringLiteral("Scope"));
        QVERIFY(QTest::qWaitFor([&] { return scope.section().result() != nullptr; }, 20000));
        // Dragged with the mouse, section and circuit follow.
        Strips& strips = scope.strips();
        const double end = TimeRecord::of(*ask.answer("in-time"))->duration();
        const double angle_before = scope.section().angle();
        const QStringList lit_before = scope.schematic().conducting();
        QWidget* canvas = strips.findChild<QWidget*>();
        const auto at = [&](double share) {
            return QPoint(strips.pixel_of(share * end), canvas->height() / 2);
        };
        QTest::mousePress(canvas, Qt::LeftButton, {}, at(0.2));
        QTest::mouseMove(canvas, at(0.5));
        QTest::mouseMove(canvas, at(0.62));
        QTest::mouseRelease(canvas, Qt::LeftButton, {}, at(0.62));
        CLOSE(strips.cursor() / end, 0.62, 0.01);
        QVERIFY(std::abs(scope.section().angle() - angle_before) > 1e-3);
        QVERIFY(!scope.schematic().conducting().isEmpty());
        QVERIFY(scope.schematic().conducting() != lit_before);
        // The field of that moment comes after it.
        QVERIFY(QTest::qWaitFor(
            [&] {
                const double apart = scope.section().result()->request.angle - scope.section().angle();
                return std::abs(std::remainder(apart, 2 * EIGEN_PI)) < 1e-9;
            },
            20000));
        // By the keyboard, a step at a time.
        const double stood = strips.cursor();
        strips.setFocus();
        QTest::keyClick(&strips, Qt::Key_Right);
        CLOSE(strips.cursor() - stood, end / 360, 1e-9);
        // Lines instead of phases.
        const QImage phases = strips.grab().toImage();
        QTest::mouseClick(f.child("scope_lines"), Qt::LeftButton);
        QTRY_VERIFY(strips.grab().toImage() != phases);
        // All figures unfold.
        QVERIFY(!f.window->findChild<QLabel*>("figure:switching_frequency"));
        QTest::mouseClick(f.child("all_figures"), Qt::LeftButton);
        QVERIFY(f.child("figure:switching_frequency")->isVisible());
        // Played on, then frames.
        const double played = strips.cursor();
        QTest::mouseClick(f.child("scope_play"), Qt::LeftButton);
        QVERIFY(QTest::qWaitFor([&] { return strips.cursor() != played; }, 10000));
        QTest::mouseClick(f.child("scope_play"), Qt::LeftButton);
        QTemporaryDir folder;
        QVERIFY(scope.save_frames(folder.path(), 3).isEmpty());
        QCOMPARE(QDir(folder.path()).entryList({"frame_*.png"}).size(), 3);
        QVERIFY(!scope.save_frames(QStringLiteral("/nowhere/at/all"), 1).isEmpty());
        for (const char* file : {"s.png", "s.svg", "s.pdf"})
            QVERIFY(ask.answer_view().export_to(folder.filePath(QString::fromLatin1(file))));
        // A change of the design leaves the strips and takes the field away.
        f.window->document().set_text("rotor.magnet.thickness", QStringLiteral("3.1 mm"));
        QVERIFY(QTest::qWaitFor([&] { return !scope.section().isVisible(); }, 5000));
        QVERIFY(strips.isVisible());
    }
};
MAVLO_TEST(scope, TestScope, Windows)
#include "test_scope.moc"
