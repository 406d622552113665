#pragma once
// A soft word over a part of a page.

#include <QLabel>

namespace mavlo::app {

inline QLabel* heading(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setProperty("soft", true);
    return label;
}

} // namespace mavlo::app
