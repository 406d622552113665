#pragma once
// Pages in one scrolling column, one shown at a time, chosen by words above them.

#include "shell/flow_layout.h"

#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <vector>

namespace mavlo::app {

class PageTabs : public QWidget {
    Q_OBJECT
  public:
    /// Buttons are named `prefix` and their title.
    explicit PageTabs(const QString& prefix, QWidget* parent = nullptr);

    QPushButton* add(const QString& title, QWidget* page);
    void show_page(int index);
    bool show_page_named(const QString& title); ///< false: there is none
    void show_page_of(const QWidget* page);
    int page() const { return m_page; }
    void ensure_visible(QWidget* child) { m_scroll->ensureWidgetVisible(child); }

  Q_SIGNALS:
    void page_shown(const QString& title);

  private:
    QString m_prefix;
    std::vector<QPushButton*> m_tabs;
    std::vector<QWidget*> m_pages;
    FlowLayout* m_rows;
    QVBoxLayout* m_stack;
    QScrollArea* m_scroll;
    int m_page = 0;
};

} // namespace mavlo::app
