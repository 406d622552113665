#pragma once
// What a sweep gave: families of curves, figures over what varies, a map, a cloud of two figures, a table.

#include "plot/map_plot.h"
#include "plot/plot.h"
#include "shell/document.h"
#include "study/study_table.h"

#include <QComboBox>
#include <QLabel>
#include <QStackedWidget>
#include <QTableWidget>

namespace mavlo::app {

class SweepView : public QWidget {
    Q_OBJECT
  public:
    explicit SweepView(Document& document, QWidget* parent = nullptr);
    void show_study(const Study& study, std::vector<StudyRow> rows);
    bool export_to(const QString& file); ///< .csv or .h5, or the picture as .png, .svg or .pdf

  private:
    void fill_choices();
    void show_choice();
    void show_family();
    void show_figure();
    void show_pair();
    void show_map();
    void fill_table();
    void save_as(const QString& suffix);
    const StudyTable::Column* column(const QString& name) const;
    double varied(std::size_t row,
                  std::size_t path) const; ///< in the parameter's unit, or its place in the list
    QString varied_words(std::size_t path) const;
    QString settings_words(std::size_t row) const;

    Document& m_document;
    QComboBox *m_kind, *m_what, *m_against;
    QStackedWidget* m_stack;
    QLabel* m_hint;
    Plot* m_plot;
    MapPlot* m_map;
    QTableWidget* m_list;
    Study m_study;
    std::vector<StudyRow> m_rows;
    StudyTable m_table;
};

} // namespace mavlo::app
