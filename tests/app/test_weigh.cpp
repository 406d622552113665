// Weigh and what it shares with Ask and Draw, with real keys and clicks: a sweep priced and run, a trade-off
// whose point becomes a variant, a report, a ranking, and the dimensions that show what moves a figure.

#include "app/window_fixture.h"
#include "ask/drawn_curve.h"
#include "ask/figure_board.h"
#include "ask/ranking_view.h"
#include "plot/qcustomplot_include.h"
#include "question/figure_names.h"
#include "test_program.h"
#include "weigh/cloud.h"
#include "weigh/design_strip.h"
#include "weigh/figure_words.h"
#include "weigh/range_strip.h"
#include "weigh/report_page.h"
#include "weigh/sweep_page.h"
#include "weigh/sweep_view.h"

#include <QCheckBox>
#include <QMenu>
#include <QProcess>
#include <QSpinBox>
#include <QTableWidget>
#include <QTreeWidget>
#include <QtTest>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <numbers>

using namespace mavlo;
using namespace mavlo::app;

namespace {

void show_page(WindowFixture& f, const char* title) {
    f.window->show_bench("weigh");
    QTest::mouseClick(f.child(title), Qt::LeftButton);
    QCoreApplication::processEvents();
}

/// Types a parameter and its values into a row.
void vary(WindowFixture& f, const char* prefix, const char* path, const char* values) {
    auto* box = f.child<QComboBox>((std::string(prefix) + ":path:0").c_str());
    WindowFixture::replace(box->lineEdit(), QString::fromLatin1(path));
    auto* edit = f.child<QLineEdit>((std::string(prefix) + ":values:0").c_str());
    QTest::mouseClick(edit, Qt::LeftButton);
    edit->selectAll();
    QTest::keyClicks(edit, QString::fromLatin1(values));
}

bool wait_for_jobs(WindowFixture& f, const char* button, const char* text) {
    return QTest::qWaitFor([&] { return f.child<QPushButton>(button)->text() == QString::fromLatin1(text); },
                           120000);
}

} // namespace

class TestWeigh : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    /// From a row of the sheet straight into a sweep about its present value.
    void a_dimension_is_varied_from_its_row() {
        WindowFixture f;
        const auto ask_for = [&](const std::string& path) {
            ParameterRow* wanted = nullptr;
            for (ParameterRow* row : f.window->findChildren<ParameterRow*>())
                if (row->path() == path && !wanted) wanted = row;
            QVERIFY(wanted);
            QContextMenuEvent event(QContextMenuEvent::Mouse, {5, 5}, wanted->mapToGlobal(QPoint(5, 5)));
            QCoreApplication::sendEvent(wanted, &event);
            auto* menu = wanted->findChild<QMenu*>(QStringLiteral("row_menu"));
            QVERIFY(menu && menu->actions().front()->text().contains(QStringLiteral("Vary")));
            menu->actions().front()->trigger();
            menu->close();
            QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        };
        ask_for("gap");
        QVERIFY(f.child("weigh")->isVisible());
        auto* sweep = f.window->findChild<SweepPage*>();
        QVERIFY(sweep->isVisible());
        auto study = sweep->study();
        QVERIFY(study);
        QCOMPARE(fmt::format("{}", fmt::join(study->paths, " ")), std::string("gap"));
        QCOMPARE(study->settings.size(), std::size_t(5));
        f.window->show_bench("draw");
        ask_for("gap"); // it varies already
        f.window->show_bench("draw");
        ask_for("stator.slots");
        study = sweep->study();
        QVERIFY(study);
        QCOMPARE(QString::fromStdString(fmt::format("{}", fmt::join(study->paths, " "))),
                 QStringLiteral("gap stator.slots"));
        QCOMPARE(study->settings.front().back(), std::to_string(int(f.document().value("stator.slots")) - 2));
    }
    /// A dimension clicked before there is a sweep, its range dragged on the scale, a design picked in the
    /// plot.
    void a_range_is_dragged_and_a_point_kept() {
        WindowFixture f;
        show_page(f, "weigh:Sweep");
        f.child<QComboBox>("sweep_quality")->setCurrentIndex(0);
        QTest::mouseClick(f.child("vary_offer:gap"), Qt::LeftButton);
        auto* values = f.child<QLineEdit>("vary:values:0");
        const double gap = f.document().value("gap") * 1e3;
        QCOMPARE(values->text(), QStringLiteral("%1:%2:5 mm").arg(0.8 * gap).arg(1.2 * gap));
        auto* range = f.child<RangeStrip>("vary:range:0");
        QVERIFY(range->isVisible());
        f.drag(range, range->place_of(1.2 * gap), range->place_of(1.3 * gap));
        const auto last = values->text().section(QLatin1Char(':'), 1, 1).toDouble();
        QVERIFY2(std::abs(last - 1.3 * gap) < 0.02 * gap, qPrintable(values->text()));
        range->setFocus();
        QTest::keyClick(range, Qt::Key_Minus);
        QTest::keyClick(range, Qt::Key_Minus);
        QVERIFY2(values->text().endsWith(QStringLiteral(":3 mm")), qPrintable(values->text()));
        QTRY_VERIFY_WITH_TIMEOUT(f.child("sweep_run")->isEnabled(), 30000);
        QTest::mouseClick(f.child("sweep_run"), Qt::LeftButton);
        QVERIFY(wait_for_jobs(f, "sweep_run", "Run"));
        auto* view = f.child<SweepView>("sweep_view");
        auto* strip = view->findChild<DesignStrip*>();
        QVERIFY(strip->isVisible() && !strip->picked());
        auto* plot = view->findChild<Plot*>();
        const double torque =
            plot->copied_table().section(QLatin1Char('\n'), 3, 3).section(QLatin1Char('\t'), 1, 1).toDouble();
        QTest::mouseClick(plot->findChild<QCustomPlot*>(), Qt::LeftButton, {},
                          plot->place_of(last, torque).toPoint());
        QVERIFY(strip->picked() && *strip->picked() == 2);
        auto* words = f.child<QLabel>("sweep_picked");
        QVERIFY2(words->text().startsWith(QStringLiteral("air gap ")), qPrintable(words->text()));
        QTest::keyClick(strip->row(), Qt::Key_Left);
        QCOMPARE(*strip->picked(), std::size_t(1));
        QTest::mouseClick(strip->row(), Qt::LeftButton, {}, strip->place_of(2).center());
        QTest::mouseClick(f.child("sweep_keep"), Qt::LeftButton);
        QCOMPARE(f.document().variant().name, std::string("sweep 1"));
        QVERIFY(std::abs(f.document().value("gap") * 1e3 - last) < 1e-9);
    }
    void variants_stand_side_by_side();
    void sweep_is_priced_run_and_read();
    void sweep_goes_to_the_cluster();
    void sweep_tells_mistakes();
    void trade_off_grows_and_keeps();
    void limits_are_said_in_words();
    void report_is_written();
    void ranking_and_board();
    void dimensions_show_what_moves();
    void periodic_curves_are_drawn_finer();
    void losses_add_up();
    void a_circuit_is_drawn();
};

void TestWeigh::variants_stand_side_by_side() {
    WindowFixture f;
    f.document().add_variant(QStringLiteral("wide"));
    QVERIFY(!f.document().set_text("gap", QStringLiteral("1.3 mm")));
    show_page(f, "weigh:Variants");
    auto* table = f.child<QTableWidget>("variants_table");
    const auto row_of = [&](const QString& words) {
        for (int r = 0; r < table->rowCount(); ++r)
            if (table->item(r, 0) && table->item(r, 0)->text().contains(words)) return r;
        return -1;
    };
    QVERIFY(QTest::qWaitFor([&] { return row_of(QStringLiteral("Torque at rated")) > 0; }, 60000));
    QCOMPARE(table->columnCount(), 4);
    const int gap = row_of(QStringLiteral("Air gap"));
    QVERIFY(gap > 0);
    QCOMPARE(table->item(gap, 3)->text(), QStringLiteral("1.3 mm"));
    QVERIFY(row_of(QStringLiteral("Stack length")) < 0); // alike
    QTest::mouseClick(f.child("variants_all_rows"), Qt::LeftButton);
    QVERIFY(row_of(QStringLiteral("Stack length")) > 0);
    // A wider gap gives less torque, which is worse until the user says otherwise.
    const auto colour = [&] {
        return table->item(row_of(QStringLiteral("Torque at rated")), 3)->foreground().color();
    };
    QVERIFY(table->item(row_of(QStringLiteral("Torque at rated")), 3)->text().contains(QChar(0x2212)));
    QCOMPARE(colour(), theme().written(theme().caution));
    const auto click_sign = [&] {
        const QRect cell = table->visualItemRect(table->item(row_of(QStringLiteral("Torque at rated")), 0));
        QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, cell.topLeft() + QPoint(8, 8));
    };
    click_sign();
    QCOMPARE(colour(), theme().written(theme().good));
    click_sign();
    click_sign();
    QCOMPARE(colour(), theme().written(theme().caution));
    QTest::mouseClick(f.child("variants_take:base"), Qt::LeftButton);
    QCOMPARE(f.document().variant().name, std::string("base"));
}

void TestWeigh::sweep_is_priced_run_and_read() {
    WindowFixture f;
    show_page(f, "weigh:Sweep");
    f.child<QComboBox>("sweep_quality")->setCurrentIndex(0);
    vary(f, "vary", "gap", "0.8:1.2:3 mm");
    // What shall be known is typed as a figure.
    auto* wishes = f.child<QLineEdit>("sweep_questions");
    QTest::mouseClick(wishes, Qt::LeftButton);
    QTest::keyClicks(wishes, QStringLiteral("cogging torque, peak"));
    QTest::keyClick(QApplication::activePopupWidget() ? QApplication::activePopupWidget() : wishes,
                    Qt::Key_Return);
    auto* price = f.child<QLabel>("sweep_price");
    QVERIFY2(
        QTest::qWaitFor([&] { return price->text().contains(QStringLiteral("3 designs, 2 question")); }, 30000),
        qPrintable(price->text()));
    QVERIFY(price->text().contains(QStringLiteral("fields")));
    QTest::mouseClick(f.child("sweep_run"), Qt::LeftButton);
    QCOMPARE(f.child<QPushButton>("sweep_run")->text(), QStringLiteral("Stop"));
    QVERIFY(wait_for_jobs(f, "sweep_run", "Run"));
    QVERIFY(price->text().startsWith(QStringLiteral("3 designs answered")));
    // A family of curves first; then a figure over the gap, as the table has it.
    auto* kind = f.child<QComboBox>("sweep_kind");
    QCOMPARE(kind->currentIndex(), 0);
    auto* view = f.child<SweepView>("sweep_view");
    auto* plot = view->findChild<Plot*>();
    QVERIFY(plot->isVisible());
    QCOMPARE(plot->copied_table().section('\n', 0, 0).count(QStringLiteral("mm")), 3);
    kind->setCurrentIndex(1);
    auto* what = f.child<QComboBox>("sweep_what");
    what->setCurrentIndex(what->findText(QStringLiteral("Cogging torque, peak to peak (cogging)")));
    QVERIFY(what->currentIndex() >= 0);
    auto* table = f.child<QTableWidget>("sweep_table");
    QCOMPARE(table->rowCount(), 3);
    QCOMPARE(table->item(0, 0)->text(), QStringLiteral("0.8 mm"));
    QVERIFY(plot->copied_table().contains(QStringLiteral("0.8")));
    kind->setCurrentIndex(4);
    QVERIFY(table->isVisible());
    for (const char* name : {"t.csv", "t.h5"}) {
        QVERIFY(view->export_to(f.file(name)));
        QVERIFY(QFileInfo(f.file(name)).size() > 100);
    }
    // All is kept: the same sweep costs nothing.
    vary(f, "vary", "gap", "0.8, 1.2 mm");
    QVERIFY(QTest::qWaitFor(
        [&] { return price->text().contains(QStringLiteral("4 of 4 answers are there already")); }, 30000));
}

/// On a real cluster, where one answers.
void TestWeigh::sweep_goes_to_the_cluster() {
    QProcess sinfo;
    sinfo.start(QStringLiteral("sinfo"), {QStringLiteral("-h")});
    if (!sinfo.waitForFinished() || sinfo.exitCode() != 0) QSKIP("no Slurm answers here");
    WindowFixture f;
    show_page(f, "weigh:Sweep");
    f.child<QComboBox>("sweep_quality")->setCurrentIndex(0);
    vary(f, "vary", "gap", "0.8:1.2:3 mm");
    auto* price = f.child<QLabel>("sweep_price");
    QVERIFY(QTest::qWaitFor([&] { return price->text().contains(QStringLiteral("fields")); }, 30000));
    QTest::mouseClick(f.child("sweep_cluster"), Qt::LeftButton, {},
                      QPoint(8, f.child("sweep_cluster")->height() / 2));
    QVERIFY(f.child<QCheckBox>("sweep_cluster")->isChecked());
    QTest::mouseClick(f.child("sweep_run"), Qt::LeftButton);
    QVERIFY(wait_for_jobs(f, "sweep_run", "Run"));
    QVERIFY2(price->text().startsWith(QStringLiteral("3 designs answered")), qPrintable(price->text()));
    QCOMPARE(f.child<QTableWidget>("sweep_table")->rowCount(), 3);
}

void TestWeigh::sweep_tells_mistakes() {
    WindowFixture f;
    show_page(f, "weigh:Sweep");
    vary(f, "vary", "gapp", "1:2:3 mm");
    auto* price = f.child<QLabel>("sweep_price");
    QVERIFY(QTest::qWaitFor([&] { return price->text().contains(QStringLiteral("no such parameter")); }, 5000));
    QVERIFY(!f.child("sweep_run")->isEnabled());
}

void TestWeigh::trade_off_grows_and_keeps() {
    WindowFixture f;
    show_page(f, "weigh:Trade-off");
    vary(f, "free", "gap", "0.6:1.4 mm");
    f.child<QSpinBox>("trade_designs")->setValue(18);
    QTest::mouseClick(f.child("trade_run"), Qt::LeftButton);
    auto* state = f.child<QLabel>("trade_state");
    QVERIFY(
        QTest::qWaitFor([&] { return state->text().contains(QStringLiteral("of 18 designs tried")); }, 60000));
    // Paused it holds where it is, and goes on from there.
    auto* pause = f.child<QPushButton>("trade_pause");
    QTest::mouseClick(pause, Qt::LeftButton);
    QCOMPARE(pause->text(), QStringLiteral("Go on"));
    QTest::qWait(1500); // the design in hand ends
    const QString held = state->text();
    QVERIFY2(!held.startsWith(QStringLiteral("18 designs")), qPrintable(held));
    QTest::qWait(1500);
    QCOMPARE(state->text(), held);
    QTest::mouseClick(pause, Qt::LeftButton);
    QCOMPARE(pause->text(), QStringLiteral("Pause"));
    QVERIFY(wait_for_jobs(f, "trade_run", "Search"));
    QVERIFY2(state->text().startsWith(QStringLiteral("18 designs tried")), qPrintable(state->text()));
    auto* cloud = f.child<Cloud>("cloud");
    QTest::mouseClick(cloud, Qt::LeftButton, {}, cloud->place_of(3).toPoint());
    QVERIFY(cloud->picked());
    auto* picked = f.child<QLabel>("trade_picked");
    QVERIFY2(picked->text().startsWith(QStringLiteral("air gap ")), qPrintable(picked->text()));
    QVERIFY(!picked->text().contains(QLatin1Char('_'))); // words, no names of files
    QVERIFY(picked->text().contains(QStringLiteral("against the base")));
    const std::string before = f.text("gap");
    QTest::mouseClick(f.child("trade_keep"), Qt::LeftButton);
    QCOMPARE(f.document().variant().name, std::string("trade-off 1"));
    QVERIFY(f.text("gap") != before);
    f.document().undo_stack().undo();
    QCOMPARE(f.text("gap"), before);
}

void TestWeigh::limits_are_said_in_words() {
    const std::pair<const char*, const char*> said[] = {
        {"slot fill at most 45 %", "slot_fill <= 0.45"},
        {"slot fill at most 0.45", "slot_fill <= 0.45"},
        {"Slot fill at least 30 %", "slot_fill >= 0.3"},
        {"efficiency at the rating at least 95", "efficiency >= 0.95"},
        {"phase resistance at most 80 mOhm", "phase_resistance <= 0.08"},
        {"mass_magnets <= 2", "mass_magnets <= 2"},
        {"efficiency >= 0.95", "efficiency >= 0.95"}};
    for (const auto& [sentence, limit] : said) {
        const auto found = limit_of(QString::fromLatin1(sentence));
        QVERIFY2(found, sentence);
        QCOMPARE(*found, std::string(limit));
    }
    for (const char* nothing : {"slot fill", "slot fill at most", "slot fill at most 3 apples", "at most 3"})
        QVERIFY2(!limit_of(QString::fromLatin1(nothing)), nothing);
    for (const QString& label : weighed_figures()) {
        QVERIFY2(!label.contains(QLatin1Char('_')), qPrintable(label));
        QCOMPARE(expression_words(figure_called(label)), label);
    }
    QCOMPARE(expression_words("torque_mean / mass_magnets"),
             expression_words("torque_mean") + " / " + expression_words("mass_magnets"));
    // The names come up as they are typed, behind each comma.
    WindowFixture f;
    show_page(f, "weigh:Trade-off");
    auto* limits = f.child<QLineEdit>("trade_limits");
    QTest::mouseClick(limits, Qt::LeftButton);
    QTest::keyClicks(limits, QStringLiteral("slot fill at most 45 %, slot"));
    auto* popup = QApplication::activePopupWidget();
    QVERIFY(popup);
    QTest::keyClick(popup, Qt::Key_Down);
    QTest::keyClick(popup, Qt::Key_Return);
    QCOMPARE(limits->text(), QStringLiteral("slot fill at most 45 %, slot fill at most "));
}

void TestWeigh::report_is_written() {
    WindowFixture f;
    Ask ask;
    ask.design = f.document().design();
    QVERIFY(!f.document().answers().keep(*ask_question("winding", ask), ask));
    show_page(f, "weigh:Report");
    auto* tree = f.child<QTreeWidget>("report_parts");
    QTRY_COMPARE(tree->topLevelItemCount(), 1);
    QCOMPARE(tree->topLevelItem(0)->child(0)->text(0), QStringLiteral("Winding"));
    f.type("report_title", QStringLiteral("Sack hoist, second draft"));
    auto* page = f.window->findChild<ReportPage*>();
    page->write(f.file("r.html"));
    QTRY_VERIFY_WITH_TIMEOUT(page->is_idle(), 60000);
    QFile html(f.file("r.html"));
    QVERIFY(html.open(QIODevice::ReadOnly));
    const QByteArray text = html.readAll();
    QVERIFY(text.contains("Sack hoist, second draft"));
    QVERIFY(text.contains("Winding factor"));
    tree->topLevelItem(0)->setCheckState(0, Qt::Unchecked);
    page->write(f.file("none.html"));
    QTRY_VERIFY(page->is_idle());
    QVERIFY(!QFileInfo::exists(f.file("none.html")));
}

void TestWeigh::ranking_and_board() {
    WindowFixture f;
    f.window->show_bench("ask");
    auto& bench = f.window->part<AskBench>();
    bench.choose("what-matters");
    QVERIFY(bench.card("what-matters")->set_input("dimensions", QStringLiteral("gap, machine.stack_length")));
    QVERIFY(bench.card("what-matters")->set_input("figures", QStringLiteral("torque_mean")));
    bench.ask("what-matters");
    QVERIFY(QTest::qWaitFor([&] { return bench.is_idle(); }, 60000));
    auto* ranking = f.child<RankingView>("ranking");
    QVERIFY(ranking->isVisible());
    QCOMPARE(ranking->labels(), (QStringList{"Stack length", "Air gap"}));
    // Many figures: the large ones stand, the others on demand.
    bench.choose("load");
    bench.ask("load");
    QVERIFY(QTest::qWaitFor([&] { return bench.is_idle(); }, 60000));
    QVERIFY(f.child("figure:torque_mean")->isVisible());
    QVERIFY(f.child("loss_bar")->isVisible());
    QVERIFY(!f.window->findChild<QLabel*>("figure:copper_loss_dc"));
    QTest::mouseClick(f.child("all_figures"), Qt::LeftButton);
    QVERIFY(f.child("figure:copper_loss_dc")->isVisible());
}

void TestWeigh::dimensions_show_what_moves() {
    WindowFixture f;
    QVERIFY(QTest::qWaitFor([&] { return f.window->is_idle(); }, 60000));
    auto* strip = f.child<TellTaleStrip>("tell_tales");
    QVERIFY(strip->cells().size() > 5);
    const QPoint first(strip->width() / int(2 * strip->cells().size()), 40);
    QTest::mouseClick(strip, Qt::LeftButton, {}, first);
    QVERIFY(f.window->section().dimensions().effects().title.contains(QStringLiteral("being computed")));
    QVERIFY(QTest::qWaitFor([&] { return f.window->is_idle(); }, 600000));
    const auto& layer = f.window->section().dimensions();
    QVERIFY(layer.effects().title.contains(QStringLiteral("N·m for 0.1 mm")));
    QVERIFY(layer.find("gap")->text.contains(QStringLiteral("(−")));
    // An older design's slopes are not shown for a newer one, and are there again when it is undone.
    QVERIFY(!f.document().set_text("gap", QStringLiteral("1.3 mm")));
    QVERIFY(!layer.find("gap")->text.contains('('));
    f.document().undo_stack().undo();
    QVERIFY(layer.find("gap")->text.contains('('));
    QTest::mouseClick(strip, Qt::LeftButton, {}, first);
    QVERIFY(!layer.find("gap")->text.contains('('));
}

void TestWeigh::periodic_curves_are_drawn_finer() {
    Curve wave{"torque", "N.m", "rotor_angle", "deg", {}, {}}, square = wave;
    for (int k = 0; k < 24; ++k) {
        wave.x.push_back(15.0 * k);
        wave.y.push_back(3 + std::cos(2 * std::numbers::pi * k / 12));
        square.x.push_back(15.0 * k);
        square.y.push_back(k < 12 ? 1 : -1);
    }
    const Curve fine = drawn_curve(wave);
    QCOMPARE(fine.x.size(), std::size_t(24 * 6 + 1));
    QVERIFY(std::abs(fine.x.back() - 360) < 1e-9);
    for (std::size_t k = 0; k < fine.x.size(); ++k)
        QVERIFY(std::abs(fine.y[k] - 3 - std::cos(fine.x[k] * std::numbers::pi / 90)) < 1e-9);
    QCOMPARE(solved_points(wave)->y, wave.y);
    QCOMPARE(drawn_curve(square).x.size(), std::size_t(25));
    QVERIFY(!solved_points(square));
}

void TestWeigh::losses_add_up() {
    Answer answer;
    answer.question = "load";
    answer.figures = {{"torque_mean", 10.0, "N.m"},      {"copper_loss", 50.0, "W"},
                      {"iron_loss_stator", 20.0, "W"},   {"electrical_power", 1060.0, "W"},
                      {"mechanical_power", 1010.0, "W"}, {"shaft_power", 990.0, "W"},
                      {"efficiency", 0.93, "1"}};
    const auto bar = loss_bar(answer);
    QVERIFY(bar);
    QCOMPARE(bar->output, 990.0);
    QCOMPARE(bar->input, 1060.0);
    QCOMPARE(bar->losses.front().label, std::string("Copper loss"));
    QCOMPARE(headline_figures(answer), (std::vector<std::string>{"torque_mean", "efficiency"}));
    const auto groups = figure_groups(answer);
    QCOMPARE(groups.front().title, std::string("Power"));
    QCOMPARE(groups.back().title, std::string("Losses"));
    answer.figures.resize(1);
    QVERIFY(!loss_bar(answer));
}

/// A circuit's elements are drawn with their values and listed nowhere else.
void TestWeigh::a_circuit_is_drawn() {
    Answer answer;
    answer.question = "equivalent-circuit";
    answer.figures = {{"stator_resistance", 0.883, "Ohm"},      {"stator_leakage_reactance", 1.345, "Ohm"},
                      {"iron_loss_resistance", 2468.0, "Ohm"},  {"magnetising_reactance", 40.7, "Ohm"},
                      {"rotor_resistance", 1.048, "Ohm"},       {"rotor_leakage_reactance", 1.058, "Ohm"},
                      {"rotor_resistance_bench", 1.122, "Ohm"}, {"no_load_current", 4.2, "A"}};
    FigureBoard board;
    board.resize(860, 400);
    board.show_answer(answer);
    board.set_folded(false, true);
    auto* circuit = board.findChild<CircuitView*>();
    QVERIFY(circuit && circuit->isVisibleTo(&board));
    const QString told = circuit->accessibleDescription();
    for (const char* value : {"0.883 Ω", "1.345 Ω", "2468 Ω", "40.7 Ω", "1.048 Ω", "1.058 Ω", "1.122 Ω"})
        QVERIFY2(told.contains(QString::fromUtf8(value)), qPrintable(told));
    QVERIFY(!board.findChild<QLabel*>("figure:rotor_resistance"));
    QVERIFY(board.findChild<QLabel*>("figure:no_load_current"));
    // Wires from end to end, and ink where the symbols are.
    circuit->resize(860, circuit->height());
    const QImage image = circuit->grab().toImage();
    int inked = 0;
    for (int x = 0; x < image.width(); ++x)
        inked += qGray(image.pixel(x, int(128 * image.devicePixelRatio()))) < 128;
    QVERIFY(inked > 600 * image.devicePixelRatio());
    answer.figures = {{"torque_mean", 10.0, "N.m"}};
    board.show_answer(answer);
    QVERIFY(!circuit->isVisibleTo(&board));
}

MAVLO_TEST(weigh, TestWeigh, Windows)
#include "test_weigh.moc"
