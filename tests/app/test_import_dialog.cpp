// A drawing taken into the design in the real window: shown, corrected by a click, taken, undone.

#include "app/window_fixture.h"
#include "draw/import_dialog.h"
#include "drawing/section.h"
#include "shape/dxf/writer.h"
#include "test_program.h"

#include <QMenu>
#include <QMouseEvent>
#include <fstream>

using namespace mavlo;
using namespace mavlo::app;

namespace {

/// Until the drawing has been read as it was asked for.
bool settled(WindowFixture& f) {
    return QTest::qWaitFor([&] { return f.window->findChild<ImportDialog*>()->is_idle(); }, 60000);
}

ImportDialog* open(WindowFixture& f, const QString& file) {
    f.window->import_part(file);
    if (!settled(f)) qFatal("the drawing is not read");
    return f.window->findChild<ImportDialog*>(QStringLiteral("import"));
}

QString drawing_of(WindowFixture& f, const char* shape) {
    const Machine m = machine_of(new_project(shape)->variants.front().design);
    const SectionPieces section = section_pieces(m, Shown::Whole);
    const QString file = f.file("part.dxf");
    std::ofstream(file.toStdString()) << dxf_text(section.pieces, section.layers);
    return file;
}

} // namespace

class TestImportDialog : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_rotor_is_shown_taken_and_undone() {
        WindowFixture f("bar");
        auto* dialog = open(f, drawing_of(f, "bar"));
        QVERIFY(dialog && dialog->isVisible());
        QVERIFY(f.child<QLabel>("import_words")->text().contains(QStringLiteral("rotor: 6 poles")));
        QVERIFY(f.child<QLabel>("import_words")->text().contains(QStringLiteral("magnet: 6")));
        QTest::mouseClick(f.child("import_take"), Qt::LeftButton);
        QCOMPARE(f.text("rotor.kind"), std::string("drawn"));
        QVERIFY2(f.document().is_good(),
                 f.document().is_good() ? "" : f.document().problems().front().sentence.c_str());
        QVERIFY(f.settle());
        QVERIFY(f.window->tell_tales().cells()[0].value.toDouble() > 1); // it gives torque
        QVERIFY(f.window->document().save(f.file()) == std::nullopt);
        QVERIFY(read_project(f.file().toStdString())->variants.front().design == f.document().design());
        f.document().undo_stack().undo();
        QCOMPARE(f.text("rotor.kind"), std::string("bar"));
    }
    void another_number_of_poles_is_taken_where_it_comes_out() {
        WindowFixture f("surface-halbach");
        open(f, drawing_of(f, "surface-halbach"));
        auto* words = f.child<QLabel>("import_words");
        QVERIFY(words->text().contains(QStringLiteral("rotor: 10 poles")));
        auto* pitches = f.child<QLineEdit>("import_pitches");
        QCOMPARE(pitches->placeholderText(), QStringLiteral("as it repeats"));
        f.type("import_pitches", QStringLiteral("2"));
        QVERIFY(settled(f));
        QVERIFY2(words->text().contains(QStringLiteral("rotor: 2 poles")), qPrintable(words->text()));
        f.type("import_pitches", QStringLiteral("14"));
        QVERIFY(settled(f));
        QVERIFY2(words->text().contains(QStringLiteral("repeats")), qPrintable(words->text()));
        QVERIFY(!f.child("import_take")->isEnabled());
        f.child<QComboBox>("import_part")->setCurrentIndex(2);
        QVERIFY(!pitches->isEnabled()); // of both parts each repeats as it does
    }
    void a_click_corrects_a_region_and_its_like() {
        WindowFixture f("bar");
        auto* dialog = open(f, drawing_of(f, "bar"));
        auto* canvas = dialog->findChild<ImportCanvas*>();
        const Machine m = machine_of(new_project("bar")->variants.front().design);
        Point magnet{};
        for (const Region& r : m.section.rotor().tile.regions)
            if (r.use == Use::Magnet) magnet = r.seed;
        QTest::mouseClick(canvas, Qt::LeftButton, {}, canvas->frame().to_screen(magnet).toPoint());
        QVERIFY(settled(f));
        const QString words = f.child<QLabel>("import_words")->text();
        QVERIFY2(!words.contains(QStringLiteral("magnet:")) && words.contains(QStringLiteral("air: 18")),
                 qPrintable(words));
        dialog->reject();
        QCOMPARE(f.text("rotor.kind"), std::string("bar"));
    }
    void list_and_drawing_are_joined() {
        WindowFixture f("bar");
        auto* dialog = open(f, drawing_of(f, "bar"));
        auto* canvas = dialog->findChild<ImportCanvas*>();
        auto* list = dialog->findChild<ImportList*>();
        const Machine m = machine_of(new_project("bar")->variants.front().design);
        Point magnet{};
        for (const Region& r : m.section.rotor().tile.regions)
            if (r.use == Use::Magnet) magnet = r.seed;
        // Six magnets are one row; pointing at one on the drawing lights it.
        const QPointF over = canvas->frame().to_screen(magnet);
        QMouseEvent move(QEvent::MouseMove, over, canvas->mapToGlobal(over), Qt::NoButton, Qt::NoButton, {});
        QCoreApplication::sendEvent(canvas, &move);
        QVERIFY(list->currentItem());
        QCOMPARE(list->currentItem()->text(2), QStringLiteral("6"));
        auto* role = qobject_cast<QComboBox*>(list->itemWidget(list->currentItem(), 1));
        QVERIFY(role);
        QCOMPARE(role->currentData().toString(), QStringLiteral("magnet"));
        role->setFocus();
        QTest::keyClicks(role, QStringLiteral("air"));
        QVERIFY(settled(f));
        QVERIFY(!f.child<QLabel>("import_words")->text().contains(QStringLiteral("magnet:")));
        // And back by the right button on the drawing.
        QTest::mouseClick(canvas, Qt::RightButton, {}, canvas->frame().to_screen(magnet).toPoint());
        auto* menu = canvas->findChild<QMenu*>(QStringLiteral("import_roles"));
        QVERIFY(menu);
        for (QAction* action : menu->actions())
            if (action->text() == QStringLiteral("magnet")) action->trigger();
        menu->close();
        QVERIFY(settled(f));
        QVERIFY(f.child<QLabel>("import_words")->text().contains(QStringLiteral("magnet: 6")));
        dialog->reject();
    }
    void what_cannot_be_read_is_said_and_not_taken() {
        WindowFixture f;
        const QString file = f.file("broken.dxf");
        std::ofstream(file.toStdString()) << "  0\nSECTION\n  2\nENTITIES\n";
        open(f, file);
        QVERIFY(f.child<QLabel>("import_words")->text().contains(QStringLiteral("cut off")));
        QVERIFY(!f.child<QPushButton>("import_take")->isEnabled());
        f.child<QLineEdit>("import_tolerance")->setText(QStringLiteral("3 kg"));
        QTest::keyClick(f.child<QLineEdit>("import_tolerance"), Qt::Key_Return);
        QVERIFY(f.child<QLabel>("import_words")->text().contains(QStringLiteral("up to 1 mm")));
    }
    void an_arrow_is_turned_with_its_like_in_the_other_poles() {
        WindowFixture f("vee");
        auto* dialog = open(f, drawing_of(f, "vee"));
        auto* canvas = dialog->findChild<ImportCanvas*>();
        int number = 0;
        while (!canvas->arrow_head(number)) ++number;
        const QPointF head = *canvas->arrow_head(number);
        QTest::mousePress(canvas, Qt::LeftButton, {}, head.toPoint());
        QVERIFY(f.child<QLineEdit>("import_direction")->isEnabled());
        QTest::mouseRelease(canvas, Qt::LeftButton, {}, head.toPoint());
        QVERIFY(settled(f));
        const double before = f.child<QLineEdit>("import_direction")->text().toDouble();
        // Typed: ten degrees further; taken and built, the flux falls but little.
        WindowFixture::replace(f.child<QLineEdit>("import_direction"), QString::number(before + 10));
        QVERIFY(settled(f));
        CLOSE(std::remainder(f.child<QLineEdit>("import_direction")->text().toDouble() - before - 10, 360), 0,
              1e-6);
        QTest::mouseClick(f.child("import_take"), Qt::LeftButton);
        QVERIFY2(f.document().is_good(),
                 f.document().is_good() ? "" : f.document().problems().front().sentence.c_str());
        std::vector<double> directions;
        for (const Region& r : f.document().built()->machine.section.rotor().tile.regions)
            if (r.magnet) directions.push_back(r.magnet->angle);
        QVERIFY(!directions.empty());
        const Machine m = machine_of(new_project("vee")->variants.front().design);
        double own = 0;
        for (const Region& r : m.section.rotor().tile.regions)
            if (r.magnet) own = r.magnet->angle;
        CLOSE(std::abs(std::abs(std::remainder(directions[0] - own, 2 * M_PI)) * 180 / M_PI), 10, 0.2);
    }
    void open_ends_stand_on_the_drawing() {
        WindowFixture f("bar");
        const Machine m = machine_of(new_project("bar")->variants.front().design);
        SectionPieces section = section_pieces(m, Shown::Whole);
        // A line of the yoke is missing its half.
        for (Piece& p : section.pieces)
            if (p.straight() && length_of(p) > 2e-3) {
                p = part_of(p, 0, 0.5);
                break;
            }
        const QString file = f.file("open.dxf");
        std::ofstream(file.toStdString()) << dxf_text(section.pieces, section.layers);
        open(f, file);
        QVERIFY(!f.child("import_take")->isEnabled());
        QVERIFY(f.child<QLabel>("import_words")->text().contains(QStringLiteral("ends open")));
        const OpenDrawing drawing = open_drawing(*read_dxf(file.toStdString()), {});
        QCOMPARE(drawing.ends.size(), std::size_t(2));
        QVERIFY(drawing.pieces.size() > 20);
    }
};
MAVLO_TEST(import_dialog, TestImportDialog, Windows)
#include "test_import_dialog.moc"
