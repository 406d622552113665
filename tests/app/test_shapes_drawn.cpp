// Shapes drawn on the section by hand: clicks, snapping, typed lengths, the table, undo.

#include "app/window_fixture.h"
#include "draw/shapes/shape_panel.h"
#include "draw/shapes/typed_point.h"
#include "test_program.h"

using namespace mavlo;
using namespace mavlo::app;

namespace {

QPoint on_screen(WindowFixture& f, double x, double y) {
    return f.window->section().frame().to_screen({x, y}).toPoint();
}

void click(WindowFixture& f, double x, double y) {
    QTest::mouseMove(&f.window->section(), on_screen(f, x, y));
    QTest::mouseClick(&f.window->section(), Qt::LeftButton, {}, on_screen(f, x, y));
    QCoreApplication::processEvents();
}

void open_panel(WindowFixture& f) {
    QTest::mouseClick(f.child("part:Shapes"), Qt::LeftButton);
    QVERIFY(f.child("shape_panel")->isVisible());
}

} // namespace

class TestShapesDrawn : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_pocket_is_drawn_follows_a_formula_and_moves_the_figures() {
        WindowFixture f("reluctance-salient");
        QVERIFY(f.settle());
        const double torque = f.window->tell_tales().cells()[0].value.toDouble();
        open_panel(f);
        QTest::mouseClick(f.child("draw_circle"), Qt::LeftButton);
        const double r = f.document().built()->machine.rotor_radius() - 12e-3;
        click(f, r, 0);
        click(f, r + 6e-3, 0);
        QCOMPARE(f.document().design().shapes.size(), std::size_t(1));
        QVERIFY2(f.document().is_good(),
                 f.document().is_good() ? "" : f.document().problems().front().sentence.c_str());
        QCOMPARE(f.document().design().shapes[0].name, std::string("pocket 1"));
        QVERIFY(f.settle());
        const double with_hole = f.window->tell_tales().cells()[0].value.toDouble();
        QVERIFY(std::abs(with_hole - torque) > 2e-3 * torque);
        // Its centre as a formula, in the table.
        auto* table = f.child<QTableWidget>("shape_corners");
        table->item(0, 0)->setText(QStringLiteral("= gap_diameter / 2 - 20 mm"));
        QVERIFY(f.document().is_good());
        table->setCurrentCell(0, 2);
        QCOMPARE(f.child<QLineEdit>("shape_whole_text")->text(), QStringLiteral("6 mm"));
        WindowFixture::replace(f.child<QLineEdit>("shape_whole_text"), QStringLiteral("= 3 mm + 2 * 1 mm"));
        QCOMPARE(f.document().design().shapes[0].radius, std::string("= 3 mm + 2 * 1 mm"));
        const auto centre = [&] { return f.document().built()->machine.values.shapes()[0].corners[0].x; };
        const double before = centre();
        const double bore = f.document().value("stator.bore_diameter");
        f.document().set_text("stator.bore_diameter", QString::number(bore * 1e3 + 2) + " mm");
        CLOSE(centre() - before, 1e-3, 1e-6);
        // A broken formula is said beside the table and on the drawing, and undone.
        table->item(0, 0)->setText(QStringLiteral("= nonsense"));
        QVERIFY(!f.document().is_good());
        QVERIFY(f.child<QLabel>("shape_words")->text().contains(QStringLiteral("nonsense")));
        f.document().undo_stack().undo();
        QVERIFY(f.document().is_good());
        while (f.document().undo_stack().canUndo()) f.document().undo_stack().undo();
        QVERIFY(f.document().design().shapes.empty());
    }
    void an_outline_with_typed_lengths_and_an_arc() {
        WindowFixture f("reluctance-salient");
        open_panel(f);
        QTest::mouseClick(f.child("draw_outline"), Qt::LeftButton);
        auto& section = f.window->section();
        auto* typed = f.child<QLineEdit>("sketch_typed");
        QVERIFY(typed->isVisible());
        WindowFixture::replace(typed, QStringLiteral("30, 3"));
        WindowFixture::replace(typed, QStringLiteral("40, -5")); // coordinates
        WindowFixture::replace(typed, QStringLiteral("10<90"));  // a length at an angle
        section.setFocus();
        QTest::keyClick(&section, Qt::Key_A); // an arc back
        WindowFixture::replace(typed, QStringLiteral("35, 8"));
        WindowFixture::replace(typed, QStringLiteral("@-10, 0"));
        section.setFocus();
        QTest::keyClick(&section, Qt::Key_Return);
        QCOMPARE(f.document().design().shapes.size(), std::size_t(1));
        const FreeShape& shape = f.document().design().shapes[0];
        QCOMPARE(shape.corners.size(), std::size_t(4));
        QCOMPARE(shape.corners[1].x, std::string("40 mm"));
        QCOMPARE(shape.corners[2].y, std::string("5 mm"));
        QVERIFY(shape.corners[2].bulge > 0.1);
        QCOMPARE(shape.corners[3].x, std::string("30 mm"));
        // Esc leaves a drawing that was begun.
        QTest::mouseClick(f.child("draw_rectangle"), Qt::LeftButton);
        click(f, 30e-3, 0);
        QTest::keyClick(&section, Qt::Key_Escape);
        QCOMPARE(f.document().design().shapes.size(), std::size_t(1));
        QVERIFY(!f.child<QPushButton>("draw_rectangle")->isChecked());
    }
    void corners_are_dragged_and_removed_shapes_come_back() {
        WindowFixture f("reluctance-salient");
        open_panel(f);
        QTest::mouseClick(f.child("draw_rectangle"), Qt::LeftButton);
        click(f, 30e-3, -4e-3);
        click(f, 38e-3, 4e-3);
        QCOMPARE(f.document().design().shapes.size(), std::size_t(1));
        auto* tool = f.window->findChild<SketchTool*>();
        const auto at = tool->corner_position(0);
        QVERIFY(at.has_value());
        f.drag(&f.window->section(), *at, *at + QPointF(-12, 6));
        const std::string moved = f.document().design().shapes[0].corners[0].x;
        QVERIFY(std::stod(moved) < 29.9);
        f.document().undo_stack().undo(); // the drag is one step
        QVERIFY(std::abs(std::stod(f.document().design().shapes[0].corners[0].x) - 30) < 0.6);
        // Fillets, role and mirror by the fields.
        f.child<QTableWidget>("shape_corners")->item(0, 3)->setText(QStringLiteral("1"));
        QCOMPARE(f.document().design().shapes[0].corners[0].fillet, std::string("1 mm"));
        QTest::mouseClick(f.child("shape_mirrored"), Qt::LeftButton, {}, QPoint(8, 10));
        QVERIFY(!f.document().design().shapes[0].mirrored);
        auto* role = f.child<QComboBox>("shape_role");
        role->setFocus();
        QTest::keyClick(role, Qt::Key_Down);
        QVERIFY(f.document().design().shapes[0].use == Use::Iron);
        QTest::mouseClick(f.child("shape_double"), Qt::LeftButton);
        QCOMPARE(f.document().design().shapes.size(), std::size_t(2));
        f.window->section().setFocus();
        QTest::keyClick(&f.window->section(), Qt::Key_Delete);
        QCOMPARE(f.document().design().shapes.size(), std::size_t(1));
        f.document().undo_stack().undo();
        QCOMPARE(f.document().design().shapes.size(), std::size_t(2));
    }
    void a_shape_is_trimmed_by_another() {
        WindowFixture f("reluctance-salient");
        open_panel(f);
        const double corners[2][4] = {{28e-3, -4e-3, 40e-3, 4e-3}, {33e-3, -9e-3, 45e-3, 9e-3}};
        for (const auto& c : corners) {
            QTest::mouseClick(f.child("draw_rectangle"), Qt::LeftButton);
            click(f, c[0], c[1]);
            click(f, c[2], c[3]);
        }
        auto* tool = f.window->findChild<SketchTool*>();
        QCOMPARE(f.document().design().shapes.size(), std::size_t(2));
        tool->select("pocket 1");
        QTest::mouseClick(f.child("shape_trim"), Qt::LeftButton);
        click(f, 37e-3, -2.5e-3);
        const auto& shapes = f.document().built()->machine.values.shapes();
        double area = 0;
        for (const Piece& p : shapes[0].pieces) area += swept_area(p);
        CLOSE(area, 40e-6, 1e-5); // on a coarse grid, of 96
        f.document().undo_stack().undo();
        QCOMPARE(f.document().design().shapes[0].corners.size(), std::size_t(4));
        QTest::mouseClick(f.child("shape_trim"), Qt::LeftButton);
        QTest::keyClick(&f.window->section(), Qt::Key_Escape);
        click(f, 37e-3, -2.5e-3);
        QCOMPARE(f.document().design().shapes[0].corners.size(), std::size_t(4));
    }
    void lengths_of_a_drawing_are_dimensioned() {
        WindowFixture f("reluctance-salient");
        // Its own rotor pole as a drawing: a block pocket on the axis.
        Design design = f.document().design();
        const Tile& tile = f.document().built()->machine.section.rotor().tile;
        DrawnPart part;
        part.pitches = f.document().built()->machine.poles;
        part.gap_radius = tile.gap_radius;
        part.far_radius = f.document().value("rotor.shaft_diameter") / 2;
        const double low = part.far_radius + 5e-3, high = low + 5e-3;
        part.pieces = {{{low, 0}, {low, 3e-3}}, {{low, 3e-3}, {high, 3e-3}}, {{high, 3e-3}, {high, 0}}};
        part.regions = {{{part.gap_radius - 1e-3, 1e-3}, Use::Iron, {}}, {{low + 1e-3, 1e-3}, Use::Air, {}}};
        design.texts["rotor.kind"] = "drawn";
        design.drawings["rotor"] = part;
        f.document().set_design("as a drawing", design);
        QVERIFY2(f.document().is_good(),
                 f.document().is_good() ? "" : f.document().problems().front().sentence.c_str());
        open_panel(f);
        auto* table = f.child<QTableWidget>("drawn_dimensions");
        QVERIFY(!table->isVisible());
        QTest::mouseClick(f.child("draw_dimension"), Qt::LeftButton);
        click(f, low, 3e-3);
        click(f, high, 3e-3);
        QCOMPARE(f.document().design().dimensions.size(), std::size_t(1));
        QVERIFY(table->isVisible());
        QVERIFY(std::abs(table->item(0, 1)->text().toDouble() - 5) < 1e-3);
        table->item(0, 2)->setText(QStringLiteral("= 12 * gap"));
        QVERIFY(f.document().is_good());
        const double wanted = 12 * f.document().value("gap");
        const DrawnPart* made = f.document().built()->machine.values.drawing("rotor");
        CLOSE(made->pieces[1].b.x - made->pieces[1].a.x, wanted, 1e-9);
        table->item(0, 2)->setText(QStringLiteral("= nonsense"));
        QVERIFY(f.child<QLabel>("dimension_words")->text().contains(QStringLiteral("nonsense")));
        f.document().undo_stack().undo();
        table->selectRow(0);
        QTest::mouseClick(f.child("dimension_remove"), Qt::LeftButton);
        QVERIFY(f.document().design().dimensions.empty() && !table->isVisible());
    }
    void points_snap_to_what_is_there() {
        WindowFixture f("reluctance-salient");
        const Machine& m = f.document().built()->machine;
        Snapper snapper(m, "rotor");
        const Outline& o = m.section.rotor().tile.outline;
        const Point corner = o.points[3];
        const auto end = snapper.snap(corner + Point{2e-4, 1e-4}, 5e-4, 1e-3, std::nullopt);
        CLOSE(norm(end.at - corner), 0, 1e-12);
        QCOMPARE(end.what, QStringLiteral("end"));
        // Nothing near: the grid; a corner before: angles in steps of 15 degrees.
        Snapper empty(m, "rotor");
        const auto grid = snapper.snap({30.2e-3, 4.3e-3}, 1e-5, 1e-3, std::nullopt);
        CLOSE(grid.at.x, 30e-3, 1e-12);
        CLOSE(grid.at.y, 4e-3, 1e-12);
        const auto turned = snapper.snap({36.05e-3, 4.02e-3}, 4e-4, 1e-3, Point{30e-3, 4e-3});
        CLOSE(turned.at.x, 36e-3, 1e-9);
        CLOSE(turned.at.y, 4e-3, 1e-9);
        QCOMPARE(turned.what, QStringLiteral("0°"));
        // A tangent to a circle.
        std::vector<Piece> circle;
        add_arc(circle, {{32e-3, 0}, 2e-3}, 0.3, 2 * M_PI, 0);
        snapper.add(circle);
        const auto tangent = snapper.snap({31.9e-3, 1.95e-3}, 2e-4, 1e-3, Point{26e-3, 2e-3});
        QCOMPARE(tangent.what, QStringLiteral("tangent"));
        const Point t = tangent.at - Point{32e-3, 0};
        CLOSE(norm(t), 2e-3, 1e-9);
        CLOSE(dot(t, tangent.at - Point{26e-3, 2e-3}), 0, 1e-12);
    }
    void what_is_typed_is_understood() {
        const Point from{10e-3, 0}, pointed{10e-3, 5e-3};
        CLOSE(typed_point("8", from, pointed)->y, 8e-3, 1e-12);
        CLOSE(typed_point("0.5 in<0", from, pointed)->x, 22.7e-3, 1e-12);
        CLOSE(typed_point("12; 3 mm", from, pointed)->y, 3e-3, 1e-12);
        CLOSE(typed_point("@1,1", from, pointed)->x, 11e-3, 1e-12);
        for (const char* bad : {"", "x", "1<2<3", "5 A", "1,2,3"})
            QVERIFY2(!typed_point(bad, from, pointed), bad);
    }
};
MAVLO_TEST(shapes_drawn, TestShapesDrawn, Windows)
#include "test_shapes_drawn.moc"
