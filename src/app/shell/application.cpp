#include "shell/application.h"

#include "quantity/failure.h"
#include "shell/main_window.h"

namespace mavlo::app {

bool Application::notify(QObject* receiver, QEvent* event) {
    try {
        return QApplication::notify(receiver, event);
    } catch (...) {
        const QString sentence = QString::fromStdString(failure_in_words().sentence);
        for (QWidget* window : topLevelWidgets())
            if (auto* main = qobject_cast<MainWindow*>(window)) main->notify(sentence);
        return true;
    }
}

} // namespace mavlo::app
