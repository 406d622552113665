#pragma once
// An answer: its sentence, its figures, its plots, and the ways to take it elsewhere.

#include "ask/question_card.h"
#include "plot/plot.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QWidget>

namespace mavlo::app {

/// Curves that belong into one plot.
struct PlotGroup {
    QString title;
    std::vector<std::string> names;
    QString x_label, y_label;
    bool bars = false;
};
/// The plots of an answer, from the names, units and axes of its curves.
std::vector<PlotGroup> plot_groups(const Answer& answer);

/// "torque_mean" -> "torque mean"; "back_emf_uv" -> "back-EMF UV".
QString words(const std::string& name);
/// Four digits with unit, scaled to milli or kilo where that reads better; a dash for what does not apply.
QString figure_text(const Figure& figure);

class AnswerView : public QWidget {
    Q_OBJECT
  public:
    explicit AnswerView(QWidget* parent = nullptr);

    void show_nothing(const QString& title, const QString& hint);
    void show_answer(const QString& title, const Answer& answer, AnswerState state);
    void show_progress(const QString& text);
    bool export_to(const QString& file); ///< .csv, .json, .png, .svg or .pdf

  Q_SIGNALS:
    void export_wanted(const QString& suffix);
    void error_wanted(); ///< the figures' discretisation errors are asked for

  private:
    void show_group(int index);
    void fill_figures(const Answer& answer);

    QLabel *m_title, *m_state, *m_sentence, *m_effort;
    QWidget* m_figures;
    QGridLayout* m_grid;
    QComboBox* m_choice;
    QWidget* m_tools;
    QPushButton* m_error;
    Plot* m_plot;
    std::optional<Answer> m_answer;
    std::vector<PlotGroup> m_groups;
};

} // namespace mavlo::app
