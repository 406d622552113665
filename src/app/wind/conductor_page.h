#pragma once
// The conductor: its parameters, one slot packed to scale, and what finds it from a wanted resistance, fill or
// current density, with the standard sizes nearby.

#include "machine/conductor_finder.h"
#include "sheet/sheet.h"
#include "wind/slot_view.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QTableWidget>

namespace mavlo::app {

class ConductorPage : public QWidget {
    Q_OBJECT
  public:
    explicit ConductorPage(Document& document, QWidget* parent = nullptr);

  Q_SIGNALS:
    void hovered(const std::string& path);
    void refused(const QString& sentence);

  private:
    void refresh();
    void find();
    void show_options();
    void take(int row);

    Document& m_document;
    QLabel *m_facts, *m_found;
    QComboBox* m_kind;
    QLineEdit* m_wanted;
    QTableWidget* m_options;
    std::vector<ConductorOption> m_list;
};

} // namespace mavlo::app
