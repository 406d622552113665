#include "section/overlay_chips.h"

namespace mavlo::app {

OverlayChips::OverlayChips(QWidget* parent)
    : QWidget(parent)
    , m_layout(new QHBoxLayout(this)) {
    setObjectName(QStringLiteral("chips"));
    m_layout->setContentsMargins(0, 0, 0, 0);
    m_layout->setSpacing(6);
    for (const Overlay& overlay : registry<Overlay>().all()) {
        auto* button = chip(tr(overlay.name.c_str()), this);
        button->setObjectName(QStringLiteral("overlay:") + QString::fromStdString(overlay.name));
        m_layout->addWidget(button);
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
    m_layout->insertWidget(int(m_own.size()), button);
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
    adjustSize();
}

void OverlayChips::follow() {
    for (const Chip& c : m_chips) c.button->setChecked(chosen().has(c.overlay->name));
}

} // namespace mavlo::app
