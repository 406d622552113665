#pragma once
// The program, which goes on whatever one of its parts throws.

#include <QApplication>

namespace mavlo::app {

class Application : public QApplication {
    Q_OBJECT
  public:
    using QApplication::QApplication;
    /// An exception ends in a sentence over the window's foot.
    bool notify(QObject* receiver, QEvent* event) override;
};

} // namespace mavlo::app
