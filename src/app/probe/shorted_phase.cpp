#include "probe/shorted_phase.h"

#include "quantity/stop_point.h"
#include "question/period.h"
#include "question/question.h"

#include <QCoreApplication>
#include <QPointer>
#include <QThreadPool>
#include <fmt/format.h>

namespace mavlo::app {
namespace {

constexpr int settle_ms = 150, points = 24;

Ask ask_of(const Document& document, const ShortedPhase::Wish& wish) {
    Ask ask;
    ask.design = document.design();
    ask.materials = document.project().materials;
    ask.quality = Quality::Draft;
    ask.with = {{"waveform", wish.form},
                {"current", fmt::format("{} A", wish.peak)},
                {"advance", fmt::format("{} deg", wish.advance * 180 / M_PI)},
                {"short_phase", std::to_string(wish.phase + 1)},
                {"points", std::to_string(points)}};
    return ask;
}

} // namespace

ShortedPhase::ShortedPhase(Document& document, QObject* parent)
    : QObject(parent)
    , m_document(document) {
    m_delay.setSingleShot(true);
    m_delay.setInterval(settle_ms);
    connect(&m_delay, &QTimer::timeout, this, &ShortedPhase::ask);
    connect(&document, &Document::changed, this, [this] {
        m_known = {};
        m_stop.request_stop();
        if (m_wish.phase >= 0) m_delay.start();
    });
}

ShortedPhase::~ShortedPhase() {
    m_stop.request_stop();
}

void ShortedPhase::apply(CurrentWave& wave, const Wish& wish) {
    if (wish.phase < 0) return forget();
    const auto& built = m_document.built();
    if (wish == m_known && built)
        return wave.set_series(wish.phase, electrical_angle(built->machine, 0), m_series);
    wave.open(wish.phase);
    if (wish == m_wish) return;
    m_wish = wish;
    m_delay.start();
}

void ShortedPhase::ask() {
    m_stop.request_stop();
    m_stop = {};
    Run run;
    run.threads = 1;
    run.watch.stop = m_stop.get_token();
    QThreadPool::globalInstance()->start(
        [self = QPointer<ShortedPhase>(this), ask = ask_of(m_document, m_wish), run, wish = m_wish] {
            const StopScope scope(run.watch.stop);
            const auto answer = ask_question("load", ask, run);
            std::optional<std::vector<double>> series;
            if (answer)
                if (const Curve* current = answer->curve("current_" + phase_suffix(std::size_t(wish.phase))))
                    series = current->y;
            if (run.watch.stop.stop_requested()) return;
            QMetaObject::invokeMethod(qApp, [self, wish, series] {
                if (self) self->take(wish, series);
            });
        });
}

void ShortedPhase::take(const Wish& wish, std::optional<std::vector<double>> series) {
    if (wish != m_wish || !series) return;
    m_known = wish;
    m_series = std::move(*series);
    Q_EMIT found();
}

} // namespace mavlo::app
