#pragma once
// Beside the section on Wind: layout with its alternatives, coils by hand, the conductor in its slot, and the
// waves.

#include "sheet/page_tabs.h"
#include "shell/document.h"

#include <QLabel>

namespace mavlo::app {

class WindPanel : public QWidget {
    Q_OBJECT
  public:
    explicit WindPanel(Document& document, QWidget* parent = nullptr);

  Q_SIGNALS:
    void hovered(const std::string& path);
    void refused(const QString& sentence);

  private:
    QWidget* make_layout_page();
    void refresh();

    Document& m_document;
    QLabel* m_facts;
};

} // namespace mavlo::app
