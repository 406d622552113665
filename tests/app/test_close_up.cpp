// The close-up of Draw: dimensions as on a sheet, dragged and typed there, a part's material on the drawing.

#include "app/window_fixture.h"
#include "test_program.h"

#include <cmath>

using namespace mavlo;
using namespace mavlo::app;

namespace {

/// The middle of the slot that the close-up shows, on the screen.
QPointF in_slot(WindowFixture& f) {
    const auto built = f.document().built();
    const Machine& m = built->machine;
    const double radius = (m.winding.slot_bottom + m.stator_radius()) / 2;
    return f.window->section().frame().to_screen({radius, 0.001});
}

} // namespace

class TestCloseUp : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_frame_that_is_turned_goes_there_and_back() {
        ViewFrame frame;
        frame.fit({100, 50, 400, 300}, {{0.1, -0.02}, {0.1, 0.02}, {0.05, 0}}, upright);
        for (const Point p : {Point{0.1, -0.02}, Point{0.05, 0}, Point{0.07, 0.01}}) {
            const Point back = frame.to_metres(frame.to_screen(p));
            CLOSE(distance(back, p), 0, 1e-12);
            QVERIFY(QRectF(99, 49, 402, 302).contains(frame.to_screen(p)));
        }
        QVERIFY(frame.to_screen({0.1, 0}).y() < frame.to_screen({0.05, 0}).y()); // outwards is up
        CLOSE(frame.turn(), upright, 1e-12);
    }
    void a_double_click_on_a_part_opens_it_and_the_key_plan_closes_it() {
        WindowFixture f;
        SectionView& section = f.window->section();
        const double before = section.frame().scale();
        QTest::mouseDClick(&section, Qt::LeftButton, {}, in_slot(f).toPoint());
        QVERIFY(section.is_close_up());
        QVERIFY(f.child<QPushButton>("close_up")->isChecked());
        QVERIFY(section.frame().scale() > 1.7 * before);
        QTest::mouseClick(&section, Qt::LeftButton, {}, section.key_plan().center().toPoint());
        QVERIFY(!section.is_close_up() && !f.child<QPushButton>("close_up")->isChecked());
        CLOSE(section.frame().scale(), before, 1e-9);
        QTest::keyClick(&section, Qt::Key_C);
        QVERIFY(section.is_close_up());
        QTest::keyClick(&section, Qt::Key_Escape);
        QVERIFY(!section.is_close_up());
        QTest::mouseClick(f.child("close_up"), Qt::LeftButton);
        QVERIFY(section.is_close_up());
        f.window->show_bench("wind"); // it is Draw's
        QVERIFY(!section.is_close_up() && !f.child("close_up")->isVisible());
    }
    void every_shape_has_its_dimensions_clear_of_each_other_data() {
        QTest::addColumn<QString>("shape");
        for (const StartingShape& s : starting_shapes())
            QTest::newRow(s.name.c_str()) << QString::fromStdString(s.name);
    }
    void every_shape_has_its_dimensions_clear_of_each_other() {
        QFETCH(QString, shape);
        Document document;
        document.open_new(shape);
        SectionView section(document);
        section.resize(900, 660);
        section.set_close_up(true);
        const auto& marks = document.built()->machine.marks;
        std::vector<QRectF> boxes;
        for (const DimensionMark& mark : marks)
            if (const auto* label = section.dimensions().find(mark.path)) {
                QVERIFY2(section.rect().toRectF().contains(label->box.center()), mark.path.c_str());
                boxes.push_back(label->box);
            }
        QVERIFY(boxes.size() + 2 >= marks.size()); // but for circles that lie beyond
        for (std::size_t i = 0; i < boxes.size(); ++i)
            for (std::size_t k = i + 1; k < boxes.size(); ++k) {
                const QRectF both = boxes[i].intersected(boxes[k]);
                QVERIFY2(both.width() * both.height() < 0.35 * boxes[i].width() * boxes[i].height(),
                         marks[i].path.c_str());
            }
    }
    void a_radial_length_has_extension_lines_and_its_true_size() {
        WindowFixture f;
        SectionView& section = f.window->section();
        section.set_close_up(true);
        const auto* depth = section.dimensions().find("stator.slot.depth");
        QVERIFY(depth && depth->on_sheet);
        QCOMPARE(depth->extensions.size(), std::size_t(2));
        CLOSE(std::abs(depth->line.dy()) / section.frame().scale(), f.document().value("stator.slot.depth"),
              1e-4);
        CLOSE(depth->line.dx(), 0, 1e-9);
    }
    void dragging_and_typing_work_as_before() {
        WindowFixture f;
        SectionView& section = f.window->section();
        section.set_close_up(true);
        const double before = f.document().value("stator.slot.depth"), scale = section.frame().scale();
        const QPointF handle = *section.handle_position("stator.slot.depth");
        f.drag(&section, handle, handle - QPointF(0, 20)); // outwards is up
        CLOSE(f.document().value("stator.slot.depth"), before + 20 / scale, 2 / scale);
        QCOMPARE(f.document().undo_stack().count(), 1);
        QTest::mouseClick(&section, Qt::LeftButton, {}, section.label_position("gap")->toPoint());
        auto* editor = f.child<QLineEdit>("dimension_editor");
        QVERIFY(editor->isVisible());
        f.replace(editor, QStringLiteral("1.4"));
        CLOSE(f.document().value("gap"), 1.4e-3, 1e-12);
        QVERIFY(section.is_close_up() && f.document().is_good());
    }
    void the_rotor_may_turn_in_the_close_up() {
        WindowFixture f;
        SectionView& section = f.window->section();
        section.set_close_up(true);
        const QPointF before = *section.handle_position("rotor.magnet.thickness");
        for (int i = 0; i < 5; ++i) QTest::keyClick(&section, Qt::Key_Left);
        CLOSE(section.angle(), 5 / 57.29577951, 1e-9);
        const QPointF after = *section.handle_position("rotor.magnet.thickness");
        QVERIFY(after.x() < before.x() - 5); // counter-clockwise is to the left
    }
    void a_parts_material_is_named_on_it_and_changed_there() {
        WindowFixture f;
        SectionView& section = f.window->section();
        auto* material = f.child<QComboBox>("part_material");
        QVERIFY(!material->isVisible());
        section.set_close_up(true);
        const auto built = f.document().built(); // kept: the document's own goes with the next edit
        const Machine& m = built->machine;
        const double yoke = (m.winding.slot_bottom + m.section.outer_radius()) / 2;
        QTest::mouseClick(&section, Qt::LeftButton, {}, section.frame().to_screen({yoke, 0}).toPoint());
        QVERIFY(material->isVisible());
        QCOMPARE(material->currentText().toStdString(), f.text("stator.steel"));
        const QString name = material->itemText(material->currentIndex() + 1);
        QVERIFY(!name.isEmpty());
        material->setFocus();
        QTest::keyClick(material, Qt::Key_Down);
        QCOMPARE(f.text("stator.steel"), name.toStdString());
        QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(material->currentText().toStdString(), f.text("stator.steel"));
        QTest::mouseClick(&section, Qt::LeftButton, {},
                          section.frame().to_screen({m.rotor_radius() - 1.5e-3, 3e-3}).toPoint());
        QCOMPARE(material->currentText().toStdString(), f.text("rotor.magnet.grade"));
        const Point beside{1.03 * m.section.outer_radius(), 0};
        QTest::mouseClick(&section, Qt::LeftButton, {}, section.frame().to_screen(beside).toPoint());
        QVERIFY(!material->isVisible());
    }
};
MAVLO_TEST(close_up, TestCloseUp, Windows)
#include "test_close_up.moc"
