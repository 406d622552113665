#include "weigh/run_buttons.h"

#include <QHBoxLayout>

namespace mavlo::app {

RunButtons::RunButtons(Jobs& jobs, const QString& verb, const QString& name, QWidget* parent)
    : QWidget(parent)
    , m_jobs(jobs)
    , m_verb(verb)
    , m_run(new QPushButton(verb, this))
    , m_pause(new QPushButton(this)) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 0, 0, 0);
    m_run->setObjectName(name + QStringLiteral("_run"));
    m_pause->setObjectName(name + QStringLiteral("_pause"));
    m_pause->setToolTip(tr("Holds after the design in hand; what else is asked runs meanwhile."));
    line->addWidget(m_run, 1);
    line->addWidget(m_pause);
    connect(m_run, &QPushButton::clicked, this, &RunButtons::run_or_stop);
    connect(m_pause, &QPushButton::clicked, this, &RunButtons::pause_or_go_on);
    connect(&jobs, &Jobs::changed, this, &RunButtons::refresh);
    m_pause->hide();
}

void RunButtons::follow(int job, bool can_pause) {
    m_job = job;
    m_run->setText(tr("Stop"));
    m_pause->setVisible(can_pause);
    refresh();
}

void RunButtons::ended() {
    m_job = 0;
    m_run->setText(m_verb);
    m_pause->hide();
}

void RunButtons::run_or_stop() {
    if (m_job == 0)
        Q_EMIT run_wanted();
    else
        m_jobs.stop(m_job);
}

void RunButtons::pause_or_go_on() {
    if (m_jobs.is_paused(m_job)) {
        m_jobs.go_on(m_job);
    } else {
        m_jobs.pause(m_job);
        Q_EMIT paused();
    }
}

void RunButtons::refresh() {
    if (m_job != 0) m_pause->setText(m_jobs.is_paused(m_job) ? tr("Go on") : tr("Pause"));
}

} // namespace mavlo::app
