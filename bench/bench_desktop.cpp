// What the hand feels: a frame of the field while the ring turns, and the drawing and tell-tales after an edit.

#include "probe/dq_pad.h"
#include "shell/main_window.h"
#include "shell/theme.h"

#include <QApplication>
#include <QPushButton>
#include <QTest>
#include <QWindow>
#include <benchmark/benchmark.h>
#include <cstdlib>

using namespace mavlo;
using namespace mavlo::app;

namespace {

MainWindow& window() {
    static auto* w = [] {
        set_theme(false);
        auto* made = new MainWindow;
        made->resize(1280, 800);
        made->show();
        made->open_file(QStringLiteral(MAVLO_DEMO "/observatory.mavlo"));
        return made;
    }();
    return *w;
}

void settle() {
    while (!window().is_idle()) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
    QCoreApplication::processEvents();
}

/// Frames while the ring turns under the hand: the next angle is there as soon as a field is, and is solved
/// while that field is painted.
void ring_frame(benchmark::State& state) {
    window().show_bench("probe");
    settle();
    double angle = 0;
    for (auto _ : state) {
        const auto shown = window().section().result();
        window().section().set_angle(angle += 0.01);
        while (window().section().result() == shown)
            QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
    }
    settle();
    state.counters["frames_per_second"] =
        benchmark::Counter(double(state.iterations()), benchmark::Counter::kIsRate);
}

/// Dragging a dimension on Draw with the field laid over it.
void drag_with_field(benchmark::State& state) {
    window().show_bench("draw");
    auto* chip = window().findChild<QPushButton*>(QStringLiteral("overlay:flux density"));
    if (!chip->isChecked()) chip->click();
    settle();
    int step = 0;
    for (auto _ : state) {
        window().document().set_text("stator.slot.depth",
                                     QStringLiteral("%1 mm").arg(18 + 0.013 * (++step % 100)), 3);
        while (!window().field_is_idle()) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
        QCoreApplication::processEvents();
    }
    chip->click();
    state.counters["frames_per_second"] =
        benchmark::Counter(double(state.iterations()), benchmark::Counter::kIsRate);
}

/// Dragging the current on Probe with the temperatures laid over the section.
void drag_with_temperature(benchmark::State& state) {
    window().show_bench("probe");
    auto* chip = window().findChild<QPushButton*>(QStringLiteral("overlay:temperature"));
    if (!chip->isChecked()) chip->click();
    settle();
    auto* pad = window().findChild<DqPad*>(QStringLiteral("dq_pad"));
    QWindow* handle = window().windowHandle();
    const QPoint tip = pad->mapTo(&window(), pad->tip().toPoint());
    QTest::mousePress(handle, Qt::LeftButton, {}, tip);
    int step = 0;
    for (auto _ : state) {
        const auto shown = window().section().result();
        QTest::mouseMove(handle, tip - QPoint(0, ++step % 40));
        while (window().section().result() == shown)
            QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
    }
    if (!(QGuiApplication::mouseButtons() & Qt::LeftButton)) state.SkipWithError("the hand is not down");
    QTest::mouseRelease(handle, Qt::LeftButton, {}, tip);
    settle();
    chip->click();
    state.counters["frames_per_second"] =
        benchmark::Counter(double(state.iterations()), benchmark::Counter::kIsRate);
}

void edit_to_drawing(benchmark::State& state) {
    window().show_bench("draw");
    settle();
    int step = 0;
    for (auto _ : state) {
        window().document().set_text("stator.slot.depth",
                                     QStringLiteral("%1 mm").arg(18 + 0.01 * (++step % 100)), 1);
        benchmark::DoNotOptimize(window().section().grab());
    }
}

void edit_to_tell_tales(benchmark::State& state) {
    settle();
    int step = 0;
    for (auto _ : state) {
        window().document().set_text("stator.slot.depth",
                                     QStringLiteral("%1 mm").arg(17 + 0.001 * (++step % 1000)), 2);
        settle();
    }
}

BENCHMARK(ring_frame)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(drag_with_field)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(drag_with_temperature)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(edit_to_drawing)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(edit_to_tell_tales)->Unit(benchmark::kMillisecond)->UseRealTime();

} // namespace

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("DISPLAY")) qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication app(argc, argv);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    window().document().undo_stack().setClean();
    std::_Exit(0); // the window's threads end with the process
}
