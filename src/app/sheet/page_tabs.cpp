#include "sheet/page_tabs.h"

namespace mavlo::app {

PageTabs::PageTabs(const QString& prefix, QWidget* parent)
    : QWidget(parent)
    , m_prefix(prefix)
    , m_rows(new FlowLayout(0))
    , m_scroll(new QScrollArea(this)) {
    m_scroll->setFocusPolicy(Qt::NoFocus); // what stands in it takes the keys
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 12, 0, 0);
    layout->setSpacing(4);
    m_rows->setContentsMargins(12, 0, 12, 0);
    layout->addLayout(m_rows);
    layout->addWidget(m_scroll, 1);
    m_scroll->setWidgetResizable(true);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* stack = new QWidget;
    m_stack = new QVBoxLayout(stack);
    m_stack->setContentsMargins(0, 0, 0, 0);
    m_scroll->setWidget(stack);
}

QPushButton* PageTabs::add(const QString& title, QWidget* page) {
    auto* tab = new QPushButton(title, this);
    tab->setObjectName(m_prefix + title);
    tab->setProperty("flat", true);
    tab->setCheckable(true);
    const int index = int(m_tabs.size());
    m_tabs.push_back(tab);
    m_rows->addWidget(tab);
    m_pages.push_back(page);
    m_stack->addWidget(page);
    connect(tab, &QPushButton::clicked, this, [this, index] { show_page(index); });
    show_page(m_page);
    return tab;
}

void PageTabs::show_page(int index) {
    m_page = index;
    for (std::size_t i = 0; i < m_pages.size(); ++i) {
        m_pages[i]->setVisible(int(i) == index);
        m_tabs[i]->setChecked(int(i) == index);
    }
    if (index >= 0 && index < int(m_tabs.size())) Q_EMIT page_shown(m_tabs[std::size_t(index)]->text());
}

bool PageTabs::show_page_named(const QString& title) {
    for (std::size_t i = 0; i < m_tabs.size(); ++i)
        if (m_tabs[i]->text() == title) {
            show_page(int(i));
            return true;
        }
    return false;
}

void PageTabs::show_page_of(const QWidget* page) {
    for (std::size_t i = 0; i < m_pages.size(); ++i)
        if (m_pages[i] == page) show_page(int(i));
}

} // namespace mavlo::app
