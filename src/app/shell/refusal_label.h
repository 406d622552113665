#pragma once
// A line that says what is wrong and leads to the row that it means.

#include "quantity/problem.h"

#include <QLabel>

namespace mavlo::app {

class RefusalLabel : public QLabel {
    Q_OBJECT
  public:
    explicit RefusalLabel(QWidget* parent = nullptr);
    /// The row's word is a link, by mouse and by keys, where there is such a row; `before` stands in front.
    void show_problem(const Problem& problem, const QString& before = {});
    void say(const QString& words); ///< that lead nowhere
    /// As it is read.
    QString words() const;

  protected:
    void focusInEvent(QFocusEvent* event) override;

  Q_SIGNALS:
    void place_wanted(const std::string& path); ///< of a parameter, or "--with KEY" of an input
};

} // namespace mavlo::app
