#pragma once
// Begins a long search, stops it, and lets it pause.

#include "compute/jobs.h"

#include <QPushButton>
#include <QWidget>

namespace mavlo::app {

class RunButtons : public QWidget {
    Q_OBJECT
  public:
    /// The buttons are named `name` with "_run" and "_pause".
    RunButtons(Jobs& jobs, const QString& verb, const QString& name, QWidget* parent = nullptr);
    void follow(int job, bool can_pause = true); ///< that has begun
    void ended();
    void allow(bool on) { m_run->setEnabled(on); }

  Q_SIGNALS:
    void run_wanted();
    void paused(); ///< it holds, or will as soon as the design in hand is done

  private:
    void run_or_stop();
    void pause_or_go_on();
    void refresh();

    Jobs& m_jobs;
    QString m_verb;
    QPushButton *m_run, *m_pause;
    int m_job = 0;
};

} // namespace mavlo::app
