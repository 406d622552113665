#pragma once
// Variants: their key figures side by side, and their answers overlaid.

#include "plot/plot.h"
#include "shell/tell_tales.h"

#include <QComboBox>
#include <QTableWidget>
#include <QWidget>

namespace mavlo::app {

class VariantsPage : public QWidget {
    Q_OBJECT
  public:
    VariantsPage(Document& document, TellTaleEngine& engine, QWidget* parent = nullptr);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void follow_document();
    void refresh();
    void fill_table();
    void fill_plot();

    Document& m_document;
    TellTaleEngine& m_engine;
    QTableWidget* m_table;
    QComboBox* m_choice;
    Plot* m_plot;
    QLabel* m_hint;
    std::vector<std::shared_ptr<const DrawnMachine>> m_built; ///< one a variant; empty where it cannot be built
};

} // namespace mavlo::app
