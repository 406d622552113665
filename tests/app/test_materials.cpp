// The shelf of materials in the real window: copied, pasted, judged, mended, taken; the figures follow.

#include "app/window_fixture.h"
#include "materials/material_shelf.h"
#include "test_program.h"

#include <QClipboard>
#include <QTableWidget>

using namespace mavlo;
using namespace mavlo::app;

namespace {

MaterialShelf* open_shelf(WindowFixture& f, const char* name = "") {
    if (*name)
        f.window->show_materials(name);
    else
        QTest::keyClick(f.window.get(), Qt::Key_M, Qt::ControlModifier);
    return f.window->findChild<MaterialShelf*>();
}

/// A weak steel in Oe and kG whose end is flatter than vacuum.
QString bad_table() {
    QString text = QStringLiteral("Sheet no. 7\nH (Oe)\tB (kG)\n");
    for (double h = 40; h < 2e4; h *= 1.4) {
        const double b = 1.5 * h / (h + 400) + mu0 * h;
        text += QStringLiteral("%1\t%2\n").arg(h * M_PI / 250, 0, 'g', 6).arg(10 * b, 0, 'g', 6);
    }
    return text + QStringLiteral("400\t15.36\n700\t15.37\n1100\t15.38\n");
}

} // namespace

class TestMaterials : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void shelf_records_are_read_only() {
        WindowFixture f;
        auto* shelf = open_shelf(f);
        QVERIFY(shelf && shelf->isVisible());
        QCOMPARE(shelf->hand().name(), f.text("stator.steel"));
        QVERIFY(f.child<QLineEdit>("material_name")->isReadOnly());
        QVERIFY(!f.child("bh_paste")->isVisible());
        const Project before = f.document().project();
        QApplication::clipboard()->setText(bad_table());
        f.child("bh_table")->setFocus();
        QTest::keyClick(f.child("bh_table"), Qt::Key_V, Qt::ControlModifier);
        QVERIFY(f.document().project() == before);
    }
    void a_pasted_curve_with_a_bad_tail_is_mended_and_the_figures_move() {
        WindowFixture f;
        QVERIFY(f.settle());
        const double torque = f.window->tell_tales().cells()[0].value.toDouble();
        open_shelf(f);
        QTest::mouseClick(f.child("material_copy"), Qt::LeftButton);
        const std::string own = f.window->findChild<MaterialShelf*>()->hand().name();
        QVERIFY(f.document().project().materials.contains(own));
        WindowFixture::replace(f.child<QLineEdit>("material_name"), QStringLiteral("soft sheet"));
        QVERIFY(f.document().project().materials.contains("soft sheet"));
        QApplication::clipboard()->setText(bad_table());
        QTest::mouseClick(f.child("bh_paste"), Qt::LeftButton);
        QCOMPARE(f.child<QComboBox>("bh_h_unit")->currentText(), QStringLiteral("Oe"));
        QCOMPARE(f.child<QComboBox>("bh_b_unit")->currentText(), QStringLiteral("kG"));
        auto* words = f.child<FindingList>("bh_findings");
        QVERIFY2(words->all_words().contains(QStringLiteral("flatter than vacuum")),
                 qPrintable(words->all_words()));
        QVERIFY(!f.child("bh_take")->isEnabled());
        QVERIFY(f.child("bh_mend")->isEnabled());
        // A click on the sentence goes to its row.
        for (int i = 0; i < words->count(); ++i)
            if (words->item(i)->text().contains(QStringLiteral("flatter"))) {
                QTest::mouseClick(words->viewport(), Qt::LeftButton, {},
                                  words->visualItemRect(words->item(i)).center());
                break;
            }
        QVERIFY(f.child<QTableWidget>("bh_table")->currentRow() > 10);
        QTest::mouseClick(f.child("bh_mend"), Qt::LeftButton);
        QVERIFY2(words->all_words().contains(QStringLiteral("law of approach")),
                 qPrintable(words->all_words()));
        QVERIFY(f.document().project().materials.at("soft sheet").curve ==
                shipped_materials().at("M330-35A").curve);
        QTest::mouseClick(f.child("bh_take"), Qt::LeftButton);
        const BhCurve& curve = f.document().project().materials.at("soft sheet").curve;
        CLOSE(curve.flux_density(1000), 1.5 * 1000 / 1400 + mu0 * 1000, 0.01);
        QVERIFY(curve.points().back().b < 2.6);
        // The machine takes it by its name.
        f.window->findChild<MaterialShelf*>()->close();
        f.document().set_text("stator.steel", "soft sheet");
        f.document().set_text("rotor.steel", "soft sheet");
        QVERIFY(f.document().is_good());
        QVERIFY(f.settle());
        QVERIFY(std::abs(f.window->tell_tales().cells()[0].value.toDouble() - torque) > 0.01 * torque);
        // It is kept with the project, and undone step by step.
        QVERIFY(!f.document().save(f.file()));
        QVERIFY(read_project(f.file().toStdString())->materials.at("soft sheet").curve == curve);
        for (int i = 0; i < 5; ++i) f.document().undo_stack().undo();
        QVERIFY(f.document().project().materials.empty());
    }
    void cells_are_typed_and_rows_deleted() {
        WindowFixture f;
        open_shelf(f);
        QTest::mouseClick(f.child("material_copy"), Qt::LeftButton);
        auto* table = f.child<NumberTable>("bh_table");
        table->item(5, 1)->setText(QStringLiteral("0,55"));
        QVERIFY(f.child("bh_drop")->isEnabled());
        QTest::mouseClick(f.child("bh_drop"), Qt::LeftButton);
        QCOMPARE(table->item(5, 1)->text(), QStringLiteral("0.5"));
        table->item(5, 1)->setText(QStringLiteral("much"));
        QCOMPARE(table->item(5, 1)->text(), QStringLiteral("0.5"));
        const int rows = table->rowCount();
        table->selectRow(3);
        QTest::keyClick(table, Qt::Key_Delete);
        QCOMPARE(table->rowCount(), rows - 1);
        QTest::mouseClick(f.child("bh_take"), Qt::LeftButton);
        const auto& own = f.document().project().materials.begin()->second;
        QCOMPARE(int(own.curve.points().size()), rows - 1);
    }
    void losses_are_pasted_and_a_law_is_chosen() {
        WindowFixture f;
        auto* shelf = open_shelf(f);
        QTest::mouseClick(f.child("material_copy"), Qt::LeftButton);
        shelf->findChild<QTabWidget*>()->setCurrentIndex(1);
        QString text = QStringLiteral("B in T;50 Hz;200 Hz;400 Hz\n");
        for (double b : {0.5, 1.0, 1.5})
            text += QStringLiteral("%1;%2;%3;%4\n")
                        .arg(b)
                        .arg(std::pow(b, 2) * 1.5)
                        .arg(std::pow(b, 2) * 1.5 * std::pow(4, 1.4))
                        .arg(std::pow(b, 2) * 1.5 * std::pow(8, 1.4))
                        .replace('.', ',');
        shelf->findChild<LossPage*>()->paste(text);
        auto* law = f.child<QComboBox>("loss_law");
        law->setFocus();
        QTest::keyClick(law, Qt::Key_Down);
        const Material& own = f.document().project().materials.begin()->second;
        QVERIFY(own.loss.law == LossLaw::Power);
        CLOSE(own.loss.alpha, 1.4, 1e-3); // the table follows a power law exactly
        CLOSE(own.loss.exponent, 2, 1e-3);
        QVERIFY(own.loss.fit_error < 1e-3);
        QCOMPARE(own.loss.points.size(), std::size_t(9));
    }
    void a_demagnetisation_curve_gives_the_magnets_figures() {
        WindowFixture f;
        auto* shelf = open_shelf(f, "NdFeB 310/130");
        auto* page = shelf->findChild<MagnetPage*>();
        QVERIFY(QTest::qWaitFor([&] { return page->is_idle(); }, 20000));
        QVERIFY2(shelf->findChild<FindingList*>("magnet_words")
                     ->all_words()
                     .contains(QStringLiteral("permeance coefficient")),
                 qPrintable(shelf->findChild<FindingList*>("magnet_words")->all_words()));
        QTest::mouseClick(f.child("material_copy"), Qt::LeftButton);
        page->paste(
            QStringLiteral(
                "H (kOe)\tJ (kG)\n0\t12\n-4\t11.95\n-8\t11.9\n-12\t11.85\n-14\t11.5\n-15\t8\n-15.5\t0\n"),
            293.15);
        const MagnetData& data = f.document().project().materials.begin()->second.magnet;
        CLOSE(data.remanence, 1.2, 1e-3);
        CLOSE(data.coercivity, 15500 * 250 / M_PI, 1e3);
        CLOSE(data.recoil_mu_r, 1 + 1e-4 * 12.5 / (1e3 * 250 / M_PI * 0.1) / mu0 / 10, 0.02); // 0.0125 kG a kOe
        // Remanence typed over, in another unit.
        auto* field = f.child<QLineEdit>("property:Remanence at 20 °C");
        WindowFixture::replace(field, QStringLiteral("1150 mT"));
        CLOSE(f.document().project().materials.begin()->second.magnet.remanence, 1.15, 1e-9);
        WindowFixture::replace(field, QStringLiteral("7 mm"));
        CLOSE(f.document().project().materials.begin()->second.magnet.remanence, 1.15, 1e-9);
    }
    void materials_in_use_are_not_removed_and_names_are_unique() {
        WindowFixture f;
        auto* shelf = open_shelf(f);
        QTest::mouseClick(f.child("material_copy"), Qt::LeftButton);
        const std::string own = shelf->hand().name();
        f.document().set_text("stator.steel", QString::fromStdString(own));
        QVERIFY(f.child<QLabel>("material_uses")->text().contains(QStringLiteral("Stator steel")));
        QVERIFY(!f.child("material_remove")->isEnabled());
        WindowFixture::replace(f.child<QLineEdit>("material_name"), QStringLiteral("copper"));
        QCOMPARE(shelf->hand().name(), own);
        QVERIFY(f.child<QLabel>("material_uses")->text().contains(QStringLiteral("already")));
        WindowFixture::replace(f.child<QLineEdit>("material_name"), QStringLiteral("ours"));
        QCOMPARE(f.text("stator.steel"), std::string("ours")); // its uses follow
        f.document().set_text("stator.steel", QStringLiteral("M400-50A"));
        QTest::mouseClick(f.child("material_remove"), Qt::LeftButton);
        QVERIFY(f.document().project().materials.empty());
        // The search leaves what fits.
        QTest::keyClicks(f.child<QLineEdit>("material_search"), QStringLiteral("M800"));
        auto* tree = f.child<QTreeWidget>("material_list");
        int shown = 0;
        for (int i = 0; i < tree->topLevelItem(0)->childCount(); ++i)
            shown += !tree->topLevelItem(0)->child(i)->isHidden();
        QCOMPARE(shown, 2);
    }
};
MAVLO_TEST(materials, TestMaterials, Windows)
#include "test_materials.moc"
