#pragma once
// Variants as columns: their sections, key figures and dimensions side by side, and their answers overlaid.

#include "plot/plot.h"
#include "weigh/variant_rows.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
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
    void add_heads();
    void add_rows(const QString& group, const std::vector<ComparedRow>& rows);
    void add_figure_word(int row, const ComparedRow& shown);
    QTableWidgetItem* add_text(int row, int column, const QString& text, bool right);
    void turn_direction(int row);
    void fit_height();
    void fill_plot();

    Document& m_document;
    TellTaleEngine& m_engine;
    QPushButton* m_all; ///< rows that are alike, too
    QLabel* m_words;
    QTableWidget* m_table;
    QComboBox* m_choice;
    Plot* m_plot;
    QLabel* m_hint;
    std::vector<const KeyFigure*> m_figure_of_row; ///< null: a head, or a dimension
    BuiltVariants m_built;
};

} // namespace mavlo::app
