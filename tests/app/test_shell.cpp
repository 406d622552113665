// What holds the benches: head strip, activity, keys and help, themes, closing; and that every bench can be
// read and reached by keyboard at the smallest size.

#include "app/window_fixture.h"
#include "test_program.h"

#include <QAbstractSpinBox>
#include <QAction>
#include <QComboBox>
#include <QDialog>
#include <QInputDialog>
#include <QMenu>
#include <QMessageBox>
#include <QRegularExpression>
#include <QShortcut>
#include <QTextBrowser>
#include <QTextDocumentFragment>
#include <QTimer>
#include <functional>
#include <set>

using namespace mavlo;
using namespace mavlo::app;

namespace {

/// Does something with the dialog that the next call opens.
template <class DialogKind>
void when_it_opens(const std::function<void(DialogKind&)>& then) {
    auto* timer = new QTimer(qApp);
    timer->setInterval(20);
    QObject::connect(timer, &QTimer::timeout, timer, [timer, then] {
        auto* dialog = qobject_cast<DialogKind*>(QApplication::activeModalWidget());
        if (!dialog) return;
        timer->deleteLater();
        then(*dialog);
    });
    timer->start();
}

void press(QMessageBox& box, QMessageBox::StandardButton button) {
    QTest::mouseClick(box.button(button), Qt::LeftButton);
}

QAction* action_of(QMenu* menu, const QString& text) {
    for (QAction* action : menu->actions())
        if (action->text().startsWith(text)) return action;
    return nullptr;
}

QMenu* opened(QPushButton* button) {
    QMenu* menu = button->menu();
    Q_EMIT menu->aboutToShow();
    return menu;
}

/// Widgets of a window that can be seen, of one class.
template <class Kind>
std::vector<Kind*> visible(QWidget& window) {
    std::vector<Kind*> all;
    for (Kind* widget : window.findChildren<Kind*>())
        if (widget->isVisible() && !widget->visibleRegion().isEmpty()) all.push_back(widget);
    return all;
}

const std::vector<std::string>& benches() {
    static const std::vector<std::string> names = registry<BenchKind>().names();
    return names;
}

} // namespace

class TestShell : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void the_head_says_which_project_and_what_is_unsaved() {
        WindowFixture f;
        auto* name = f.child<QPushButton>("project");
        const QString saved = name->text();
        QVERIFY(!saved.contains(QStringLiteral("•")));
        f.type("edit:stator.slot.tooth_width", QStringLiteral("7.5"));
        QVERIFY(name->text().contains(QStringLiteral("•")));
        QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(name->text(), saved);
        f.type("edit:stator.slot.tooth_width", QStringLiteral("7.5"));
        QTest::keyClick(f.window.get(), Qt::Key_S, Qt::ControlModifier);
        QVERIFY(!name->text().contains(QStringLiteral("•")));
    }
    void benches_are_chosen_by_click_and_marked() {
        WindowFixture f;
        for (const std::string& bench : benches()) {
            auto* button = f.child<QPushButton>(("bench:" + bench).c_str());
            QTest::mouseClick(button, Qt::LeftButton);
            QCOMPARE(f.window->bench(), bench);
            for (const std::string& other : benches())
                QCOMPARE(f.child<QPushButton>(("bench:" + other).c_str())->isChecked(), other == bench);
            QVERIFY(button->toolTip().contains(QStringLiteral("Ctrl+")));
        }
    }
    void variants_are_made_chosen_and_removed_in_the_head() {
        WindowFixture f;
        auto* button = f.child<QPushButton>("variant");
        QMenu* menu = opened(button);
        QVERIFY(!action_of(menu, QStringLiteral("Remove"))->isEnabled());
        QVERIFY(!action_of(menu, QStringLiteral("Compare"))->isEnabled());
        when_it_opens<QInputDialog>([](QInputDialog& dialog) {
            dialog.setTextValue(QStringLiteral("narrow gap"));
            dialog.accept();
        });
        action_of(menu, QStringLiteral("New variant"))->trigger();
        QCOMPARE(f.document().variant().name, std::string("narrow gap"));
        QVERIFY(button->text().startsWith(QStringLiteral("narrow gap")));
        f.type("edit:gap", QStringLiteral("0.8"));
        menu = opened(button);
        QVERIFY(action_of(menu, QStringLiteral("narrow gap"))->isChecked());
        action_of(menu, QStringLiteral("base"))->trigger();
        QVERIFY(std::abs(f.document().value("gap") - 0.8e-3) > 1e-5);
        menu = opened(button);
        action_of(menu, QStringLiteral("narrow gap"))->trigger();
        CLOSE(f.document().value("gap"), 0.8e-3, 1e-9);
        menu = opened(button);
        action_of(menu, QStringLiteral("Compare"))->trigger();
        QCOMPARE(f.document().project().reference, std::string("narrow gap"));
        menu = opened(button);
        QVERIFY(action_of(menu, QStringLiteral("narrow gap  (reference)")));
        action_of(menu, QStringLiteral("Remove"))->trigger();
        QCOMPARE(f.document().project().variants.size(), 1U);
        // A name given up is no variant.
        menu = opened(button);
        when_it_opens<QInputDialog>([](QInputDialog& dialog) { dialog.reject(); });
        action_of(menu, QStringLiteral("New variant"))->trigger();
        QCOMPARE(f.document().project().variants.size(), 1U);
    }
    void what_is_computed_can_be_seen_and_stopped() {
        WindowFixture f;
        QVERIFY(f.settle());
        auto* pill = f.child<QPushButton>("activity");
        QMenu* menu = opened(pill);
        QCOMPARE(menu->actions().size(), 1);
        QVERIFY(!menu->actions().front()->isEnabled());
        f.window->show_bench("ask");
        auto& ask = f.window->part<AskBench>();
        ask.choose("flux-map");
        f.type("input:flux-map:points", QStringLiteral("60"));
        ask.ask("flux-map");
        ask.ask("cogging");
        QTRY_COMPARE(int(ask.card("flux-map")->state()), int(AnswerState::Running));
        QCOMPARE(int(ask.card("cogging")->state()), int(AnswerState::Queued));
        menu = opened(pill);
        QVERIFY(menu->actions().size() >= 2);
        QAction *running = nullptr, *queued = nullptr;
        for (QAction* action : menu->actions()) {
            if (action->text().startsWith(QStringLiteral("Stop"))) running = action;
            if (action->text().startsWith(QStringLiteral("Remove"))) queued = action;
        }
        QVERIFY(running && queued);
        queued->trigger();
        running->trigger();
        QVERIFY(f.settle());
        QVERIFY(!ask.answer("flux-map") && !ask.answer("cogging"));
        // A stop is no failure of the design.
        QVERIFY(f.document().is_good());
    }
    void help_lists_every_key_of_the_window() {
        WindowFixture f;
        QTest::keyClick(f.window.get(), Qt::Key_F1, Qt::ShiftModifier);
        auto* help = f.child<QDialog>("help");
        const QString text = help->findChild<QTextBrowser*>()->toPlainText();
        const auto listed = [&](QString keys) {
            const QRegularExpression pattern(
                QStringLiteral("(?<![+A-Za-z0-9])%1(?![A-Za-z0-9])").arg(QRegularExpression::escape(keys)));
            return text.contains(pattern);
        };
        for (QAction* action : f.window->findChildren<QAction*>())
            for (const QKeySequence& keys : action->shortcuts()) {
                if (keys.isEmpty() || action->shortcuts().front() != keys) continue;
                const QString name = keys.toString(QKeySequence::PortableText);
                QVERIFY2(listed(name), qPrintable(action->text() + QStringLiteral(": ") + name));
            }
        // The benches' own stand as a range.
        QVERIFY(text.contains(QStringLiteral("Ctrl+1 … Ctrl+%1").arg(benches().size())));
        QTest::keyClick(help, Qt::Key_Escape);
        QTRY_VERIFY(!f.window->findChild<QDialog*>(QStringLiteral("help")) || !help->isVisible());
    }
    void closing_asks_for_what_is_unsaved() {
        WindowFixture f;
        f.type("edit:stator.slot.tooth_width", QStringLiteral("7.5"));
        when_it_opens<QMessageBox>([](QMessageBox& box) { press(box, QMessageBox::Cancel); });
        QVERIFY(!f.window->close());
        QVERIFY(f.window->isVisible());
        when_it_opens<QMessageBox>([](QMessageBox& box) {
            QVERIFY(box.text().contains(QStringLiteral("Save the changes")));
            press(box, QMessageBox::Save);
        });
        QVERIFY(f.window->close());
        const auto project = read_project(f.file().toStdString());
        QVERIFY(project);
        QCOMPARE(project->in_hand().design.text("stator.slot.tooth_width"), std::string("7.5 mm"));
    }
    void closing_asks_for_what_is_computed() {
        WindowFixture f("vee");
        f.window->show_bench("ask");
        f.window->part<AskBench>().ask("flux-map");
        QVERIFY(!f.window->part<AskBench>().is_idle());
        when_it_opens<QMessageBox>([](QMessageBox& box) {
            QVERIFY(box.text().contains(QStringLiteral("flux map")));
            QVERIFY(box.informativeText().contains(QStringLiteral("go on from their finished points")));
            press(box, QMessageBox::Cancel);
        });
        QVERIFY(!f.window->close());
        QVERIFY(!f.window->part<AskBench>().is_idle()); // it goes on
        when_it_opens<QMessageBox>([](QMessageBox& box) { press(box, QMessageBox::Close); });
        QVERIFY(f.window->close());
    }
    void another_project_asks_first_too() {
        WindowFixture f;
        f.type("edit:gap", QStringLiteral("0.9"));
        QMenu* menu = f.child<QPushButton>("project")->menu();
        QMenu* shapes = action_of(menu, QStringLiteral("New project"))->menu();
        QVERIFY(shapes->actions().size() >= 10);
        for (QAction* shape : shapes->actions()) QVERIFY(shape->toolTip().size() > 10);
        when_it_opens<QMessageBox>([](QMessageBox& box) { press(box, QMessageBox::Cancel); });
        action_of(shapes, QStringLiteral("Spoke magnets"))->trigger();
        QCOMPARE(f.text("gap"), std::string("0.9 mm"));
        when_it_opens<QMessageBox>([](QMessageBox& box) { press(box, QMessageBox::Discard); });
        action_of(shapes, QStringLiteral("Spoke magnets"))->trigger();
        QCOMPARE(f.text("rotor.kind"), std::string("spoke"));
        QVERIFY(f.document().undo_stack().isClean() && f.document().is_good());
    }
    void recent_projects_are_offered() {
        WindowFixture f;
        QVERIFY(write_project(*new_project("vee"), f.file("b.mavlo").toStdString()) == std::nullopt);
        QVERIFY(f.window->open_file(f.file("b.mavlo")));
        QMenu* menu = f.child<QPushButton>("project")->menu();
        QMenu* recent = nullptr;
        for (QAction* action : menu->actions())
            if (action->menu() && action->text().contains(QStringLiteral("ecent"))) recent = action->menu();
        QVERIFY(recent);
        Q_EMIT recent->aboutToShow();
        QCOMPARE(recent->actions().front()->text(), f.file("b.mavlo"));
        QCOMPARE(recent->actions()[1]->text(), f.file());
        recent->actions()[1]->trigger();
        QCOMPARE(f.text("rotor.kind"), std::string("surface"));
        Q_EMIT recent->aboutToShow();
        QCOMPARE(recent->actions().front()->text(), f.file());
    }
    void light_and_dark_are_kept() {
        WindowFixture f;
        const QImage light = f.window->grab().toImage();
        QTest::keyClick(f.window.get(), Qt::Key_D, Qt::ControlModifier);
        QCoreApplication::processEvents();
        const QImage dark = f.window->grab().toImage();
        QVERIFY(theme().dark && QSettings().value(QStringLiteral("dark")).toBool());
        const QPoint ground(light.width() / 4, light.height() - 4);
        QVERIFY(light.pixelColor(ground).lightness() > 150 && dark.pixelColor(ground).lightness() < 100);
        QTest::keyClick(f.window.get(), Qt::Key_D, Qt::ControlModifier);
        QVERIFY(!theme().dark && !QSettings().value(QStringLiteral("dark")).toBool());
    }
    void nothing_is_clipped_data() {
        QTest::addColumn<QString>("shape");
        QTest::addColumn<QSize>("size");
        for (const char* shape : {"surface", "salient"})
            for (const QSize size : {QSize(1280, 800), QSize(1024, 700)})
                QTest::addRow("%s at %dx%d", shape, size.width(), size.height())
                    << QString::fromLatin1(shape) << size;
    }
    void nothing_is_clipped() {
        QFETCH(QString, shape);
        QFETCH(QSize, size);
        WindowFixture f(shape.toLatin1().constData());
        f.window->resize(size);
        QVERIFY(f.settle());
        for (const std::string& bench : benches()) {
            f.window->show_bench(bench);
            QVERIFY(f.settle());
            QCOMPARE(f.window->size(), size);
            const auto whole = [&](QWidget* widget, const QString& text, int room) {
                const QString plain = QTextDocumentFragment::fromHtml(text).toPlainText();
                const int wanted = widget->fontMetrics().size(0, plain).width();
                const QString words = QStringLiteral("%1, %2 (%3): \"%4\" wants %5, has %6")
                                          .arg(QString::fromStdString(bench), widget->objectName(),
                                               QLatin1String(widget->metaObject()->className()), plain.left(60))
                                          .arg(wanted)
                                          .arg(room);
                QVERIFY2(wanted <= room + 1, qPrintable(words));
            };
            for (auto* label : visible<QLabel>(*f.window))
                if (!label->wordWrap() && label->textFormat() != Qt::RichText &&
                    !label->text().contains(QLatin1Char('<')) && label->pixmap().isNull())
                    whole(label, label->text(), label->contentsRect().width());
            for (auto* button : visible<QPushButton>(*f.window))
                if (!button->text().isEmpty() && !button->property("flat").toBool())
                    whole(button, button->text().remove(QLatin1Char('&')), button->width() - 4);
        }
    }
    void every_control_says_what_it_is() {
        WindowFixture f;
        QVERIFY(f.settle());
        for (const std::string& bench : benches()) {
            f.window->show_bench(bench);
            QVERIFY(f.settle());
            std::set<QWidget*> labelled;
            for (auto* label : f.window->findChildren<QLabel*>())
                if (label->buddy()) labelled.insert(label->buddy());
            for (auto* button : visible<QAbstractButton>(*f.window))
                QVERIFY2(!button->text().isEmpty() || !button->toolTip().isEmpty() ||
                             !button->accessibleName().isEmpty(),
                         qPrintable(QString::fromStdString(bench) + button->objectName()));
            for (auto* edit : visible<QLineEdit>(*f.window)) {
                if (edit->isReadOnly()) continue;
                const bool inside = qobject_cast<QAbstractSpinBox*>(edit->parentWidget()) ||
                                    qobject_cast<QComboBox*>(edit->parentWidget());
                const bool row = edit->objectName().startsWith(QStringLiteral("edit:"));
                QVERIFY2(inside || row || labelled.contains(edit) || !edit->toolTip().isEmpty() ||
                             !edit->placeholderText().isEmpty() || !edit->accessibleName().isEmpty(),
                         qPrintable(QString::fromStdString(bench) + QStringLiteral(": ") + edit->objectName()));
            }
        }
    }
    void the_tab_key_reaches_every_field() {
        WindowFixture f;
        QVERIFY(f.settle());
        f.window->activateWindow();
        for (const std::string& bench : benches()) {
            f.window->show_bench(bench);
            QVERIFY(f.settle());
            std::set<QWidget*> wanted, reached;
            for (auto* edit : visible<QLineEdit>(*f.window))
                if (edit->isEnabled() && edit->focusPolicy() & Qt::TabFocus &&
                    !qobject_cast<QComboBox*>(edit->parentWidget()))
                    wanted.insert(edit);
            for (auto* box : visible<QComboBox>(*f.window))
                if (box->isEnabled()) wanted.insert(box);
            f.child<QPushButton>(("bench:" + bench).c_str())->setFocus();
            for (int k = 0; k < 400; ++k) {
                QWidget* at = QApplication::focusWidget();
                if (!at || !reached.insert(at).second) break;
                QTest::keyClick(at, Qt::Key_Tab);
            }
            for (QWidget* widget : wanted)
                QVERIFY2(reached.contains(widget), qPrintable(QString::fromStdString(bench) +
                                                              QStringLiteral(": ") + widget->objectName()));
        }
    }
    void refusals_stand_until_the_next_change() {
        WindowFixture f;
        QVERIFY(!f.window->open_file(f.file("missing.mavlo")));
        QVERIFY2(f.window->notice().contains(QStringLiteral("missing.mavlo")), qPrintable(f.window->notice()));
        f.type("edit:gap", QStringLiteral("0.9"));
        QVERIFY(f.window->notice().isEmpty());
    }
};

MAVLO_TEST(shell, TestShell, Windows)
#include "test_shell.moc"
