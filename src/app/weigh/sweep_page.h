#pragma once
// A sweep: what varies, what is asked, its price before it runs; then families, curves, maps and a table.

#include "shell/desk.h"
#include "shell/refusal_label.h"
#include "study/slurm.h"
#include "weigh/figure_wishes.h"
#include "weigh/run_buttons.h"
#include "weigh/sweep_view.h"
#include "weigh/vary_rows.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QSpinBox>
#include <QTimer>

namespace mavlo::app {

class SweepPage : public QWidget {
    Q_OBJECT
  public:
    explicit SweepPage(Desk& desk, QWidget* parent = nullptr);
    /// The study as it is set up; says what is wrong.
    Result<Study> study() const;
    bool is_running() const { return m_job != 0; }
    /// A dimension, about its present value.
    void vary(const std::string& path) { m_vary->vary(path); }

  private:
    QWidget* make_setup();
    void ask_price();
    void show_price(const Result<StudyPrice>& price);
    void run();
    std::optional<SlurmJob> cluster_job(const Study& study) const;
    void finished(const Study& study, std::vector<StudyRow> rows);
    void report_progress();

    Desk& m_desk;
    VaryRows* m_vary;
    QComboBox *m_sampling, *m_quality;
    QSpinBox* m_samples;
    QCheckBox* m_cluster;
    FigureWishes* m_questions;
    RefusalLabel* m_price;
    RunButtons* m_run;
    SweepView* m_view;
    QTimer* m_soon;
    int m_job = 0, m_pricing = 0;
};

} // namespace mavlo::app
