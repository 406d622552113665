// Draw: dimensions dragged and typed, formulas, undo, refusals, variants, save and reopen.

#include "app/window_fixture.h"
#include "test_program.h"

#include <set>

using namespace mavlo;
using namespace mavlo::app;

class TestWindow : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void dragging_a_dimension_changes_it_in_one_undo_step() {
        WindowFixture f;
        SectionView& section = f.window->section();
        const QPointF handle = *section.handle_position("stator.slot.depth");
        const double before = f.document().value("stator.slot.depth");
        // The label's mark lies on the left of the machine: outwards is to the left.
        f.drag(&section, handle, handle - QPointF(12, 0));
        const double after = f.document().value("stator.slot.depth");
        QVERIFY2(after > before + 0.3e-3 && after < before + 5e-3, qPrintable(QString::number(after)));
        QVERIFY(f.document().is_good());
        QCOMPARE(f.document().undo_stack().count(), 1);
        QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
        CLOSE(f.document().value("stator.slot.depth"), before, 1e-12);
        QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        CLOSE(f.document().value("stator.slot.depth"), after, 1e-12);
    }
    void clicking_a_label_opens_a_field_for_it() {
        WindowFixture f;
        SectionView& section = f.window->section();
        QTest::mouseClick(&section, Qt::LeftButton, {}, section.label_position("gap")->toPoint());
        auto* editor = f.child<QLineEdit>("dimension_editor");
        QVERIFY(editor->isVisible());
        f.replace(editor, QStringLiteral("0.05 in"));
        CLOSE(f.document().value("gap"), 1.27e-3, 1e-12);
        QVERIFY(!editor->isVisible());
        QTest::mouseClick(&section, Qt::LeftButton, {}, section.label_position("gap")->toPoint());
        f.replace(editor, QStringLiteral("thin"));
        QVERIFY(f.window->notice().contains(QStringLiteral("not a number")));
    }
    void the_sheet_takes_numbers_units_and_formulas() {
        WindowFixture f;
        f.type("edit:stator.slot.tooth_width", QStringLiteral("6.5"));
        QCOMPARE(f.text("stator.slot.tooth_width"), std::string("6.5 mm"));
        f.type("edit:stator.slot.tooth_width", QStringLiteral("= stator.bore_diameter / 9"));
        CLOSE(f.document().value("stator.slot.tooth_width"), 6e-3, 1e-12);
        f.type("edit:stator.bore_diameter", QStringLiteral("55.8"));
        CLOSE(f.document().value("stator.slot.tooth_width"), 6.2e-3, 1e-12);
        auto* row = f.child("row:stator.slot.tooth_width");
        bool formula_shown = false;
        for (auto* label : row->findChildren<QLabel*>()) formula_shown |= label->text().startsWith('=');
        QVERIFY(formula_shown);
        f.type("edit:stator.slot.tooth_width", QStringLiteral("= stator.bore_diameter * 2 V"));
        bool refused = false;
        for (auto* label : row->findChildren<QLabel*>())
            refused |= label->text().contains(QStringLiteral("is wanted"));
        QVERIFY(refused);
    }
    void an_impossible_shape_leaves_a_ghost_and_a_sentence() {
        WindowFixture f;
        QVERIFY(f.settle());
        const auto good = f.document().built();
        f.type("edit:stator.slot.depth", QStringLiteral("30"));
        QVERIFY(!f.document().is_good());
        QVERIFY(f.document().problems().front().sentence.find("7.00 mm beyond") != std::string::npos);
        QVERIFY(f.document().built() == good);
        QVERIFY(f.window->section().label_position("stator.slot.depth").has_value());
        QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(f.document().is_good());
    }
    void row_and_dimension_light_each_other() {
        WindowFixture f;
        SectionView& section = f.window->section();
        QTest::mouseMove(&section, section.handle_position("rotor.magnet.thickness")->toPoint());
        QCoreApplication::processEvents();
        QVERIFY(f.child("row:rotor.magnet.thickness")->isVisible()); // the sheet turned to the rotor
        std::string hot;
        connect(f.child<app::Sheet>(""), &app::Sheet::hovered, this,
                [&](const std::string& path) { hot = path; });
        QEnterEvent enter({5, 5}, {5, 5}, {5, 5});
        QCoreApplication::sendEvent(f.child("row:rotor.magnet.arc"), &enter);
        QCOMPARE(hot, std::string("rotor.magnet.arc"));
    }
    void clicking_a_part_selects_its_sheet() {
        WindowFixture f;
        SectionView& section = f.window->section();
        const QPointF centre = *section.label_position("rotor.shaft_diameter");
        QTest::mouseClick(&section, Qt::LeftButton, {}, (centre + QPointF(0, 90)).toPoint());
        QVERIFY(f.child("row:rotor.magnet.thickness")->isVisible());
        QTest::mouseClick(f.child("part:Rating"), Qt::LeftButton);
        QVERIFY(f.child("row:rating.speed")->isVisible() && !f.child("row:rotor.poles")->isVisible());
    }
    void tell_tales_follow_an_edit() {
        WindowFixture f;
        QVERIFY(f.settle());
        const auto before = f.window->tell_tales().cells();
        QCOMPARE(before.size(), 10U);
        QVERIFY(before[0].quick && !before[4].quick);
        f.document().add_variant(QStringLiteral("more turns"));
        QTest::mouseClick(f.child("part:Winding"), Qt::LeftButton);
        f.type("edit:winding.turns", QStringLiteral("26"));
        QVERIFY(f.settle());
        const auto after = f.window->tell_tales().cells();
        QVERIFY(after[4].value != before[4].value);
        QCOMPARE(after[4].direction, 1);
        QCOMPARE(after[4].verdict, -1);
        QCOMPARE(after[0].verdict, 1); // more torque at the same current
    }
    void undo_reaches_the_project_from_a_field_just_edited() {
        WindowFixture f;
        const double before = f.document().value("stator.slot.tooth_width");
        f.type("edit:stator.slot.tooth_width", QStringLiteral("8"));
        CLOSE(f.document().value("stator.slot.tooth_width"), 8e-3, 1e-9);
        auto* edit = f.child<QLineEdit>("edit:stator.slot.tooth_width");
        QVERIFY(edit->hasFocus());
        QTest::keyClick(edit, Qt::Key_Z, Qt::ControlModifier);
        CLOSE(f.document().value("stator.slot.tooth_width"), before, 1e-9);
        QTest::keyClick(edit, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        CLOSE(f.document().value("stator.slot.tooth_width"), 8e-3, 1e-9);
    }
    void any_region_is_chosen_on_the_drawing() {
        WindowFixture f("vee");
        auto& view = f.window->section();
        const auto built = f.document().built();
        const auto click = [&](Point p) {
            QTest::mouseClick(&view, Qt::LeftButton, {}, view.frame().to_screen(p).toPoint());
            QCoreApplication::processEvents();
        };
        std::set<std::string> seen;
        for (const DrawnBody& body : built->drawing.bodies)
            for (const DrawnRegion& region : body.regions) {
                if (!seen.insert(region.path).second || area(region.polygon) < 3e-6) continue;
                const Point middle = centroid(region.polygon);
                if (!contains(region.polygon, middle)) continue;
                click(middle);
                QCOMPARE(view.selected(), region.path);
            }
        QVERIFY(seen.contains("rotor.magnet") && seen.contains("rotor.pocket") && seen.contains("stator.slot"));
        click(rotated({built->drawing.outer_radius * 0.97, 0}, 0.3)); // beside the ring and its handle
        QCOMPARE(view.selected(), std::string("stator"));
        // Its page opens with the row of its material lit.
        QVERIFY(f.child("row:stator.steel")->isVisible());
    }
    void an_outer_rotor_is_drawn_turned_and_asked() {
        WindowFixture f("outer-surface");
        QVERIFY(f.window->section().label_position("rotor.outer_diameter").has_value());
        QVERIFY(f.child("row:rotor.outer_diameter") && !is_used(f.document().design(), "rotor.shaft_diameter"));
        f.window->show_bench("probe");
        QVERIFY(f.settle());
        QTest::keyClick(&f.window->section(), Qt::Key_Left);
        QVERIFY(f.settle());
        f.window->show_bench("ask");
        f.window->part<AskBench>().ask("cogging");
        QVERIFY(f.settle(400000));
        QCOMPARE(int(f.window->part<AskBench>().card("cogging")->state()), int(AnswerState::Fresh));
    }
    void switching_the_kind_of_rotor_leaves_a_machine() {
        WindowFixture f;
        for (const char* kind : {"inset", "spoke", "bar", "surface"}) {
            f.document().set_text("rotor.kind", QString::fromLatin1(kind));
            QVERIFY2(f.document().is_good(), kind);
            QVERIFY(f.settle());
        }
        QVERIFY(f.window->tell_tales().cells()[1].value != QStringLiteral("–"));
    }
    void variants_come_and_go_with_undo() {
        WindowFixture f;
        f.document().add_variant(QStringLiteral("wide tooth"));
        QCOMPARE(f.document().variant().name, std::string("wide tooth"));
        f.type("edit:stator.slot.tooth_width", QStringLiteral("8"));
        f.document().choose_variant(QStringLiteral("base"));
        CLOSE(f.document().value("stator.slot.tooth_width"), 7e-3, 1e-5);
        f.document().set_reference(QStringLiteral("wide tooth"));
        QVERIFY(f.document().reference()->hash != f.document().built()->hash);
        f.document().remove_variant(QStringLiteral("wide tooth"));
        QCOMPARE(f.document().project().reference, std::string("base"));
        while (f.document().undo_stack().canUndo()) f.document().undo_stack().undo();
        QCOMPARE(f.document().project().variants.size(), 1U);
    }
    void save_and_reopen() {
        WindowFixture f;
        f.type("edit:gap", QStringLiteral("= stator.bore_diameter / 60"));
        QVERIFY(!f.document().undo_stack().isClean());
        QTest::keyClick(f.window.get(), Qt::Key_S, Qt::ControlModifier);
        QVERIFY(f.document().undo_stack().isClean());
        MainWindow second;
        QVERIFY(second.open_file(f.file()));
        QVERIFY(second.document().project() == f.document().project());
        QFile broken(f.file("broken.mavlo"));
        QVERIFY(broken.open(QIODevice::WriteOnly) && broken.write("{\n\n oh") > 0);
        broken.close();
        second.show();
        QVERIFY(!second.open_file(f.file("broken.mavlo")));
        QVERIFY2(second.notice().contains(QStringLiteral("line 3")), qPrintable(second.notice()));
        QVERIFY(second.document().project() == f.document().project()); // the open project stays
    }
    void every_bench_opens_by_key_and_small_windows_fit() {
        WindowFixture f;
        f.window->resize(1024, 700);
        for (int i = 0; i < 5; ++i) {
            QTest::keyClick(f.window.get(), Qt::Key(Qt::Key_1 + i), Qt::ControlModifier);
            QCOMPARE(f.window->bench(), registry<BenchKind>().names()[std::size_t(i)]);
            QVERIFY(f.window->width() <= 1024 && f.window->height() <= 700);
            QVERIFY(!f.window->grab().isNull());
        }
        QTest::keyClick(f.window.get(), Qt::Key_D, Qt::ControlModifier);
        QVERIFY(theme().dark);
        QTest::keyClick(f.window.get(), Qt::Key_D, Qt::ControlModifier);
        QTest::keyClick(f.window.get(), Qt::Key_F1, Qt::ShiftModifier);
        QVERIFY(f.window->findChild<QWidget*>(QStringLiteral("help")));
    }
};
MAVLO_TEST(window, TestWindow, Windows)
#include "test_window.moc"
