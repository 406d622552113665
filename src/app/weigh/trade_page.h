#pragma once
// A trade-off: what is free, what shall be more or less, what must be kept; the cloud of designs grows as it
// runs, and a point of it opens as a drawing and becomes a variant.

#include "shell/desk.h"
#include "study/trade_off.h"
#include "weigh/cloud.h"
#include "weigh/design_picture.h"
#include "weigh/question_checks.h"
#include "weigh/vary_rows.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
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
    void run_or_stop();
    void run();
    void show_front(const TradeFront& front);
    void finished(const Result<TradeFront>& result);
    void fill_axes();
    void show_cloud();
    void show_picked(std::size_t design);
    void keep_picked();

    Desk& m_desk;
    VaryRows* m_free;
    QVBoxLayout* m_goal_column;
    std::vector<GoalRow> m_goals;
    QLineEdit* m_limits;
    QuestionChecks* m_questions;
    QSpinBox *m_designs, *m_seed;
    QLabel *m_state, *m_picked;
    QPushButton *m_run, *m_keep;
    QComboBox *m_x, *m_y;
    Cloud* m_cloud;
    DesignPicture* m_picture;
    QWidget* m_pick = nullptr; ///< of the point in hand
    TradeOff m_trade;
    TradeFront m_front;
    int m_job = 0;
};

} // namespace mavlo::app
