// A newcomer's first hour: from a specification to a report, with the mouse and the keys on the real windows,
// every press counted.

#include "app/window_fixture.h"
#include "test_program.h"
#include "weigh/design_strip.h"
#include "weigh/design_strip_row.h"

#include <QApplication>
#include <QFileDialog>
#include <QMenu>
#include <QScrollArea>
#include <QTimer>
#include <QWheelEvent>
#include <QWindow>
#include <cstdlib>

using namespace mavlo;
using namespace mavlo::app;

namespace {

/// What a person has: a mouse, keys and eyes.
class Hand {
  public:
    explicit Hand(WindowFixture& f)
        : m_f(f) {}

    int presses() const { return m_presses; }

    void press(const QWidget& widget, QPointF at, Qt::MouseButton button = Qt::LeftButton) {
        ++m_presses;
        widget.window()->activateWindow(); // as whoever manages windows does
        QTest::mouseClick(widget.window()->windowHandle(), button, {}, place(widget, at));
        QTest::qWait(30);
    }
    void press(const char* name) {
        const QWidget* found = seen(name);
        QVERIFY2(found, name);
        press(*found, found->rect().center());
    }
    void drag(const QWidget& widget, QPointF from, QPointF to) {
        ++m_presses;
        QWindow* window = widget.window()->windowHandle();
        QTest::mousePress(window, Qt::LeftButton, {}, place(widget, from));
        for (int i = 1; i <= 10; ++i) {
            QTest::mouseMove(window, place(widget, from + (to - from) * i / 10));
            QTest::qWait(5);
        }
        QTest::mouseRelease(window, Qt::LeftButton, {}, place(widget, to));
    }
    void key(Qt::Key key, Qt::KeyboardModifiers held = {}) {
        QTest::keyClick(QApplication::focusWindow(), key, held);
        QTest::qWait(30);
    }
    void type(const QString& text) {
        QTest::keyClicks(QApplication::focusWidget(), text);
        QTest::qWait(30);
    }
    /// Presses into a field and types over what it says.
    void fill(const char* name, const QString& text) {
        press(name);
        key(Qt::Key_A, Qt::ControlModifier);
        type(text);
    }
    /// What is on the screen now, for who wants to look at it.
    void look(const char* name) const {
        const char* folder = std::getenv("MAVLO_PICTURES");
        if (!folder) return;
        const QWidget* top = QApplication::activeWindow();
        (top ? const_cast<QWidget*>(top) : m_f.window.get())
            ->grab()
            .save(QStringLiteral("%1/%2.png").arg(QLatin1String(folder), QLatin1String(name)));
    }
    /// By its name, in whatever window it stands; null: nobody sees it.
    const QWidget* seen(const char* name) const {
        for (QWidget* top : QApplication::topLevelWidgets())
            for (QWidget* widget : top->findChildren<QWidget*>(QString::fromUtf8(name)))
                if (widget->isVisible() && come_to_it(*widget)) return widget;
        return nullptr;
    }

  private:
    /// By the wheel, where it is scrolled away.
    static bool come_to_it(QWidget& widget) {
        QWidget* above = widget.parentWidget();
        while (above && !qobject_cast<QScrollArea*>(above)) above = above->parentWidget();
        auto* area = static_cast<QScrollArea*>(above);
        const auto in_view = [&] {
            return widget.visibleRegion().boundingRect().height() >= std::min(widget.height(), 24);
        };
        for (int turn = 0; area && turn < 40 && !in_view(); ++turn) {
            const bool below = widget.mapTo(area, QPoint(0, 0)).y() > 0;
            const QPointF at = area->viewport()->rect().center();
            QWheelEvent wheel(at, area->viewport()->mapToGlobal(at), {}, {0, below ? -120 : 120}, Qt::NoButton,
                              {}, Qt::NoScrollPhase, false);
            QCoreApplication::sendEvent(area->viewport(), &wheel);
            QTest::qWait(10);
        }
        return in_view();
    }
    static QPoint place(const QWidget& widget, QPointF at) {
        return widget.mapTo(widget.window(), at.toPoint());
    }

    WindowFixture& m_f;
    int m_presses = 0;
};

} // namespace

class TestNewcomer : public QObject {
    Q_OBJECT

    static bool comes(Hand& hand, const char* name) {
        return QTest::qWaitFor([&] { return hand.seen(name); }, 120000);
    }

    /// Torque, speed and voltage typed, a proposal opened.
    static void from_a_specification(WindowFixture& f, Hand& hand) {
        f.window->show_start();
        QTest::qWait(50);
        hand.look("1-start");
        hand.press("start_specification");
        QVERIFY(comes(hand, "spec:torque"));
        hand.fill("spec:torque", QStringLiteral("4"));
        hand.key(Qt::Key_Tab);
        hand.type(QStringLiteral("1500"));
        hand.press("spec:propose");
        QVERIFY(comes(hand, "open:surface") || comes(hand, "open:vee"));
        QVERIFY(QTest::qWaitFor([&] { return f.window->is_idle(); }, 120000));
        hand.look("2-proposals");
        hand.press(hand.seen("open:surface") ? "open:surface" : "open:vee");
        QVERIFY(QTest::qWaitFor([&] { return f.window->bench() == "draw"; }, 5000));
        QCOMPARE(f.text("rating.torque"), std::string("4 N.m"));
        QVERIFY(f.settle());
        hand.look("3-drawn");
    }
    /// A dimension dragged on the drawing, one typed on the sheet.
    static void change(WindowFixture& f, Hand& hand) {
        const double depth = f.document().value("stator.slot.depth");
        auto& section = f.window->section();
        const auto slot = section.label_position("stator.bore_diameter");
        QVERIFY(slot);
        hand.press("part:Stator");
        hand.fill("edit:stator.slot.depth", QStringLiteral("%1 mm").arg(depth * 1.05e3, 0, 'f', 2));
        hand.key(Qt::Key_Return);
        QVERIFY(f.settle());
        QVERIFY(std::abs(f.document().value("stator.slot.depth") / depth - 1.05) < 2e-3);
        hand.look("4-changed");
    }
    static void wind(WindowFixture& f, Hand& hand) {
        hand.press("bench:wind");
        const double turns = f.document().value("winding.turns");
        hand.fill("edit:winding.turns", QString::number(int(turns) + 1));
        hand.key(Qt::Key_Return);
        QVERIFY(f.settle());
        QCOMPARE(f.document().value("winding.turns"), turns + 1);
        hand.look("5-wound");
    }
    static void ask(WindowFixture& f, Hand& hand) {
        hand.press("bench:ask");
        for (const char* question : {"winding", "cogging", "load"}) {
            const auto* card = f.window->part<AskBench>().card(question);
            hand.press(*card, {40, 12});
            hand.press((std::string("ask:") + question).c_str());
            QVERIFY(f.settle());
            QVERIFY2(f.window->part<AskBench>().answer(question), question);
            hand.look((std::string("6-") + question).c_str());
        }
    }
    /// Varied from the drawing, its figure typed, run, and a point of it kept.
    static void sweep(WindowFixture& f, Hand& hand) {
        hand.press("bench:draw");
        auto& section = f.window->section();
        const auto at = section.label_position("stator.slot.opening");
        QVERIFY(at);
        hand.look("7-draw");
        hand.press(section, *at, Qt::RightButton);
        auto* menu = section.findChild<QMenu*>(QStringLiteral("dimension_menu"));
        QVERIFY(menu);
        hand.press(*menu, menu->actionGeometry(menu->actions().front()).center());
        QTest::qWait(50);
        QCOMPARE(f.window->bench(), std::string("weigh"));
        hand.look("7-sweep");
        QVERIFY(QTest::qWaitFor([&] { return hand.seen("sweep_run") && hand.seen("sweep_run")->isEnabled(); },
                                60000));
        hand.press("sweep_run");
        QVERIFY(QTest::qWaitFor(
            [&] { return f.child<QPushButton>("sweep_run")->text() == QStringLiteral("Run"); }, 300000));
        hand.look("8-swept");
        auto* strip = f.child<DesignStrip>("design_strip");
        QVERIFY(strip->isVisible());
        hand.press(*strip->row(), strip->place_of(1).center());
        hand.press("sweep_keep");
        QVERIFY(f.document().variant().name != "base");
        hand.look("9-kept");
    }
    static void report(WindowFixture& f, Hand& hand) {
        hand.press("weigh:Report");
        QTest::qWait(700);
        hand.look("10-report");
        const QString file = f.file("first.html");
        QTimer::singleShot(500, [&hand, file] {
            auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
            QVERIFY(dialog);
            hand.type(file);
            hand.key(Qt::Key_Return);
        });
        hand.press("report_save:html");
        QTRY_VERIFY_WITH_TIMEOUT(QFileInfo(file).size() > 1000, 60000);
    }

  private Q_SLOTS:
    void from_a_specification_to_a_report() {
        WindowFixture f;
        f.window->resize(1280, 772);
        f.document().undo_stack().setClean();
        Hand hand(f);
        for (const auto& step : {from_a_specification, change, wind, ask, sweep, report}) {
            step(f, hand);
            if (QTest::currentTestFailed()) return;
            qInfo("%d presses so far", hand.presses());
        }
        QVERIFY(hand.presses() < 60);
    }
};
MAVLO_TEST(newcomer, TestNewcomer, Windows)
#include "test_newcomer.moc"
