#pragma once
// Beside the section on Probe: the current pad, what the field says, and the gap's field.

#include "compute/live_field.h"
#include "plot/plot.h"
#include "probe/dq_pad.h"
#include "probe/phase_pad.h"
#include "probe/shorted_phase.h"
#include "shell/document.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTimer>
#include <QWidget>

namespace mavlo::app {

class ProbePanel : public QWidget {
    Q_OBJECT
  public:
    explicit ProbePanel(Document& document, QWidget* parent = nullptr);

    /// The pad's vector, or phases of the form chosen with its size and advance; of switched phases their own.
    CurrentWave current() const;
    void set_current(Dq current);
    void show_result(const LiveResult& result);
    void show_angle(double radians);

  Q_SIGNALS:
    void current_changed(mavlo::Dq current);
    void angle_wanted(double radians);
    void range_changed(double high);

  private:
    void add_waves(QGridLayout& grid, int row);
    void follow_document();
    void take_vector();
    void show_vector();
    bool is_switched() const;
    void play(bool on);

    Document& m_document;
    DqPad* m_pad;
    PhasePad* m_phases;                ///< in its place where phases are switched by themselves
    std::vector<QWidget*> m_of_vector; ///< what belongs to the current vector alone
    QLabel* m_title;
    QComboBox *m_form, *m_fault;
    ShortedPhase* m_shorted;
    QLineEdit *m_peak, *m_advance, *m_angle, *m_high;
    QLabel* m_readout;
    QPushButton* m_play;
    Plot* m_plot;
    QTimer m_timer;
    double m_rotor = 0;
    void show_waves(const std::vector<double>& radial);
};

} // namespace mavlo::app
