// Maps on the desktop: asked, read under the cursor, picked, checked by the full field, sent to Probe.

#include "plot/contours.h"
#include "plot/qcustomplot_include.h"
#include "test_program.h"
#include "window_fixture.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

using namespace mavlo;
using namespace mavlo::app;

class TestMaps : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void contours_follow_their_level() {
        Map cone{"height", "m", "x", "m", "y", "m", {}, {}, {}};
        for (int i = -20; i <= 20; ++i) cone.x.push_back(0.1 * i);
        cone.y = cone.x;
        for (double y : cone.y) {
            cone.z.emplace_back();
            for (double x : cone.x) cone.z.back().push_back(x * x + y * y);
        }
        const auto lines = contour_lines(cone, 1);
        QCOMPARE(lines.size(), std::size_t(1)); // one closed ring
        for (const MapPoint& p : lines.front()) CLOSE(std::hypot(p.x, p.y), 1, 4e-3);
        CLOSE(lines.front().front().x, lines.front().back().x, 1e-12);
        CLOSE(value_at(cone, 0.55, 0.2), 0.55 * 0.55 + 0.04, 6e-3);
        QVERIFY(std::isnan(value_at(cone, 3, 0)));
        cone.z[20][20] = std::numeric_limits<double>::quiet_NaN();
        QVERIFY(std::isnan(value_at(cone, 0.02, 0.02)) && !contour_lines(cone, 1).empty());
        for (double level : contour_levels(cone, 8)) QVERIFY(level > 0 && level < 8.1);
    }
    void an_efficiency_map_is_asked_read_and_checked() {
        WindowFixture f("vee");
        f.window->show_bench("ask");
        AskBench& bench = f.window->part<AskBench>();
        QTest::mouseClick(bench.card("efficiency-map"), Qt::LeftButton, {}, QPoint(40, 18));
        f.child<QLineEdit>("input:efficiency-map:speeds")->setText(QStringLiteral("10:100:10 %"));
        QTest::mouseClick(f.child("more:efficiency-map"), Qt::LeftButton);
        f.child<QLineEdit>("input:efficiency-map:map_steps")->setText(QStringLiteral("4"));
        f.child<QComboBox>("input:efficiency-map:quadrants")->setCurrentText(QStringLiteral("motor"));
        QTest::mouseClick(f.child("ask:efficiency-map"), Qt::LeftButton);
        QVERIFY(QTest::qWaitFor([&] { return bench.answer("efficiency-map") && bench.is_idle(); }, 120000));
        auto* choice = f.child<QComboBox>("plot_choice");
        QCOMPARE(choice->currentText(), QStringLiteral("Efficiency"));
        for (int i = 0; i < choice->count(); ++i) choice->setCurrentIndex(i);
        choice->setCurrentIndex(0);
        QCoreApplication::processEvents();
        auto* map = f.child<MapPlot>("map");
        QVERIFY(map->isVisible());
        // The value under the cursor, then a click that picks the point.
        QCustomPlot* canvas = map->canvas();
        const QPoint at(int(canvas->xAxis->coordToPixel(1250)), int(canvas->yAxis->coordToPixel(140)));
        QTest::mouseMove(canvas, at);
        QVERIFY(QTest::qWaitFor([&] { return map->reading().contains(QStringLiteral("%")); }, 2000));
        QTest::mouseClick(canvas, Qt::LeftButton, {}, at);
        auto* table = f.child<QLabel>("picked:table");
        QVERIFY(table->text().contains(QStringLiteral("map")));
        QTest::mouseClick(f.child("picked:check"), Qt::LeftButton);
        QVERIFY(QTest::qWaitFor([&] { return table->text().contains(QStringLiteral("full field")); }, 60000));
        const auto point = bench.answer_view().picked().point();
        QVERIFY(point && std::abs(point->torque - 140) < 3);
        for (const char* name : {"m.csv", "m.json", "m.png", "m.svg", "m.pdf"}) {
            QVERIFY2(bench.answer_view().export_to(f.file(name)), name);
            QVERIFY2(QFileInfo(f.file(name)).size() > 1000, name);
        }
        QTest::mouseClick(f.child("picked:probe"), Qt::LeftButton);
        QVERIFY(f.settle());
        const auto result = f.window->section().result();
        QVERIFY(result);
        const double q = result->request.current.at(-M_PI / 2, {0.0})[0]; // where the q axis stands on phase U
        QVERIFY(std::abs(q - point->iq) < 1e-6);
        QVERIFY(QDir(f.file("a.answers")).entryList({"flux-*.csv"}).size() == 1); // kept as it went
    }
    void the_loss_density_is_an_overlay() {
        WindowFixture f("vee");
        f.window->show_bench("probe");
        QTest::mouseClick(f.child("overlay:loss density"), Qt::LeftButton);
        QVERIFY(f.settle());
        QVERIFY(f.window->section().overlays().has("loss density") &&
                !f.window->section().overlays().has("flux density"));
        const auto result = f.window->section().result();
        QVERIFY(result && result->picture.shown.high > 1 &&
                result->picture.shown.label.find("kW/m³") != std::string::npos);
        QTest::mouseClick(f.child("overlay:flux density"), Qt::LeftButton);
        QVERIFY(f.settle());
        QVERIFY(!f.window->section().overlays().has("loss density"));
        QVERIFY(f.window->section().result()->picture.shown.high == 0);
    }
    void losses_and_efficiency_are_tell_tales() {
        WindowFixture f("vee");
        QVERIFY(f.settle());
        const auto cells = f.window->tell_tales().cells();
        QVERIFY(cells[5].title.startsWith(QStringLiteral("Losses")) &&
                cells[5].value.section(QLatin1Char(' '), 0, 0).toDouble() > 500);
        QVERIFY(cells[6].value.toDouble() > 90 && cells[6].unit == QStringLiteral("%"));
    }
};
MAVLO_TEST(maps, TestMaps, Windows)
#include "test_maps.moc"
