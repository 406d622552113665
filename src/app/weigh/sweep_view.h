#pragma once
// What a sweep gave: families of curves, figures over what varies, a map, a cloud of two figures, a table.

#include "plot/map_plot.h"
#include "plot/plot.h"
#include "shell/document.h"
#include "study/study_table.h"
#include "weigh/design_pick.h"
#include "weigh/design_strip.h"
#include "weigh/vary_offer.h"

#include <QComboBox>
#include <QLabel>
#include <QStackedWidget>
#include <QTableWidget>

namespace mavlo::app {

class SweepView : public QWidget {
    Q_OBJECT
  public:
    explicit SweepView(Document& document, QWidget* parent = nullptr);
    /// The `wished` figures come first.
    void show_study(const Study& study, std::vector<StudyRow> rows, std::vector<std::string> wished = {});
    bool export_to(const QString& file); ///< .csv or .h5, or the picture as .png, .svg or .pdf

  Q_SIGNALS:
    void vary_wanted(const std::string& path);

  private:
    void fill_choices();
    void show_choice();
    void show_family();
    void show_figure();
    void show_pair();
    void show_map();
    void fill_table();
    void add_figures(QComboBox& box) const;
    std::optional<std::size_t> nearest_design(double x, double y) const; ///< of the first two that vary
    std::pair<double, double> varied_range(std::size_t path) const;      ///< least and largest
    bool is_wished(const StudyTable::Column& column) const;
    void show_designs();
    void pick(std::size_t design); ///< a row of the table
    PlotCurve picked_point(double x, double y) const;
    QStringList figures_of(std::size_t row) const;
    void save_as(const QString& suffix);
    const StudyTable::Column* column(const QString& name) const;
    double varied(std::size_t row,
                  std::size_t path) const; ///< in the parameter's unit, or its place in the list
    QString varied_words(std::size_t path) const;
    QString settings_words(std::size_t row) const;

    Document& m_document;
    QWidget* m_tools;
    QComboBox *m_kind, *m_what, *m_against;
    QStackedWidget* m_stack;
    VaryOffer* m_offer; ///< before there is a sweep
    QLabel* m_hint;
    Plot* m_plot;
    MapPlot* m_map;
    QTableWidget* m_list;
    Study m_study;
    std::vector<StudyRow> m_rows;
    StudyTable m_table;
    DesignStrip* m_strip;
    DesignPick* m_pick;
    std::vector<std::string> m_wished; ///< figures that were asked for, first in the lists
};

} // namespace mavlo::app
