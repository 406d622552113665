// A bench, an overlay and a key figure are one file each: what registers itself is found in the window.

#include "app/window_fixture.h"
#include "question/key_figure.h"
#include "test_program.h"

#include <QPainter>
#include <QTableWidget>

using namespace mavlo;
using namespace mavlo::app;

namespace {

const Register<KeyFigure> test_figure{{
    .name = "test_poles",
    .order = 95,
    .label = "Poles, for a test",
    .unit = "poles",
    .value = [](const QuickFields& f) { return std::optional<double>(f.model->machine.poles); },
}};

int times_painted = 0, times_coloured = 0;

const Register<Overlay> test_lines{{
    .name = "test lines",
    .order = 90,
    .benches = {"test"},
    .at_first = {"test"},
    .paint =
        [](const SectionCanvas& c) {
            ++times_painted;
            c.painter.fillRect(QRectF(c.frame.centre(), QSizeF(20, 20)), Qt::magenta);
        },
}};

const Register<Overlay> test_colours{{
    .name = "test colours",
    .order = 91,
    .needs_field = true,
    .coloured = true,
    .colour =
        [](FieldPicture& picture, const FieldInHand& field) {
            ++times_coloured;
            show_of_elements(picture, std::vector<double>(field.model->elements.size(), 1.0),
                             {"ones for a test", "one", "1", 1});
        },
}};

const Register<BenchKind> test_bench{{"test", 95, "Trial", "a bench for a test", [](Desk&) {
                                          auto* side = new QLabel(QStringLiteral("a side of one's own"));
                                          side->setObjectName(QStringLiteral("test_side"));
                                          return BenchView{.side = side, .live = true};
                                      }}};

} // namespace

class TestRegistry : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_bench_of_ones_own_stands_in_the_head_strip_and_opens() {
        WindowFixture f;
        QCOMPARE(f.child<QPushButton>("bench:test")->text(), QStringLiteral("Trial"));
        QVERIFY(!f.child("test_side")->isVisible());
        QTest::mouseClick(f.child("bench:test"), Qt::LeftButton);
        QCOMPARE(f.window->bench(), std::string("test"));
        QVERIFY(f.child("test_side")->isVisible() && f.window->section().isVisible());
        QTest::keyClick(f.window.get(), Qt::Key_1, Qt::ControlModifier);
        QVERIFY(!f.child("test_side")->isVisible());
        QTest::keyClick(f.window.get(), Qt::Key_6, Qt::ControlModifier);
        QCOMPARE(f.window->bench(), std::string("test"));
    }
    void an_overlay_of_ones_own_has_a_chip_where_it_is_offered() {
        WindowFixture f;
        QVERIFY(!f.child("overlay:test lines")->isVisible());
        f.window->show_bench("test");
        QVERIFY(f.settle());
        auto* chip = f.child<QPushButton>("overlay:test lines");
        QVERIFY(chip->isVisible() && chip->isChecked());
        times_painted = 0;
        const SectionView& section = f.window->section();
        const QPoint at = (section.frame().centre() + QPointF(10, 10)).toPoint();
        QCOMPARE(f.window->section().grab().toImage().pixelColor(at), QColor(Qt::magenta));
        QVERIFY(times_painted > 0);
        QTest::mouseClick(chip, Qt::LeftButton);
        QVERIFY(f.window->section().grab().toImage().pixelColor(at) != QColor(Qt::magenta));
    }
    void colours_of_ones_own_replace_the_flux_density() {
        WindowFixture f;
        f.window->show_bench("probe");
        QVERIFY(f.window->section().overlays().has("flux density"));
        QTest::mouseClick(f.child("overlay:test colours"), Qt::LeftButton);
        QVERIFY(!f.window->section().overlays().has("flux density")); // one at a time
        QVERIFY(f.settle());
        QVERIFY(times_coloured > 0);
        QCOMPARE(f.window->section().result()->picture.shown.symbol, std::string("one"));
        QTest::mouseMove(&f.window->section(), QPoint(30, 300));
        SectionView& section = f.window->section();
        const QPointF iron =
            section.frame().to_screen({-0.9 * f.document().value("stator.outer_diameter") / 2, 0});
        QTest::mouseMove(&section, iron.toPoint());
        QVERIFY(QTest::qWaitFor(
            [&] { return f.child<QLabel>("reading")->text().contains(QStringLiteral("one 1.000 1")); }, 2000));
    }
    void a_key_figure_of_ones_own_is_shown_and_weighed() {
        WindowFixture f;
        QVERIFY(f.settle());
        const auto cells = f.window->tell_tales().cells();
        QCOMPARE(cells.back().title, QStringLiteral("Poles, for a test"));
        QCOMPARE(cells.back().value, QStringLiteral("10.0"));
        f.window->show_bench("weigh");
        QVERIFY(f.settle());
        auto* table = f.window->part<WeighBench>().findChild<QTableWidget*>();
        bool found = false;
        for (int row = 0; row < table->rowCount(); ++row)
            if (const auto* word = table->item(row, 0))
                found = found || (word->text().endsWith(QStringLiteral("Poles, for a test")) &&
                                  table->item(row, 2)->text() == QStringLiteral("10"));
        QVERIFY(found);
    }
};
MAVLO_TEST(registry, TestRegistry, Windows)
#include "test_registry.moc"
