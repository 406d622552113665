#pragma once
// A trade-off: what is free, what shall be more or less, what must be kept; the cloud of designs grows as it
// runs, and a point of it opens as a drawing and becomes a variant.

#include "shell/desk.h"
#include "shell/refusal_label.h"
#include "study/trade_off.h"
#include "weigh/cloud.h"
#include "weigh/design_pick.h"
#include "weigh/design_strip.h"
#include "weigh/figure_wishes.h"
#include "weigh/run_buttons.h"
#include "weigh/vary_rows.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QSpinBox>

namespace mavlo::app {

class TradePage : public QWidget {
    Q_OBJECT
  public:
    explicit TradePage(Desk& desk, QWidget* parent = nullptr);
    /// As it is set up; says what is wrong.
    Result<TradeOff> trade_off() const;
    bool is_running() const { return m_job != 0; }

  private:
    struct GoalRow {
        QComboBox *sense, *expression;
    };
    QWidget* make_setup();
    void complete_limits();
    QWidget* make_answer();
    void add_goal(bool more, const QString& expression);
    void run();
    void show_front(const TradeFront& front);
    void finished(const Result<TradeFront>& result);
    void fill_axes();
    void show_cloud();
    void show_picked(std::size_t design);
    void fill_strip();

    Desk& m_desk;
    VaryRows* m_free;
    QVBoxLayout* m_goal_column;
    std::vector<GoalRow> m_goals;
    QLineEdit* m_limits;
    FigureWishes* m_questions;
    QSpinBox *m_designs, *m_seed;
    RefusalLabel* m_state;
    RunButtons* m_run;
    QComboBox *m_x, *m_y;
    Cloud* m_cloud;
    DesignStrip* m_strip; ///< of the front
    DesignPick* m_pick;   ///< of the point in hand
    TradeOff m_trade;
    TradeFront m_front;
    std::vector<std::size_t> m_order; ///< of the front, as the strip shows it
    int m_job = 0;
};

} // namespace mavlo::app
