#include "section/overlay_chips.h"

#include "shell/spoken.h"

#include <QEvent>
#include <algorithm>

namespace mavlo::app {

OverlayChips::OverlayChips(QWidget* parent)
    : QWidget(parent)
    , m_rows(new FlowLayout(6)) {
    setObjectName(QStringLiteral("chips"));
    if (parent) parent->installEventFilter(this);
    setLayout(m_rows);
    for (const Overlay& overlay : registry<Overlay>().all()) {
        auto* button = chip(spoken(overlay.name), this);
        button->setObjectName(QStringLiteral("overlay:") + QString::fromStdString(overlay.name));
        m_chips.push_back({&overlay, button});
        m_rows->addWidget(button);
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
    // Before the overlays.
    m_rows->insert(int(m_own.size()), button);
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
    constexpr int margin = 24;
    const int room = std::max(200, (parentWidget() ? parentWidget()->width() : 800) - 2 * margin),
              wide = std::min(room, m_rows->sizeHint().width());
    resize(wide, m_rows->heightForWidth(wide));
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
