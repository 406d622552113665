#include "shell/explain.h"

#include "shell/theme.h"

#include <QApplication>
#include <QKeyEvent>

namespace mavlo::app {
namespace {

/// What it is called, where its text does not say so.
QString name_of(const QWidget& widget) {
    const QString heard = widget.accessibleName();
    const auto* label = qobject_cast<const QLabel*>(&widget);
    return !heard.isEmpty() ? heard : label ? label->text() : QString();
}

} // namespace

QString explanation_of(const QWidget* widget) {
    QString name;
    for (const QWidget* w = widget; w && !w->isWindow(); w = w->parentWidget()) {
        if (name.isEmpty()) name = name_of(*w);
        const QString told = !w->toolTip().isEmpty() ? w->toolTip() : w->accessibleDescription();
        if (told.isEmpty()) continue;
        return name.isEmpty() || told.startsWith(name) ? told : name + QLatin1Char('\n') + told;
    }
    return {};
}

Explain::Explain(QWidget* window)
    : QLabel(window, Qt::ToolTip) {
    setObjectName(QStringLiteral("explanation"));
    setWordWrap(true);
    setMargin(10);
    setFixedWidth(330);
    setAutoFillBackground(true);
    hide();
}

bool Explain::explain(const QWidget* under, QPoint at) {
    if (isVisible()) {
        hide();
        return false;
    }
    const QString words = explanation_of(under);
    if (words.isEmpty()) return false;
    setText(words + QStringLiteral("\n\n") + tr("F1 once more: all keys and hints"));
    setStyleSheet(QStringLiteral("background: %1; border: 1px solid %2")
                      .arg(theme().sheet.name(), theme().accent.name()));
    adjustSize();
    move(at + QPoint(14, 18));
    show();
    qApp->installEventFilter(this);
    return true;
}

/// It goes with the next press, wherever; F1 itself is the window's.
bool Explain::eventFilter(QObject* watched, QEvent* event) {
    const bool is_key =
        event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() != Qt::Key_F1;
    if (is_key || event->type() == QEvent::MouseButtonPress || event->type() == QEvent::Wheel) hide();
    return QLabel::eventFilter(watched, event);
}

void Explain::hideEvent(QHideEvent* event) {
    qApp->removeEventFilter(this);
    QLabel::hideEvent(event);
}

} // namespace mavlo::app
