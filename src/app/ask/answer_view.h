#pragma once
// An answer: its sentence, its figures, its plots, and the ways to take it elsewhere.

#include "ask/figure_board.h"
#include "ask/pick_panel.h"
#include "ask/question_card.h"
#include "ask/ranking_view.h"
#include "ask/side_by_side.h"
#include "ask/where_view.h"
#include "plot/map_plot.h"
#include "plot/plot.h"
#include "plot/plot_words.h"
#include "question/counterpart.h"
#include "question/words.h"
#include "scope/scope_view.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTimer>
#include <QWidget>

namespace mavlo::app {

/// Another answer to the same question, and by what it differs.
struct OtherAnswer {
    QString name;
    Answer answer;
};

class AnswerView : public QWidget {
    Q_OBJECT
  public:
    explicit AnswerView(Document& document, QWidget* parent = nullptr);

    void show_nothing(const QString& title, const QString& hint);
    /// `others` can be laid over its curves.
    void show_answer(const QString& title, const Answer& answer, AnswerState state,
                     std::vector<OtherAnswer> others = {});
    void show_progress(const QString& text);
    /// A run over time as far as it has come, in the answer's place.
    void show_growing(const QString& title, const std::vector<Curve>& curves);
    PickPanel& picked() { return *m_pick; }
    Plot& plot() { return *m_plot; }
    void set_narrow(bool narrow); ///< without what another answer beside it needs the room of
    ScopeView& scope();
    bool is_idle() const { return !m_plots_soon->isActive() && (!m_scope || m_scope->is_idle()); }
    /// What is shown meanwhile has just come: its figures first, its plots in the next turn of the loop, so
    /// that no call takes long.
    void set_arriving(bool on) { m_arriving = on; }
    /// Figures of what was asked otherwise beside this answer's; `name` as among the others.
    void show_beside(const QString& name);
    bool export_to(const QString& file); ///< .csv, .json, .png, .svg or .pdf

  Q_SIGNALS:
    void export_wanted(const QString& suffix);
    void probe_wanted(const mavlo::app::PickedPoint& point);
    void check_wanted(const mavlo::app::PickedPoint& point); ///< by the full field
    void error_wanted();                     ///< the figures' discretisation errors are asked for
    void heat_wanted(const QString& losses); ///< the temperatures that the answer's losses make
    void pin_wanted(const QString& title, const mavlo::Answer& answer); ///< it stays in view
    void counterpart_wanted(const mavlo::Counterpart& counterpart);

  private:
    QWidget* make_exports();
    void hide_all();
    void show_choice(int index);
    bool shows_scope() const { return m_scope && m_scope->isVisibleTo(this); }
    /// How many of the choices come before the maps: the scope, of a run in time.
    int scopes() const { return m_record ? 1 : 0; }
    void show_map(const Map& map);
    void show_group(const CurveGroup& group);
    void fill_others(std::vector<OtherAnswer> others);
    void show_ranking(const CurveGroup& group);
    std::vector<const OtherAnswer*> chosen_others(bool all_for_none) const;
    void show_side_by_side();
    void fill_counterparts();
    void fold_figures();

    Document& m_document;
    QLabel *m_title, *m_state, *m_sentence, *m_effort;
    FigureBoard* m_figures;
    QComboBox *m_choice, *m_other;
    QWidget* m_tools;
    QTimer* m_plots_soon = new QTimer(this);
    bool m_arriving = false;
    QPushButton *m_lines, *m_error, *m_beside, *m_heat, *m_all, *m_pin;
    QWidget *m_exports, *m_pictures; ///< plot or map, and where it lies
    Plot* m_plot;
    MapPlot* m_map;
    RankingView* m_ranking;
    SideBySide* m_side_by_side;
    ScopeView* m_scope = nullptr;
    Strips* m_growing = nullptr; ///< while a run goes on
    PickPanel* m_pick;
    WhereView* m_where;
    AnswerState m_answer_state = AnswerState::None;
    std::optional<TimeRecord> m_record;
    std::optional<Answer> m_answer;
    Answer m_shown; ///< its curves in the units that read best
    std::vector<OtherAnswer> m_others;
    bool m_compared = false; ///< the table stands among the choices
    std::vector<CurveGroup> m_groups;
};

} // namespace mavlo::app
