#include "section/overlay_chips.h"

#include "shell/spoken.h"

#include <QEvent>
#include <algorithm>

namespace mavlo::app {

OverlayChips::OverlayChips(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("chips"));
    if (parent) parent->installEventFilter(this);
    for (const Overlay& overlay : registry<Overlay>().all()) {
        auto* button = chip(spoken(overlay.name), this);
        button->setObjectName(QStringLiteral("overlay:") + QString::fromStdString(overlay.name));
        m_chips.push_back({&overlay, button});
        connect(button, &QPushButton::clicked, this, [this, &overlay](bool on) {
            m_chosen[m_bench].set(overlay, on);
            follow();
            Q_EMIT changed();
        });
    }
}

QPushButton* OverlayChips::chip(const QString& text, QWidget* parent) {
    auto* button = new QPushButton(text, parent);
    button->setCheckable(true);
    button->setFixedHeight(25);
    return button;
}

QPushButton* OverlayChips::add(const std::string& bench, const QString& text) {
    auto* button = chip(text, this);
    m_own.push_back({bench, button});
    return button;
}

void OverlayChips::set_bench(const std::string& bench) {
    m_bench = bench;
    if (!m_chosen.contains(bench)) m_chosen[bench] = OverlaySet::at_first(bench);
    for (const OwnChip& own : m_own) own.button->setVisible(own.bench == bench);
    for (const Chip& c : m_chips)
        c.button->setVisible(c.overlay->benches.empty() || c.overlay->benches.contains(bench));
    follow();
    place();
}

void OverlayChips::place() {
    constexpr int between = 6, margin = 24;
    const int room = std::max(200, (parentWidget() ? parentWidget()->width() : 800) - 2 * margin);
    int x = 0, y = 0, widest = 0, height = 0;
    const auto put = [&](QPushButton& button) {
        if (button.isHidden()) return;
        const QSize size = button.sizeHint();
        if (x > 0 && x + size.width() > room) x = 0, y += button.height() + between;
        button.setGeometry(x, y, size.width(), button.height());
        x += size.width() + between;
        widest = std::max(widest, x);
        height = y + button.height();
    };
    for (const OwnChip& own : m_own) put(*own.button);
    for (const Chip& c : m_chips) put(*c.button);
    resize(widest, height);
    Q_EMIT placed();
}

bool OverlayChips::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Resize) place();
    return QWidget::eventFilter(watched, event);
}

void OverlayChips::follow() {
    for (const Chip& c : m_chips) c.button->setChecked(chosen().has(c.overlay->name));
}

} // namespace mavlo::app
