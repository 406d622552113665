#include "shell/tell_tales.h"

namespace mavlo::app {

TellTaleEngine::TellTaleEngine(Document& document, QObject* parent)
    : QObject(parent)
    , m_document(document) {
    m_delay.setSingleShot(true);
    // A drag sends many edits, and its field wants both cores; its pauses are what counts.
    m_delay.setInterval(120);
    connect(&m_delay, &QTimer::timeout, this, &TellTaleEngine::start);
    connect(&document, &Document::changed, this, &TellTaleEngine::follow_document);
    follow_document();
}

const QuickFigures* TellTaleEngine::of(const std::string& hash) const {
    const auto found = m_known.find(hash);
    return found == m_known.end() ? nullptr : &found->second;
}

const QuickFigures* TellTaleEngine::present() const {
    const auto built = m_document.built();
    return built && m_document.is_good() ? of(built->hash) : nullptr;
}

const QuickFigures* TellTaleEngine::reference() const {
    const auto built = m_document.reference();
    return built ? of(built->hash) : nullptr;
}

bool TellTaleEngine::is_idle() const {
    return m_waiting.empty() && !m_delay.isActive();
}

void TellTaleEngine::follow_document() {
    m_jobs.stop_all();
    if (const auto* figures = present()) m_last = *figures;
    m_delay.start();
    Q_EMIT changed();
}

void TellTaleEngine::start() {
    const auto built = m_document.built();
    if (m_document.is_good()) want(built);
    want(m_document.reference());
}

void TellTaleEngine::want(std::shared_ptr<const DrawnMachine> built) {
    if (!built || m_waiting.contains(built->hash)) return;
    const auto known = m_known.find(built->hash);
    if (known == m_known.end())
        compute(std::move(built));
    else if (known->second.fields) // an edit stopped what was left
        complete(built);
}

void TellTaleEngine::compute(std::shared_ptr<const DrawnMachine> built) {
    auto result = std::make_shared<std::optional<QuickFigures>>();
    m_waiting.insert(built->hash);
    m_jobs.submit(
        tr("key figures"),
        [built, result](const Watch& watch) {
            if (watch.stop.stop_requested()) return;
            const auto model = prepare_field(built->machine, quick_mesh());
            if (!model) return;
            auto figures = quick_figures(*model, 0, watch);
            if (figures) *result = *figures;
        },
        [this, built, result] {
            m_waiting.erase(built->hash);
            if (!*result) {
                m_delay.start(); // stopped by an edit: whatever is wanted now is looked for again
            } else {
                if (m_known.size() > 200) m_known.clear();
                m_known[built->hash] = **result;
                m_seconds_per_solve = (*result)->seconds_per_solve;
                if (const auto* figures = present()) m_last = *figures;
                complete(built);
            }
            Q_EMIT changed();
        });
}

/// Adds the figures that take longer than a blink.
void TellTaleEngine::complete(const std::shared_ptr<const DrawnMachine>& built) {
    auto figures = std::make_shared<QuickFigures>(m_known.at(built->hash));
    auto done = std::make_shared<bool>(false);
    m_waiting.insert(built->hash);
    m_jobs.submit(
        tr("temperatures"),
        [figures, done, built](const Watch& watch) {
            if (watch.stop.stop_requested()) return;
            add_slow_figures(*figures, built->materials);
            *done = true;
        },
        [this, built, figures, done] {
            m_waiting.erase(built->hash);
            if (*done) m_known[built->hash] = *figures;
            if (const auto* known = present(); known && *done) m_last = *known;
            Q_EMIT changed();
        });
}

} // namespace mavlo::app
