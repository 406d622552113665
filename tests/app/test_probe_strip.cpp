// Probe's strip: a place on the curve is a place on the section, lines laid by hand tell the flux that crosses
// them. And on Draw the reference that lies under what is drawn.

#include "probe/field_strip.h"
#include "test_program.h"
#include "window_fixture.h"

#include <QRegularExpression>

using namespace mavlo;
using namespace mavlo::app;

namespace {

/// The first number of a text.
double number_in(const QString& text) {
    static const QRegularExpression number(QStringLiteral("-?[0-9]+(\\.[0-9]+)?(e-?[0-9]+)?"));
    return number.match(text).captured().toDouble();
}

} // namespace

class TestProbeStrip : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void places_are_joined() {
        WindowFixture f;
        f.window->show_bench("probe");
        QVERIFY(f.settle());
        auto* strip = f.child<FieldStrip>("field_strip");
        QVERIFY(strip->isVisible());
        std::optional<Point> place;
        connect(strip, &FieldStrip::place_hovered, strip, [&](std::optional<Point> p) { place = p; });
        const double quarter = std::numbers::pi / 2;
        QTest::mouseMove(strip, QPoint(int(std::lround(strip->x_of(quarter))), strip->height() / 2));
        QVERIFY(place);
        CLOSE(angle_of(*place), quarter, 0.01);
        CLOSE(norm(*place), f.document().built()->machine.middle_of_gap(), 1e-9);
        CLOSE(number_in(strip->reading()), 90, 0.6);
        // The other way: the section's cursor at 30 degrees.
        SectionView& section = f.window->section();
        QTest::mouseMove(&section, section.frame().to_screen(polar(0.03, std::numbers::pi / 6)).toPoint());
        CLOSE(number_in(strip->reading()), 30, 1.5);
    }
    void the_wheel_zooms_about_the_cursor() {
        WindowFixture f;
        f.window->show_bench("probe");
        QVERIFY(f.settle());
        auto* strip = f.child<FieldStrip>("field_strip");
        const double one = strip->x_of(2.0), two = strip->x_of(2.5);
        QWheelEvent wheel(QPointF(one, 80), strip->mapToGlobal(QPointF(one, 80)), {}, QPoint(0, 480),
                          Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
        QCoreApplication::sendEvent(strip, &wheel);
        CLOSE(strip->x_of(2.0), one, 1e-6);
        QVERIFY(strip->x_of(2.5) - one > 1.9 * (two - one));
        QTest::mouseDClick(strip, Qt::LeftButton, {}, QPoint(300, 80));
        CLOSE(strip->x_of(2.5), two, 1e-9);
        f.drag(strip, {300, 80}, {200, 80}); // all of it is seen: nothing to scroll
        CLOSE(strip->x_of(2.5), two, 1e-9);
    }
    void a_line_is_laid_over_the_section() {
        WindowFixture f;
        f.window->show_bench("probe");
        QVERIFY(f.settle());
        auto* strip = f.child<FieldStrip>("field_strip");
        QTest::mouseClick(f.child("lay_line"), Qt::LeftButton);
        SectionView& section = f.window->section();
        const double outside = f.document().built()->machine.section.outer_radius();
        const auto at = [&](double radius, double angle) {
            return section.frame().to_screen(polar(radius * outside, angle));
        };
        f.drag(&section, at(0.95, 0.2), at(0.95, 0.9));
        QVERIFY(f.settle());
        QVERIFY2(strip->reading().contains(QStringLiteral("mWb")), qPrintable(strip->reading()));
        CLOSE(number_in(strip->reading()), 2e3 * 0.95 * outside * std::sin(0.35), 1.5); // mm
        const double angle = section.angle();
        // Its end is dragged, not a new one begun; the flux of the first way changes its sign with it.
        f.drag(&section, at(0.95, 0.9), at(0.5, 0.2));
        QVERIFY(f.settle());
        CLOSE(number_in(strip->reading()), 1e3 * 0.45 * outside, 1.5);
        CLOSE(section.angle(), angle, 0);
        section.setFocus();
        QTest::keyClick(&section, Qt::Key_Escape);
        QVERIFY(f.settle());
        QVERIFY(strip->reading().contains(QStringLiteral("gap")));
    }
    /// A variant shows the reference it began from, dashed, and says what it changed.
    void the_reference_lies_under_the_variant() {
        WindowFixture f;
        QVERIFY(f.settle());
        SectionView& section = f.window->section();
        f.document().add_variant(QStringLiteral("deeper"));
        QVERIFY(f.settle());
        const QImage before = section.grab().toImage();
        f.document().set_text("stator.slot.depth", QStringLiteral("20 mm"));
        QVERIFY(f.settle());
        const QColor accent = theme().accent;
        const auto of_accent = [&](const QImage& image) {
            int count = 0;
            // Left of the ring's handle and its angle, below the chips.
            for (int y = 140; y < image.height() - 140; ++y)
                for (int x = 200; x < image.width() / 2 + 100; ++x) {
                    const QColor c = image.pixelColor(x, y);
                    count += std::abs(c.red() - accent.red()) + std::abs(c.green() - accent.green()) +
                                 std::abs(c.blue() - accent.blue()) <
                             90;
                }
            return count;
        };
        QVERIFY(of_accent(section.grab().toImage()) > of_accent(before) + 200);
        f.document().undo_stack().undo();
        QVERIFY(f.settle());
        QVERIFY(of_accent(section.grab().toImage()) < of_accent(before) + 20);
    }
};
MAVLO_TEST(probe_strip, TestProbeStrip, Windows)
#include "test_probe_strip.moc"
