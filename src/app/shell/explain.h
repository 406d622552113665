#pragma once
// F1: what lies under the cursor, explained beside it.

#include <QLabel>

namespace mavlo::app {

/// Of the widget or what holds it: its tip, else its description, under its name; empty: nothing says anything.
QString explanation_of(const QWidget* widget);

class Explain : public QLabel {
    Q_OBJECT
  public:
    explicit Explain(QWidget* window);

    /// False: nothing is to be said there, or it is said already.
    bool explain(const QWidget* under, QPoint at);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void hideEvent(QHideEvent* event) override;
};

} // namespace mavlo::app
