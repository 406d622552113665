#pragma once
// What a window says: the texts of its visible widgets, those that are cut, and the fields without a name.

#include <QAbstractButton>
#include <QAbstractSpinBox>
#include <QAccessible>
#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QScrollArea>
#include <QTableWidget>
#include <QTextDocumentFragment>
#include <QTextEdit>
#include <QTreeWidget>
#include <vector>

namespace mavlo::app {

struct ScreenText {
    QString where, text;
};

inline QString shown_text(const QWidget& widget) {
    if (const auto* label = qobject_cast<const QLabel*>(&widget))
        return label->textFormat() == Qt::RichText
                   ? QTextDocumentFragment::fromHtml(label->text()).toPlainText()
                   : label->text();
    if (const auto* button = qobject_cast<const QAbstractButton*>(&widget)) return button->text();
    if (const auto* edit = qobject_cast<const QLineEdit*>(&widget)) return edit->placeholderText();
    return {};
}

/// Of all that is visible; what a user typed (fields, formulas) is his own.
inline std::vector<ScreenText> screen_texts(const QWidget& window) {
    std::vector<ScreenText> list;
    const auto add = [&](const QWidget& widget, const QString& text) {
        if (!text.isEmpty() && !text.startsWith(QLatin1Char('='))) list.push_back({widget.objectName(), text});
    };
    for (const QWidget* widget : window.findChildren<QWidget*>()) {
        if (!widget->isVisible()) continue;
        add(*widget, shown_text(*widget));
        add(*widget, widget->toolTip());
        if (const auto* box = qobject_cast<const QComboBox*>(widget))
            for (int i = 0; i < box->count(); ++i) add(*widget, box->itemText(i));
        if (const auto* table = qobject_cast<const QTableWidget*>(widget))
            for (int r = 0; r < table->rowCount(); ++r)
                for (int c = 0; c < table->columnCount(); ++c)
                    if (const auto* item = table->item(r, c)) add(*widget, item->text());
        if (const auto* names = qobject_cast<const QListWidget*>(widget))
            for (int r = 0; r < names->count(); ++r) add(*widget, names->item(r)->text());
    }
    return list;
}

/// A table's heads that are cut.
inline bool has_cut_heads(const QTableWidget& table) {
    const QHeaderView& heads = *table.horizontalHeader();
    for (int c = 0; heads.isVisible() && c < table.columnCount(); ++c) {
        const auto* item = table.horizontalHeaderItem(c);
        if (item && !heads.isSectionHidden(c) &&
            heads.sectionSize(c) < heads.fontMetrics().horizontalAdvance(item->text()) + 6)
            return true;
    }
    return false;
}

/// Pushed out of what scrolls down only.
inline bool is_pushed_out(const QWidget& widget) {
    const QWidget* above = widget.parentWidget();
    while (above && !qobject_cast<const QScrollArea*>(above)) above = above->parentWidget();
    const auto* area = static_cast<const QScrollArea*>(above);
    if (!area || !area->viewport()->isAncestorOf(&widget)) return false;
    const QPoint at = widget.mapTo(area->viewport(), QPoint(0, 0));
    return at.x() + widget.width() > area->viewport()->width() + 1;
}

/// Labels and buttons whose text does not fit; those that cut by themselves with dots keep it as their tool
/// tip.
inline std::vector<const QWidget*> cut_texts(const QWidget& window) {
    std::vector<const QWidget*> list;
    for (const QWidget* widget : window.findChildren<QWidget*>()) {
        if (!widget->isVisible()) continue;
        const auto* table = qobject_cast<const QTableWidget*>(widget);
        const bool field = qobject_cast<const QLineEdit*>(widget) || qobject_cast<const QComboBox*>(widget);
        if ((table && has_cut_heads(*table)) ||
            ((field || !shown_text(*widget).isEmpty()) && is_pushed_out(*widget)))
            list.push_back(widget);
        if (shown_text(*widget).isEmpty()) continue;
        const auto* label = qobject_cast<const QLabel*>(widget);
        const auto* button = qobject_cast<const QAbstractButton*>(widget);
        if (label && !label->wordWrap() && label->width() + 1 < label->minimumSizeHint().width())
            list.push_back(widget);
        if (label && label->wordWrap() && label->heightForWidth(label->width()) > label->height() + 2)
            list.push_back(widget);
        if (button && widget->metaObject()->className() == QByteArray("QPushButton") &&
            button->width() + 1 < button->fontMetrics().horizontalAdvance(button->text()) + 4)
            list.push_back(widget);
        // Chips over the section stand within it.
        const QWidget* chips = button ? widget->parentWidget() : nullptr;
        if (chips && chips->objectName() == QStringLiteral("chips") && chips->parentWidget() &&
            chips->geometry().right() > chips->parentWidget()->width())
            list.push_back(widget);
        const QRect inside(widget->mapTo(&window, QPoint(0, 0)), widget->size());
        if (label && inside.left() < 0) list.push_back(widget);
    }
    return list;
}

/// What takes the keyboard and says nothing of itself to a screen reader.
inline std::vector<const QWidget*> nameless(const QWidget& window) {
    std::vector<const QWidget*> list;
    for (QWidget* widget : window.findChildren<QWidget*>()) {
        if (!widget->isVisible() || !widget->isEnabled() || !(widget->focusPolicy() & Qt::TabFocus)) continue;
        const QWidget* holder = widget->parentWidget(); // its field is named for both
        if (qobject_cast<const QComboBox*>(holder) || qobject_cast<const QAbstractSpinBox*>(holder)) continue;
        const QAccessibleInterface* heard = QAccessible::queryAccessibleInterface(widget);
        if (!heard || heard->text(QAccessible::Name).trimmed().isEmpty()) list.push_back(widget);
    }
    return list;
}

} // namespace mavlo::app
