// The section to files, a data sheet taken, dimensions typed the other way: in the real window.

#include "app/window_fixture.h"
#include "draw/data_sheet_dialog.h"
#include "draw/shapes/shape_panel.h"
#include "drawing/import.h"
#include "test_program.h"

#include <QClipboard>
#include <QPdfWriter>
#include <QSvgRenderer>

using namespace mavlo;
using namespace mavlo::app;

class TestExport : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void the_section_goes_to_every_kind_of_file() {
        WindowFixture f;
        for (const char* name : {"a.dxf", "a.svg", "a.pdf", "a.png", "a.vtu"}) {
            f.window->export_to(f.file(name));
            QVERIFY(
                QTest::qWaitFor([&] { return f.window->notice().contains(QString::fromLatin1(name)); }, 60000));
            QVERIFY2(QFileInfo(f.file(name)).size() > 2000, name);
        }
        const auto drawing = import_drawing(f.file("a.dxf").toStdString(), {});
        QVERIFY(drawing && drawing->part(DrawnSide::Rotor)->portion.pitches == 10);
        QVERIFY(QSvgRenderer(f.file("a.svg")).isValid());
        QCOMPARE(QImage(f.file("a.png")).size(), f.window->section().size());
        QFile pdf(f.file("a.pdf"));
        QVERIFY(pdf.open(QIODevice::ReadOnly) && pdf.readAll().startsWith("%PDF"));
    }
    void what_cannot_be_written_says_so() {
        WindowFixture f;
        f.window->export_to(QStringLiteral("/nonexistent/a.dxf"));
        QVERIFY(f.window->notice().contains(QStringLiteral("cannot be written")));
        f.window->export_to(f.file("a.xyz"));
        QVERIFY(f.window->notice().contains(QStringLiteral(".vtu")));
        f.document().set_text("gap", "400 mm");
        f.window->export_to(f.file("b.dxf"));
        QVERIFY(f.window->notice().contains(QStringLiteral("nothing is written")));
        QVERIFY(!QFileInfo::exists(f.file("b.dxf")));
    }
    void a_data_sheet_is_pasted_corrected_and_taken() {
        WindowFixture f;
        QTest::keyClick(f.window.get(), Qt::Key_T, Qt::ControlModifier);
        auto* dialog = f.window->findChild<DataSheetDialog*>();
        QVERIFY(dialog && dialog->isVisible());
        QVERIFY(!f.child("data_sheet_take")->isEnabled());
        QApplication::clipboard()->setText(QStringLiteral(
            "Stator OD 110 mm\nStator ID 60\nrotor diameter 58.6\nslots 15\nair gap 0.9\nfrills 3\n"));
        QTest::keyClick(dialog, Qt::Key_V, Qt::ControlModifier);
        auto* table = f.child<QTableWidget>("data_sheet_table");
        QCOMPARE(table->item(0, 2)->text(), QStringLiteral("Outer diameter"));
        QVERIFY(table->item(5, 2)->text().contains(QStringLiteral("Not understood")));
        const QString words = f.child<QLabel>("data_sheet_words")->text();
        QVERIFY2(words.contains(QStringLiteral("58.6")) && words.contains(QStringLiteral("58.2")),
                 qPrintable(words));
        QVERIFY(words.contains(QStringLiteral("Stack length")));
        // The contradiction is settled in the table.
        table->item(4, 1)->setText(QStringLiteral("0.7"));
        QVERIFY(!f.child<QLabel>("data_sheet_words")->text().contains(QStringLiteral("Contradictions")));
        QTest::mouseClick(f.child("data_sheet_take"), Qt::LeftButton);
        QCOMPARE(f.text("stator.slots"), std::string("15"));
        QCOMPARE(f.text("gap"), std::string("0.7 mm"));
        f.document().undo_stack().undo();
        QCOMPARE(f.text("stator.slots"), std::string("12"));
    }
    void equivalents_are_typed_and_formulas_freed() {
        WindowFixture f;
        auto* rotor = f.child<QLineEdit>("edit:rotor_diameter");
        CLOSE(rotor->text().toDouble(),
              1e3 * (f.document().value("stator.bore_diameter") - 2 * f.document().value("gap")), 1e-3);
        QTest::mouseClick(rotor, Qt::LeftButton);
        WindowFixture::replace(rotor, QStringLiteral("52.4"));
        CLOSE(f.document().value("gap"), 0.8e-3, 1e-9);
        QVERIFY(f.text("gap").starts_with("="));
        // The formula keeps the rotor while the bore grows; freed, the gap keeps its value.
        f.document().set_text("stator.bore_diameter", "54.2 mm");
        CLOSE(f.document().value("gap"), 0.9e-3, 1e-9);
        auto* free = f.child<QPushButton>("free:gap");
        QVERIFY(free->isVisible());
        QTest::mouseClick(free, Qt::LeftButton);
        QCOMPARE(f.text("gap"), std::string("0.9 mm"));
        QVERIFY(!free->isVisible());
        WindowFixture::replace(rotor, QStringLiteral("5 kg"));
        CLOSE(f.document().value("gap"), 0.9e-3, 1e-12);
        QVERIFY(f.document().is_good());
    }
};
MAVLO_TEST(export, TestExport, Windows)
#include "test_export.moc"
