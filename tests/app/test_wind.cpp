// Wind: coil sides dragged on the belt, coils by table, alternatives, the conductor found and packed, the
// waves.

#include "app/window_fixture.h"
#include "section/phase_focus.h"
#include "test_program.h"
#include "wind/belt.h"
#include "wind/coil_editor.h"
#include "wind/slot_view.h"
#include "winding/balance.h"
#include "winding/coil_table.h"

#include <QClipboard>
#include <QSlider>

using namespace mavlo;
using namespace mavlo::app;

namespace {

const WindingLayout& layout_of(WindowFixture& f) {
    return f.document().built()->machine.winding.layout;
}

void open_page(WindowFixture& f, const char* page) {
    f.window->show_bench("wind");
    QTest::mouseClick(f.child((std::string("wind:") + page).c_str()), Qt::LeftButton);
}

} // namespace

class TestWind : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_coil_side_is_dragged_to_another_slot() {
        WindowFixture f;
        f.window->show_bench("wind");
        auto* belt = f.child<Belt>("belt");
        QVERIFY(!layout_of(f).by_hand);
        const CoilSide from{0, 1}, to{3, 1};
        const auto before = side_at(layout_of(f).coils, from);
        f.drag(belt, belt->side_box(from).center(), belt->side_box(to).center());
        QVERIFY(layout_of(f).by_hand);
        const Coil& moved = layout_of(f).coils[std::size_t(before.coil)];
        QVERIFY((before.go ? moved.go : moved.back) == to);
        QVERIFY(!judge_balance(layout_of(f)).balanced());
        open_page(f, "Coils");
        QVERIFY(f.child<QLabel>("coil_balance")->text().contains(QStringLiteral("Phase")));
        f.document().undo_stack().undo();
        QVERIFY(!layout_of(f).by_hand);
    }
    void a_coil_side_is_dragged_on_the_section() {
        WindowFixture f("surface-distributed");
        f.window->show_bench("wind");
        auto* section = f.window->findChild<SectionView*>();
        const auto middle = [&](CoilSide side) {
            for (const DrawnRegion& r : f.document().built()->drawing.stator().regions)
                if (r.use == Use::Conductor && r.pitch == side.slot && r.layer == side.layer)
                    return section->frame().to_screen(centroid(r.polygon));
            return QPointF();
        };
        const CoilSide from{2, 0}, to{5, 0};
        const auto before = side_at(layout_of(f).coils, from), other = side_at(layout_of(f).coils, to);
        f.drag(section, middle(from), middle(to));
        QVERIFY(layout_of(f).by_hand);
        QCOMPARE(side_at(layout_of(f).coils, to).coil, before.coil);
        QCOMPARE(side_at(layout_of(f).coils, from).coil, other.coil);
        f.document().undo_stack().undo();
        QVERIFY(!layout_of(f).by_hand);
        // Let go on the ground nothing moves; nor on Probe, where the hand is another.
        f.drag(section, middle(from), section->frame().to_screen({}));
        QVERIFY(!layout_of(f).by_hand);
        f.window->show_bench("probe");
        f.drag(section, middle(from), middle(to));
        QVERIFY(!layout_of(f).by_hand);
    }
    void one_phase_alone() {
        WindowFixture f;
        f.window->show_bench("wind");
        auto* belt = f.child<Belt>("belt");
        QTest::mouseClick(belt, Qt::LeftButton, {}, belt->phase_box(1).center().toPoint());
        QCOMPARE(PhaseFocus::shared().phase(), 1);
        QTest::mouseClick(belt, Qt::LeftButton, {}, belt->phase_box(1).center().toPoint());
        QCOMPARE(PhaseFocus::shared().phase(), -1);
    }
    void the_belt_zooms_and_scrolls() {
        WindowFixture f("surface-distributed");
        f.window->show_bench("wind");
        auto* belt = f.child<Belt>("belt");
        const double before = belt->side_box({0, 0}).width();
        const QPointF at(belt->width() / 2.0, 90);
        for (int i = 0; i < 4; ++i) {
            QWheelEvent wheel(at, belt->mapToGlobal(at), {}, {0, 120}, Qt::NoButton, Qt::NoModifier,
                              Qt::NoScrollPhase, false);
            QCoreApplication::sendEvent(belt, &wheel);
        }
        QVERIFY(belt->side_box({0, 0}).width() >= before);
        const double left = belt->side_box({0, 0}).left();
        f.drag(belt, {belt->width() / 2.0, 30}, {belt->width() / 2.0 - 60, 30});
        QVERIFY(belt->side_box({0, 0}).left() <= left);
    }
    void coils_as_a_table() {
        WindowFixture f;
        open_page(f, "Coils");
        auto* editor = f.window->findChild<CoilEditor*>();
        auto* table = f.child<QTableWidget>("coil_table");
        const int coils = table->rowCount();
        QCOMPARE(coils, int(layout_of(f).coils.size()));
        table->item(0, 4)->setText(QStringLiteral("9"));
        QVERIFY(layout_of(f).by_hand);
        CLOSE(layout_of(f).coils[0].turns, 9, 0);
        table->item(0, 5)->setText(QStringLiteral("Q"));
        QVERIFY(f.child<QLabel>("coil_words")->text().contains(QStringLiteral("no phase")));
        QTest::mouseClick(f.child("coil_back"), Qt::LeftButton);
        QVERIFY(!layout_of(f).by_hand);
        // Copied, changed, pasted.
        editor->setFocus();
        QTest::keyClick(editor, Qt::Key_C, Qt::ControlModifier);
        QString text = QGuiApplication::clipboard()->text();
        QVERIFY(text.startsWith(QStringLiteral("coil,")));
        QGuiApplication::clipboard()->setText(text.replace(QStringLiteral(",U"), QStringLiteral(",-U")));
        QTest::keyClick(editor, Qt::Key_V, Qt::ControlModifier);
        QVERIFY(layout_of(f).by_hand);
        QVERIFY(f.child<QLabel>("coil_balance")->text().contains(QStringLiteral("180")) ||
                !judge_balance(layout_of(f)).balanced());
        table->selectRow(2);
        QTest::mouseClick(f.child("coil_remove"), Qt::LeftButton);
        QCOMPARE(table->rowCount(), coils - 1);
        QTest::mouseClick(f.child("coil_add"), Qt::LeftButton);
        QCOMPARE(table->rowCount(), coils);
        QVERIFY(!editor->take_table(QStringLiteral("nonsense")));
    }
    void an_alternative_is_taken() {
        WindowFixture f("surface-distributed");
        open_page(f, "Layout");
        auto* table = f.child<QTableWidget>("alternatives");
        QVERIFY(table->rowCount() >= 4);
        int row = 0;
        while (row < table->rowCount() && !table->item(row, 0)->text().contains(QStringLiteral("concentric")))
            ++row;
        QVERIFY(row < table->rowCount());
        table->scrollToItem(table->item(row, 0));
        QTest::mouseClick(table->viewport(), Qt::LeftButton, {},
                          table->visualItemRect(table->item(row, 0)).center());
        QCOMPARE(f.document().design().text("winding.form"), std::string("concentric"));
        QVERIFY(f.document().is_good());
        QCOMPARE(layout_of(f).input.layers, 1);
    }
    void conductors_are_found_and_packed() {
        WindowFixture f;
        open_page(f, "Conductor");
        auto* slot = f.child<SlotView>("slot_view");
        slot->grab();
        QVERIFY2(slot->words().startsWith(QStringLiteral("All")), qPrintable(slot->words()));
        auto* kind = f.child<QComboBox>("wanted_kind");
        kind->setCurrentIndex(2); // a current density
        f.type("wanted_resistance", QStringLiteral("5"));
        const Machine& m = f.document().built()->machine;
        const double density =
            m.rating.current / std::sqrt(2.0) / (m.winding.paths * machine_conductor(m).size.area);
        CLOSE(density, 5e6, 5e3);
        auto* options = f.child<QTableWidget>("conductor_options");
        QCOMPARE(options->rowCount(), 5); // exact, two metric, two gauges
        QTest::mouseClick(options->viewport(), Qt::LeftButton, {},
                          options->visualItemRect(options->item(1, 0)).center());
        QVERIFY(options->item(1, 0)->text().startsWith(
            QString::number(f.document().value("winding.conductor.diameter") * 1e3, 'f', 3)));
        f.document().set_text("winding.conductor.diameter", QStringLiteral("4 mm"));
        slot->grab();
        QVERIFY2(slot->words().contains(QStringLiteral("instead of")), qPrintable(slot->words()));
    }
    void the_waves_move_and_are_named() {
        WindowFixture f;
        open_page(f, "Waves");
        f.window->grab();
        QVERIFY(f.child<QLabel>("harmful_waves")->text().contains(QStringLiteral("Order")));
        f.child<QSlider>("mmf_instant")->setValue(60);
        for (int kind : {1, 2, 0}) f.child<QComboBox>("wave_kind")->setCurrentIndex(kind);
        QVERIFY(f.child<QLabel>("harmful_waves")->isVisible());
    }
};
MAVLO_TEST(wind, TestWind, Windows)
#include "test_wind.moc"
