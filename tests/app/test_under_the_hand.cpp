// The window answers while it works: no call of its thread takes long, whatever the hand does meanwhile.

#include "app/window_fixture.h"
#include "call_watch.h"
#include "night.h"
#include "probe/dq_pad.h"
#include "test_program.h"

#include <QDeadlineTimer>
#include <QTimer>
#include <QWindow>

using namespace mavlo;
using namespace mavlo::app;

class TestUnderTheHand : public QObject {
    Q_OBJECT

    /// ms. By day other tests run beside it, and what is looked for is a window that stands still.
    static double longest() { return by_night() ? 50 : 200; }

    /// With the real mouse on the real window, and time for what it leads to.
    static void drag(WindowFixture& f, const QWidget& widget, QPointF from, QPointF to, int steps = 20) {
        QWindow* window = f.window->windowHandle();
        const auto at = [&](QPointF p) { return widget.mapTo(f.window.get(), p.toPoint()); };
        QTest::mousePress(window, Qt::LeftButton, {}, at(from));
        for (int i = 1; i <= steps; ++i) {
            QTest::mouseMove(window, at(from + (to - from) * i / steps));
            QTest::qWait(15);
        }
        QTest::mouseRelease(window, Qt::LeftButton, {}, at(to));
    }
    static void click(WindowFixture& f, const char* name) {
        auto* widget = f.child(name);
        QVERIFY2(widget->isVisible(), name);
        QTest::mouseClick(f.window->windowHandle(), Qt::LeftButton, {},
                          widget->mapTo(f.window.get(), widget->rect().center()));
        QTest::qWait(60);
    }
    static void keys(WindowFixture& f, Qt::Key key, Qt::KeyboardModifiers held = {}) {
        QTest::keyClick(f.window->windowHandle(), key, held);
        QTest::qWait(60);
    }
    /// Sweeps over all of a widget without pressing.
    static void hover(WindowFixture& f, const QWidget& widget) {
        for (int i = 0; i <= 20; ++i) {
            const QPoint at(widget.width() * i / 20, widget.height() * ((i * 7) % 21) / 20);
            QTest::mouseMove(f.window->windowHandle(), widget.mapTo(f.window.get(), at));
            QTest::qWait(10);
        }
    }

    static void draw(WindowFixture& f) {
        auto& section = f.window->section();
        hover(f, section);
        click(f, "overlay:flux density");
        QVERIFY(f.settle());
        const auto handle = section.handle_position("stator.slot.depth");
        QVERIFY(handle);
        drag(f, section, *handle, *handle + QPointF(8, 8));
        keys(f, Qt::Key_Z, Qt::ControlModifier);
        f.type("edit:gap", QStringLiteral("0.9 mm"));
        QVERIFY(f.settle());
        keys(f, Qt::Key_Z, Qt::ControlModifier);
        click(f, "part:Cooling");
        click(f, "part:Stator");
        section.setFocus();
        for (const Qt::Key key : {Qt::Key_P, Qt::Key_P, Qt::Key_C, Qt::Key_Escape}) keys(f, key);
    }
    static void probe(WindowFixture& f) {
        keys(f, Qt::Key_3, Qt::ControlModifier);
        QVERIFY(f.settle());
        auto* pad = f.child<DqPad>("dq_pad");
        drag(f, *pad, pad->tip(), pad->tip() + QPointF(-15, -25));
        const QPointF ring = f.window->section().ring_handle();
        drag(f, f.window->section(), ring, ring + QPointF(-10, 60));
        QVERIFY(f.settle());
    }
    static void ask(WindowFixture& f) {
        keys(f, Qt::Key_4, Qt::ControlModifier);
        auto& bench = f.window->part<AskBench>();
        for (const char* question : {"load", "cogging", "in-time", "efficiency-map"}) {
            bench.choose(question);
            QTest::qWait(60);
        }
        bench.choose("cogging");
        QTest::qWait(60);
        click(f, "ask:cogging");
        QVERIFY(f.settle());
        hover(f, bench.answer_view());
        bench.choose("load");
        QTest::qWait(60);
        click(f, "ask:load");
        QVERIFY(f.settle());
        hover(f, bench.answer_view());
        bench.choose({});
        QTest::qWait(60);
        hover(f, bench);
    }
    static void weigh(WindowFixture& f) {
        keys(f, Qt::Key_5, Qt::ControlModifier);
        for (const char* page : {"weigh:Sweep", "weigh:Trade-off", "weigh:Report", "weigh:Variants"}) {
            click(f, page);
            QTest::qWait(500); // a report's pages follow when the hand rests
        }
    }

  private Q_SLOTS:
    void no_call_takes_long_data() {
        QTest::addColumn<QString>("shape");
        QTest::newRow("magnets on the rotor") << "surface";
        if (by_night()) QTest::newRow("48 slots") << "vee";
    }
    void no_call_takes_long() {
        QFETCH(QString, shape);
        WindowFixture f(qPrintable(shape));
        QVERIFY(f.settle());
        auto* watched = WatchedApplication::instance();
        QVERIFY(watched);
        watched->begin();
        draw(f);
        keys(f, Qt::Key_2, Qt::ControlModifier);
        hover(f, *f.window);
        probe(f);
        ask(f);
        weigh(f);
        QVERIFY(watched->seen() > 500); // it was looked at
        const auto late = watched->end(longest());
        for (const WatchedCall& call : late) qWarning("%.0f ms: %s", call.milliseconds, qPrintable(call.what));
        QVERIFY(late.empty());
    }
    /// A call that takes long is seen: the watch can fail.
    void a_call_that_takes_long_is_seen() {
        auto* watched = WatchedApplication::instance();
        QVERIFY(watched);
        watched->begin();
        QTimer::singleShot(0, [] {
            volatile double sum = 0;
            const QDeadlineTimer until(80);
            while (!until.hasExpired()) sum = sum + 1;
        });
        QTest::qWait(120);
        QCOMPARE(watched->end(50).size(), std::size_t(1));
    }
};
MAVLO_TEST(under_the_hand, TestUnderTheHand, Windows)
#include "test_under_the_hand.moc"
