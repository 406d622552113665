#include "shell/flow_layout.h"

#include <QWidget>
#include <algorithm>

namespace mavlo::app {

FlowLayout::FlowLayout(int between, QWidget* parent)
    : QLayout(parent)
    , m_between(between) {
    setContentsMargins(0, 0, 0, 0);
}

void FlowLayout::insert(int index, QWidget* widget) {
    addChildWidget(widget);
    m_items.insert(m_items.begin() + index, std::make_unique<QWidgetItem>(widget));
    invalidate();
}

QLayoutItem* FlowLayout::itemAt(int index) const {
    return index >= 0 && index < count() ? m_items[std::size_t(index)].get() : nullptr;
}

QLayoutItem* FlowLayout::takeAt(int index) {
    if (index < 0 || index >= count()) return nullptr;
    QLayoutItem* taken = m_items[std::size_t(index)].release();
    m_items.erase(m_items.begin() + index);
    return taken;
}

int FlowLayout::lay(const QRect& room, bool place) const {
    const QRect inner = room.marginsRemoved(contentsMargins());
    int x = inner.left(), y = inner.top(), height = 0;
    for (const auto& item : m_items) {
        if (item->isEmpty()) continue;
        const QSize size = item->sizeHint();
        if (x > inner.left() && x + size.width() > inner.right() + 1) {
            x = inner.left();
            y += height + m_between;
            height = 0;
        }
        // What is wider than the room is as wide as that.
        if (place) item->setGeometry({QPoint(x, y), size.boundedTo({inner.width(), size.height()})});
        x += size.width() + m_between;
        height = std::max(height, size.height());
    }
    return y + height + contentsMargins().bottom();
}

int FlowLayout::heightForWidth(int width) const {
    return lay({0, 0, width, 0}, false);
}

QSize FlowLayout::minimumSize() const {
    QSize size(0, 0);
    for (const auto& item : m_items)
        if (!item->isEmpty()) size = size.expandedTo(item->minimumSize());
    return size.grownBy(contentsMargins());
}

QSize FlowLayout::sizeHint() const {
    QSize size(0, 0);
    for (const auto& item : m_items)
        if (!item->isEmpty())
            size = {size.width() + item->sizeHint().width() + (size.width() > 0 ? m_between : 0),
                    std::max(size.height(), item->sizeHint().height())};
    return size.grownBy(contentsMargins());
}

void FlowLayout::setGeometry(const QRect& room) {
    QLayout::setGeometry(room);
    lay(room, true);
}

} // namespace mavlo::app
