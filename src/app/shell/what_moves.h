#pragma once
// A tell-tale in hand: what moves it. The question what-matters, asked of the design as it stands, and its
// slopes as the dimensions on the drawing wear them.

#include "compute/jobs.h"
#include "section/dimension_layer.h"
#include "shell/document.h"

#include <QObject>

namespace mavlo::app {

class WhatMoves : public QObject {
    Q_OBJECT
  public:
    WhatMoves(Document& document, Jobs& jobs, QObject* parent = nullptr);

    /// Takes a key figure in hand, or lets it go when it is there already.
    void choose(const QString& figure);
    const QString& figure() const { return m_figure; }
    /// Of the figure in hand; empty while it is computed, or after the design changed.
    DimensionEffects effects() const;
    bool is_idle() const { return m_job == 0; }

  Q_SIGNALS:
    void changed();
    void refused(const QString& sentence);

  private:
    void ask();
    Ask wanted() const;

    Document& m_document;
    Jobs& m_jobs;
    QString m_figure;
    std::optional<Answer> m_answer; ///< the newest
    int m_job = 0;
};

} // namespace mavlo::app
