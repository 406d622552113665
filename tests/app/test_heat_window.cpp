// Heat on the window: the cut along the axis under the hand, temperatures among the tell-tales, overlays, and
// from one answer's losses to their temperatures.

#include "ask/heat_view.h"
#include "draw/long_section_view.h"
#include "support.h"
#include "test_program.h"
#include "window_fixture.h"

using namespace mavlo;
using namespace mavlo::app;

class TestHeatWindow : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void the_cut_stands_under_the_section_of_cooling() {
        WindowFixture f;
        auto* cut = f.child<LongSectionView>("long_section");
        QVERIFY(!cut->isVisible());
        QTest::mouseClick(f.child<QPushButton>("part:Cooling"), Qt::LeftButton);
        QVERIFY(cut->isVisible());
        QTest::mouseClick(f.child<QPushButton>("part:Rotor"), Qt::LeftButton);
        QVERIFY(!cut->isVisible());
    }
    void a_dimension_is_dragged_and_undone() {
        WindowFixture f;
        QTest::mouseClick(f.child<QPushButton>("part:Cooling"), Qt::LeftButton);
        QVERIFY(f.settle());
        auto* cut = f.child<LongSectionView>("long_section");
        const std::string before = f.text("housing.length");
        QCOMPARE(before, std::string("auto"));
        const QPointF from = cut->handle("housing.length");
        QVERIFY(!from.isNull());
        f.drag(cut, from, from + QPointF(20, 0));
        QVERIFY(f.text("housing.length").ends_with(" mm"));
        const double longer = QString::fromStdString(f.text("housing.length")).split(' ').front().toDouble();
        QVERIFY(longer > 60); // than the stack
        const QPointF wall = cut->handle("housing.thickness");
        f.drag(cut, wall, wall - QPointF(0, 5));
        QVERIFY(f.text("housing.thickness").ends_with(" mm"));
        f.document().undo_stack().undo();
        f.document().undo_stack().undo();
        QCOMPARE(f.text("housing.length"), before);
    }
    void the_housing_is_dragged_round_the_section() {
        WindowFixture f;
        SectionView& section = f.window->section();
        QVERIFY(!section.handle_position("housing.rib_height"));
        QVERIFY(section.label_position("gap"));
        f.document().set_text("housing.kind", QStringLiteral("ribbed"));
        QTest::mouseClick(f.child<QPushButton>("part:Cooling"), Qt::LeftButton);
        QVERIFY(f.settle());
        QVERIFY(section.handle_position("housing.rib_thickness"));
        QVERIFY(!section.label_position("gap")); // the housing's dimensions take the section's place
        const auto number = [&](const char* path) { return f.document().value(path); };
        const double before = number("housing.rib_height");
        // Out from the centre: on the ray that the rib stands on.
        const QPointF from = *section.handle_position("housing.rib_height"),
                      out = from - section.frame().centre();
        f.drag(&section, from, from + 6 / std::hypot(out.x(), out.y()) * out);
        const double way = number("housing.rib_height") - before;
        CLOSE(way * section.frame().scale(), 6, 2.5); // as it was dragged, less what brings it into view
        f.document().undo_stack().undo();
        CLOSE(number("housing.rib_height"), before, 1e-12);
        f.window->show_bench("probe");
        QVERIFY(!section.handle_position("housing.rib_height"));
        QTest::mouseClick(f.child<QPushButton>("part:Cooling"), Qt::LeftButton);
    }
    void temperatures_are_tell_tales() {
        WindowFixture f;
        QVERIFY(f.settle());
        const auto temperature = [&] {
            for (const auto& cell : f.window->tell_tales().cells())
                if (cell.figure == QStringLiteral("temperature_winding_highest")) return cell.value;
            return QString();
        };
        const QString before = temperature();
        QVERIFY2(before.contains(QStringLiteral(" / ")), qPrintable(before)); // winding and magnets
        const double warm = before.split(' ').front().toDouble();
        QVERIFY(warm > 40 && warm < 200);
        // Clicked, it says where its causes are told.
        auto& strip = f.window->tell_tales();
        const auto cells = strip.cells();
        for (std::size_t k = 0; k < cells.size(); ++k)
            if (cells[k].figure == QStringLiteral("temperature_winding_highest"))
                QTest::mouseClick(&strip, Qt::LeftButton, {}, QPoint(int(strip.edges(cells)[k]) + 12, 50));
        QVERIFY(
            f.window->section().dimensions().effects().title.contains(QStringLiteral("what would help most")));
        QVERIFY(f.window->section().dimensions().effects().title.startsWith(QStringLiteral("Winding")));
        // Cooler around, cooler inside.
        QVERIFY(!f.document().set_text("cooling.ambient", QStringLiteral("10 degC")));
        QVERIFY(f.settle());
        CLOSE(temperature().split(' ').front().toDouble(), warm - 30, 6);
    }
    void overlays_of_heat_put_the_flux_lines_out() {
        WindowFixture f;
        f.window->show_bench("probe");
        QVERIFY(f.settle());
        QVERIFY(f.window->section().overlays().has("flux lines"));
        for (const char* name : {"temperature", "heat flow"}) {
            QTest::mouseClick(f.child(("overlay:" + std::string(name)).c_str()), Qt::LeftButton);
            QVERIFY(f.settle());
            QVERIFY(f.window->section().overlays().has(name));
            QVERIFY(!f.window->section().overlays().has("flux lines"));
        }
        QVERIFY(!f.window->section().overlays().has("temperature"));
    }
    /// The temperature follows the current that is dragged, and a whole answer takes the estimate's place.
    void the_current_is_dragged_under_the_temperature() {
        WindowFixture f;
        f.window->show_bench("probe");
        QTest::mouseClick(f.child("overlay:temperature"), Qt::LeftButton);
        QVERIFY(f.settle());
        const auto highest = [&] { return f.window->section().result()->picture.shown.high; };
        const double cold = highest();
        auto* pad = f.child("dq_pad");
        const QPointF middle = QRectF(pad->rect()).center();
        f.drag(pad, middle, middle - QPointF(0, 40));
        QVERIFY(f.settle());
        QVERIFY2(highest() > cold + 5, qPrintable(QString::number(highest() - cold)));
        QCOMPARE(f.window->section().result()->picture.shown.unit, std::string("°C"));
    }
    void from_losses_to_their_heat() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& ask = f.window->part<AskBench>();
        ask.card("load")->set_input("points", QStringLiteral("48"));
        ask.choose("load");
        ask.ask("load");
        QVERIFY(f.settle());
        auto* heat = f.child<QPushButton>("its_heat");
        QVERIFY(heat->isVisible());
        QTest::mouseClick(heat, Qt::LeftButton);
        QVERIFY(f.settle());
        const Answer* answer = ask.answer("heat");
        QVERIFY(answer);
        QVERIFY(answer->sentence.find("Losses as given") != std::string::npos);
        QVERIFY(answer->inputs.at("losses").find("copper=") != std::string::npos);
        auto* view = f.child<HeatView>("heat");
        QVERIFY(view->isVisible());
        QVERIFY(view->accessibleDescription().contains(QStringLiteral("winding")));
        QVERIFY(!heat->isVisible()); // of an answer about heat there is nothing more to ask
    }
};
MAVLO_TEST(heat_window, TestHeatWindow, Windows)
#include "test_heat_window.moc"
