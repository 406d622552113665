#include "shell/what_moves.h"

#include "project/shelf.h"
#include "question/drawing_step.h"
#include "question/key_figure.h"
#include "shell/spoken.h"
#include "shell/told_problem.h"

#include <cmath>

namespace mavlo::app {

WhatMoves::WhatMoves(Document& document, Jobs& jobs, QObject* parent)
    : QObject(parent)
    , m_document(document)
    , m_jobs(jobs) {
    connect(&document, &Document::changed, this, [this] {
        if (!m_figure.isEmpty()) Q_EMIT changed();
    });
}

Ask WhatMoves::wanted() const {
    return ask_of(m_document.project(), m_document.variant(), Quality::Draft);
}

void WhatMoves::choose(const QString& figure) {
    m_figure = figure == m_figure ? QString() : figure;
    const KeyFigure* known = registry<KeyFigure>().find(m_figure.toStdString());
    if (known && !known->slow) ask();
    Q_EMIT changed();
}

/// From the shelf where it was asked before.
void WhatMoves::ask() {
    const auto built = m_document.built();
    if (!built || !m_document.is_good() || m_job != 0) return;
    if (m_answer && m_answer->design == built->hash) return;
    const Ask asked = wanted();
    if (auto kept = m_document.answers().find("what-matters", asked)) {
        m_answer = std::move(*kept);
        return;
    }
    auto result = std::make_shared<std::optional<Result<Answer>>>();
    m_job = m_jobs.submit(
        tr("what moves the key figures"),
        [asked, result](const Watch& watch) {
            *result = watch.stop.stop_requested() ? Result<Answer>(stopped())
                                                  : ask_question("what-matters", asked, {0, watch});
        },
        [this, asked, result, of = m_document.generation(), store = m_document.answers()] {
            m_job = 0;
            const Result<Answer> found = *result ? std::move(**result) : Result<Answer>(stopped());
            if (found && of != m_document.generation()) {
                store.keep(*found, asked);
            } else if (found) {
                m_answer = *found;
                m_document.keep(*m_answer, asked);
            } else if (!is_stopped(found.problems())) {
                Q_EMIT refused(told(found.problems().front()));
            }
            Q_EMIT changed();
        });
}

DimensionEffects WhatMoves::effects() const {
    DimensionEffects out;
    const KeyFigure* figure = registry<KeyFigure>().find(m_figure.toStdString());
    if (!figure) return out;
    const auto built = m_document.built();
    const QString label = spoken(figure->label), unit = QString::fromStdString(figure->unit);
    const Curve* slopes =
        m_answer && built && m_answer->design == built->hash ? m_answer->curve(figure->name) : nullptr;
    if (figure->slow) { // no slopes are made of it
        out.title = tr("%1: Ask's question Temperatures says what would help most").arg(label);
        return out;
    }
    if (!slopes) {
        out.title = m_job != 0 ? tr("%1: what moves it is being computed …").arg(label)
                               : tr("%1: the design changed; click it again").arg(label);
        return out;
    }
    out.title = tr("%1%2 for 0.1 mm, 0.1° or 1 % more").arg(label, unit.isEmpty() ? QString() : ", " + unit);
    for (std::size_t k = 0; k < slopes->labels.size(); ++k) {
        const Parameter* p = find_parameter(slopes->labels[k]);
        if (!p || !built->machine.values.has(p->path)) continue;
        const double step = drawing_step(*p, built->machine.values.number(p->path)).si;
        const double change = slopes->y[k] * step * figure->factor;
        out.texts[p->path] =
            QStringLiteral("%1%2").arg(change < 0 ? "−" : "+").arg(std::abs(change), 0, 'g', 2);
    }
    return out;
}

} // namespace mavlo::app
