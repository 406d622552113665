#pragma once
// A project that was open lately: its section, its name, and when it was written.

#include "shell/document.h"

#include <QAbstractButton>

namespace mavlo::app {

class RecentRow : public QAbstractButton {
    Q_OBJECT
  public:
    explicit RecentRow(const QString& file, QWidget* parent = nullptr);

    QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void read(); ///< once the page stands, so that it is there at once

    QString m_file, m_day;
    std::shared_ptr<const DrawnMachine> m_built;
};

/// Today's time, or the day, as files say it.
QString told_time(const QDateTime& at);

} // namespace mavlo::app
