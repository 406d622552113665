#pragma once
// Beside the section on Wind: the layout's parameters, what follows from them, and the winding factors.

#include "plot/plot.h"
#include "sheet/sheet.h"
#include "shell/document.h"

#include <QLabel>
#include <QLineEdit>
#include <QWidget>

namespace mavlo::app {

class WindPanel : public QWidget {
    Q_OBJECT
  public:
    explicit WindPanel(Document& document, QWidget* parent = nullptr);

  Q_SIGNALS:
    void hovered(const std::string& path);
    void refused(const QString& sentence);

  private:
    void refresh();
    void find_conductor();

    Document& m_document;
    QLabel *m_facts, *m_found;
    QLineEdit* m_wanted;
    Plot* m_plot;
};

} // namespace mavlo::app
