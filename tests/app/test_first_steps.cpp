// First steps, each noticed as it is done with mouse and keys; F1 at what is under the cursor; sentences that
// lead to their rows.

#include "app/window_fixture.h"
#include "ask/question_card.h"
#include "shell/explain.h"
#include "shell/first_steps.h"
#include "test_program.h"
#include "weigh/sweep_page.h"

#include <QMenu>

using namespace mavlo;
using namespace mavlo::app;

class TestFirstSteps : public QObject {
    Q_OBJECT

    static bool is_done(WindowFixture& f, int step) {
        return f.child<QPushButton>(qPrintable(QStringLiteral("first_step:%1").arg(step)))
            ->text()
            .startsWith(QStringLiteral("✓"));
    }

    /// Where its underlined word stands; the first one.
    static void click_link(RefusalLabel& label) {
        QVERIFY(label.isVisible());
        bool led = false;
        const auto seen = QObject::connect(&label, &RefusalLabel::place_wanted, [&] { led = true; });
        for (int x = 2; x < label.width() && !led; x += 4)
            QTest::mouseClick(&label, Qt::LeftButton, {},
                              QPoint(x + label.contentsMargins().left(), label.contentsMargins().top() + 8));
        QObject::disconnect(seen);
        QVERIFY(led);
    }

  private Q_SLOTS:
    void each_is_noticed_when_it_is_done() {
        WindowFixture f;
        f.document().undo_stack().setClean();
        f.window->show_start();
        QTest::mouseClick(f.child("start_first_steps"), Qt::LeftButton);
        auto* steps = f.child<FirstSteps>("first_steps");
        QVERIFY(steps->isVisible());
        QVERIFY(steps->count() >= 12);
        QTest::qWait(700);
        for (int k = 0; k < steps->count(); ++k) QVERIFY2(!is_done(f, k), qPrintable(QString::number(k)));
        auto* section = f.child<SectionView>("section");
        section->setFocus();
        QTest::keyClick(section, Qt::Key_Left);
        QTRY_VERIFY(is_done(f, 0));
        QTest::keyClick(section, Qt::Key_P);
        QTRY_VERIFY(is_done(f, 1));
        QTest::keyClick(section, Qt::Key_C);
        QTRY_VERIFY(is_done(f, 2));
        QTest::keyClick(section, Qt::Key_Escape);
        f.type("edit:gap", QString::number(f.document().value("gap") * 1.1e3) + QStringLiteral(" mm"));
        QTRY_VERIFY(is_done(f, 3));
        QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
        QTRY_VERIFY(is_done(f, 4));
        QVERIFY(!is_done(f, 6));
        QTest::keyClick(f.window.get(), Qt::Key_2, Qt::ControlModifier);
        QTRY_VERIFY(is_done(f, 6));
        const int before = steps->done();
        QTest::mouseClick(f.child("first_step:7"), Qt::LeftButton); // it leads to the bench
        QCOMPARE(f.window->bench(), std::string("probe"));
        QTRY_COMPARE(steps->done(), before + 1);
        f.drag(steps, {150, 4}, {190, 44});
        QTest::mouseClick(f.child("first_steps_close"), Qt::LeftButton);
        QVERIFY(!steps->isVisible());
    }
    void what_is_under_the_cursor_is_explained() {
        WindowFixture f;
        const Parameter* gap = find_parameter("gap", f.document().design());
        const QString told = explanation_of(f.child<QLineEdit>("edit:gap"));
        QVERIFY2(told.contains(QString::fromStdString(gap->help)), qPrintable(told));
        f.window->show_bench("ask");
        QVERIFY(explanation_of(f.window->part<AskBench>().card("cogging")).contains(QStringLiteral("wavers")));
        QVERIFY(explanation_of(nullptr).isEmpty());
        // Every widget of the window that takes keys says something of itself, or what holds it does.
        Explain explain(f.window.get());
        QVERIFY(explain.explain(f.child("tell_tales"), {100, 100}));
        QVERIFY(explain.isVisible() && explain.text().contains(QStringLiteral("F1 once more")));
        QVERIFY(!explain.explain(f.child("tell_tales"), {100, 100})); // then the page of keys comes
        QVERIFY(!explain.isVisible());
    }
    void a_refusal_leads_to_its_row() {
        WindowFixture f;
        QTest::mouseClick(f.child("part:Winding"), Qt::LeftButton);
        QVERIFY(!f.document().set_text("rotor.shaft_diameter", QStringLiteral("500 mm")));
        QVERIFY(!f.document().is_good());
        auto* section = f.child<SectionView>("section");
        section->grab();
        QVERIFY(!section->problem_box().isEmpty());
        const std::string path = f.document().problems().front().path;
        QVERIFY(!f.child(("row:" + path).c_str())->isVisible());
        QTest::mouseClick(section, Qt::LeftButton, {}, section->problem_box().center().toPoint());
        QVERIFY(f.child(("row:" + path).c_str())->isVisible());
    }
    void a_refusal_on_ask_leads_to_its_field() {
        WindowFixture f;
        f.window->show_bench("ask");
        f.window->part<AskBench>().choose("load");
        QVERIFY(f.settle());
        f.type("input:load:current", QStringLiteral("many"));
        auto* price = f.child<RefusalLabel>("price:load");
        QVERIFY2(price->words().startsWith(QStringLiteral("Current")), qPrintable(price->words()));
        QVERIFY(!f.child("ask:load")->isEnabled());
        f.child("input:load:speed")->setFocus();
        click_link(*price);
        QVERIFY(f.child("input:load:current")->hasFocus());
        // By keys, too.
        f.child("input:load:speed")->setFocus();
        price->setFocus(Qt::TabFocusReason);
        QTest::keyClick(price, Qt::Key_Return);
        QVERIFY(f.child("input:load:current")->hasFocus());
        QTest::keyClick(f.child("input:load:current"), Qt::Key_A, Qt::ControlModifier);
        QTest::keyClick(f.child("input:load:current"), Qt::Key_Backspace);
        QVERIFY(f.child("ask:load")->isEnabled());
        // What the design itself refuses leads to its row on Draw.
        QVERIFY(!f.document().set_text("rotor.shaft_diameter", QStringLiteral("500 mm")));
        const std::string path = f.document().problems().front().path;
        QTest::mouseClick(f.child("ask:load"), Qt::LeftButton);
        click_link(*f.child<RefusalLabel>("notice"));
        QVERIFY(f.child(("row:" + path).c_str())->isVisible());
        QVERIFY(f.child(("row:" + path).c_str())->isAncestorOf(QApplication::focusWidget()));
    }
    /// The drawing's parts are heard one by one, and taken by the same interface.
    void parts_of_the_drawing_are_heard() {
        WindowFixture f("vee");
        auto* section = f.child<SectionView>("section");
        auto* heard = QAccessible::queryAccessibleInterface(section);
        QVERIFY(heard && heard->childCount() >= 5);
        bool magnets = false;
        for (int k = 0; k < heard->childCount(); ++k) {
            auto* part = heard->child(k);
            QVERIFY(part && part->parent() == heard && heard->indexOfChild(part) == k);
            const QString name = part->text(QAccessible::Name);
            QVERIFY(!name.isEmpty());
            if (name != QStringLiteral("magnets, 16")) continue;
            magnets = true;
            part->actionInterface()->doAction(QAccessibleActionInterface::pressAction());
            QVERIFY(part->state().selected);
            QVERIFY(!section->selected().empty());
        }
        QVERIFY(magnets);
        f.document().set_text("rotor.poles", QStringLiteral("6"));
        QVERIFY(heard->childCount() >= 5 && heard->child(0)->isValid());
    }
    void a_dimension_on_the_drawing_is_varied() {
        WindowFixture f;
        auto* section = f.child<SectionView>("section");
        const auto at = section->label_position("stator.bore_diameter");
        QVERIFY(at);
        QTest::mouseClick(section, Qt::RightButton, {}, at->toPoint());
        auto* menu = section->findChild<QMenu*>(QStringLiteral("dimension_menu"));
        QVERIFY(menu && menu->actions().front()->text().contains(QStringLiteral("Vary")));
        menu->actions().front()->trigger();
        menu->close();
        QCOMPARE(f.window->bench(), std::string("weigh"));
        const auto study = f.window->findChild<SweepPage*>()->study();
        QVERIFY(study && study->paths.front() == "stator.bore_diameter");
    }
};
MAVLO_TEST(first_steps, TestFirstSteps, Windows)
#include "test_first_steps.moc"
