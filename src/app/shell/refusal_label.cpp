#include "shell/refusal_label.h"

#include "shell/told_problem.h"

#include <QFocusEvent>
#include <QTextDocumentFragment>

namespace mavlo::app {

RefusalLabel::RefusalLabel(QWidget* parent)
    : QLabel(parent) {
    setWordWrap(true);
    setTextFormat(Qt::PlainText);
    connect(this, &QLabel::linkActivated, this,
            [this](const QString& path) { Q_EMIT place_wanted(path.toStdString()); });
}

void RefusalLabel::show_problem(const Problem& problem, const QString& before) {
    const QString place = place_in_words(problem);
    if (place.isEmpty()) return say(before + told(problem));
    setTextFormat(Qt::RichText);
    setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
    setText(QStringLiteral("%1<a href=\"%2\">%3</a>: %4")
                .arg(before.toHtmlEscaped(), QString::fromStdString(problem.path).toHtmlEscaped(),
                     place.toHtmlEscaped(), QString::fromStdString(problem.sentence).toHtmlEscaped()));
}

void RefusalLabel::say(const QString& words) {
    setTextFormat(Qt::PlainText);
    setTextInteractionFlags(Qt::NoTextInteraction);
    setText(words);
}

/// By Tab the link is in hand at once.
void RefusalLabel::focusInEvent(QFocusEvent* event) {
    QLabel::focusInEvent(event);
    if (event->reason() == Qt::TabFocusReason && textFormat() == Qt::RichText) focusNextPrevChild(true);
}

QString RefusalLabel::words() const {
    return textFormat() == Qt::RichText ? QTextDocumentFragment::fromHtml(text()).toPlainText() : text();
}

} // namespace mavlo::app
