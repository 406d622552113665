#include "shell/plain_texts.h"

#include <QAbstractItemView>
#include <QApplication>
#include <QHelpEvent>
#include <QLabel>
#include <QTextDocument>
#include <QToolTip>

namespace mavlo::app {
namespace {

/// What would be shown for the place under the mouse.
QString tip_at(QWidget& widget, const QHelpEvent& event) {
    if (auto* view = qobject_cast<QAbstractItemView*>(widget.parentWidget());
        view && view->viewport() == &widget) {
        const QModelIndex index = view->indexAt(event.pos());
        return index.isValid() ? index.data(Qt::ToolTipRole).toString() : QString();
    }
    return widget.toolTip();
}

class PlainTexts : public QObject {
  public:
    using QObject::QObject;

  protected:
    bool eventFilter(QObject* object, QEvent* event) override {
        if (event->type() == QEvent::Polish) {
            auto* label = qobject_cast<QLabel*>(object);
            if (label && label->textFormat() == Qt::AutoText) label->setTextFormat(Qt::PlainText);
        } else if (event->type() == QEvent::ToolTip && object->isWidgetType()) {
            auto& widget = *static_cast<QWidget*>(object);
            const auto& help = *static_cast<QHelpEvent*>(event);
            const QString tip = tip_at(widget, help);
            if (Qt::mightBeRichText(tip)) {
                QToolTip::showText(help.globalPos(), tip.toHtmlEscaped(), &widget);
                return true;
            }
        }
        return QObject::eventFilter(object, event);
    }
};

} // namespace

void show_plain_texts() {
    static auto* filter = new PlainTexts(qApp);
    qApp->installEventFilter(filter);
}

} // namespace mavlo::app
