// Plots: reading values under the cursor, logarithmic axes, the legend's place, pictures and tables.

#include "plot/plot.h"
#include "plot/qcustomplot_include.h"
#include "shell/theme.h"
#include "support.h"
#include "test_program.h"

#include <QApplication>
#include <QClipboard>
#include <QSvgRenderer>
#include <QTemporaryDir>

using namespace mavlo;
using namespace mavlo::app;

namespace {

PlotCurve curve(const char* name, const std::function<double(double)>& f, double from, double to,
                int points = 50) {
    PlotCurve out;
    out.curve = {"loss", "W", "speed", "rpm", {}, {}};
    for (int i = 0; i < points; ++i) {
        const double x = from + (to - from) * i / (points - 1);
        out.curve.x.push_back(x);
        out.curve.y.push_back(f(x));
    }
    out.name = QString::fromLatin1(name);
    out.colour = theme().accent;
    return out;
}

QCustomPlot& inner(Plot& plot) {
    return *plot.findChild<QCustomPlot*>();
}

void move_to(Plot& plot, double x, double y) {
    QCustomPlot& p = inner(plot);
    QTest::mouseMove(&p, QPoint(5, 5));
    QTest::mouseMove(&p, QPointF(p.xAxis->coordToPixel(x), p.yAxis->coordToPixel(y)).toPoint());
    QCoreApplication::processEvents();
}

} // namespace

class TestPlot : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void the_cursor_reads_the_nearest_curve() {
        Plot plot;
        plot.resize(600, 400);
        plot.show();
        plot.show_curves({curve(
                              "up", [](double x) { return x; }, 0, 100),
                          curve(
                              "down", [](double x) { return 100 - x; }, 0, 100)},
                         QStringLiteral("speed"), QStringLiteral("loss"));
        QCoreApplication::processEvents();
        move_to(plot, 20, 22);
        QVERIFY2(plot.reading().startsWith(QStringLiteral("up:")), qPrintable(plot.reading()));
        move_to(plot, 20, 78);
        QVERIFY2(plot.reading().startsWith(QStringLiteral("down:")), qPrintable(plot.reading()));
        QVERIFY(plot.reading().contains(QStringLiteral("rpm")));
    }
    void logarithmic_axes_stand_and_go() {
        Plot plot;
        plot.resize(600, 400);
        plot.show();
        plot.set_logarithmic(true, true);
        plot.show_curves({curve(
                             "power", [](double x) { return x * x; }, 1, 1000)},
                         {}, {});
        QCoreApplication::processEvents();
        QCustomPlot& p = inner(plot);
        QVERIFY(p.xAxis->scaleType() == QCPAxis::stLogarithmic);
        // A power law is a straight line: half way between two decades on either axis.
        const double mid_x = (p.xAxis->coordToPixel(10) + p.xAxis->coordToPixel(1000)) / 2,
                     mid_y = (p.yAxis->coordToPixel(100) + p.yAxis->coordToPixel(1e6)) / 2;
        CLOSE(p.xAxis->coordToPixel(100), mid_x, 0.5);
        CLOSE(p.yAxis->coordToPixel(1e4), mid_y, 0.5);
        plot.set_logarithmic(false, false);
        plot.show_curves({curve(
                             "line", [](double x) { return x; }, 0, 10)},
                         {}, {});
        QVERIFY(p.xAxis->scaleType() == QCPAxis::stLinear);
        QVERIFY(p.xAxis->range().lower <= 0);
    }
    void the_legend_leaves_the_curves_alone() {
        Plot plot;
        plot.resize(600, 400);
        plot.show();
        std::vector<PlotCurve> many;
        for (const char* name : {"rotor iron", "stator iron", "copper", "magnets", "windage", "bearings"})
            many.push_back(curve(
                name, [](double x) { return x; }, 0, 100));
        for (const int width : {600, 300}) {
            plot.resize(width, 400);
            plot.show_curves(many, {}, {});
            QCoreApplication::processEvents();
            const QRect legend = inner(plot).legend->outerRect(), field = inner(plot).axisRect()->rect();
            QVERIFY2(legend.height() > 10 && !legend.intersects(field), "on the data");
            QVERIFY2(legend.right() <= width, "cut");
            QVERIFY(field.height() > 200);
        }
        plot.resize(600, 400);
        for (const std::size_t count : {5U, 4U, 5U, 3U}) { // a last row that is not full
            many.resize(count);
            plot.show_curves(many, {}, {});
            QCoreApplication::processEvents();
            plot.show_curves(many, {}, {});
            QVERIFY(!inner(plot).legend->outerRect().intersects(inner(plot).axisRect()->rect()));
        }
        plot.show_curves({many.front()}, {}, {});
        QCoreApplication::processEvents();
        QVERIFY(inner(plot).axisRect()->rect().height() > 300); // its room goes with it
    }
    void a_click_tells_what_a_curve_stands_for() {
        Plot plot;
        plot.resize(600, 400);
        plot.show();
        auto first = curve(
            "first", [](double) { return 1.0; }, 0, 100);
        auto second = curve(
            "second", [](double) { return 2.0; }, 0, 100, 5);
        first.keys = {7};
        second.keys = {0, 1, 2, 3, 4};
        plot.show_curves({first, second}, {}, {});
        QCoreApplication::processEvents();
        std::vector<std::size_t> picked;
        connect(&plot, &Plot::picked, this, [&](std::size_t key) { picked.push_back(key); });
        auto& p = inner(plot);
        const auto click = [&](double x, double y) {
            QTest::mouseClick(&p, Qt::LeftButton, {}, plot.place_of(x, y).toPoint());
        };
        click(40, 1);
        click(75, 2);
        click(60, 1.5); // too far from both
        QCOMPARE(picked, (std::vector<std::size_t>{7, 3}));
    }
    void unlisted_curves_stay_out_of_the_legend() {
        Plot plot;
        auto dots = curve(
            "dots", [](double x) { return x; }, 0, 1, 5);
        dots.points = true;
        dots.listed = false;
        plot.show_curves({curve(
                              "line", [](double x) { return x; }, 0, 1),
                          dots},
                         {}, {});
        QCOMPARE(inner(plot).legend->itemCount(), 1);
        QVERIFY(!inner(plot).legend->visible());
        plot.show_curves({curve(
                              "one", [](double x) { return x; }, 0, 1),
                          curve(
                              "two", [](double x) { return 2 * x; }, 0, 1)},
                         {}, {});
        QCOMPARE(inner(plot).legend->itemCount(), 2);
        QVERIFY(inner(plot).legend->visible());
    }
    void pictures_and_tables() {
        QTemporaryDir folder;
        Plot plot;
        plot.resize(600, 400);
        plot.show_curves({curve(
                             "a", [](double x) { return 2 * x; }, 0, 1, 3)},
                         QStringLiteral("x"), QStringLiteral("y"));
        for (const char* name : {"p.png", "p.svg", "p.pdf"}) {
            QVERIFY(plot.save(folder.filePath(QLatin1String(name))));
            QVERIFY(QFileInfo(folder.filePath(QLatin1String(name))).size() > 500);
        }
        QVERIFY(QSvgRenderer(folder.filePath(QStringLiteral("p.svg"))).isValid());
        QVERIFY(!plot.save(folder.filePath(QStringLiteral("p.txt"))));
        QVERIFY(!plot.save(QStringLiteral("/nonexistent/p.png")));
        QCOMPARE(plot.copied_table(), QStringLiteral("speed [rpm]\ta [W]\n0\t0\n0.5\t1\n1\t2\n"));
        plot.copy_picture();
        QVERIFY(!QApplication::clipboard()->image().isNull());
        plot.clear();
        QVERIFY(plot.copied_table().isEmpty());
    }
};
MAVLO_TEST(plot, TestPlot, Windows)
#include "test_plot.moc"
