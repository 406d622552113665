#pragma once
// An answer that stays in view while another is read: its figures and one of its plots, under a cursor in
// common.

#include "plot/map_plot.h"
#include "plot/plot.h"
#include "question/words.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QWidget>

namespace mavlo::app {

class PinnedAnswer : public QWidget {
    Q_OBJECT
  public:
    explicit PinnedAnswer(QWidget* parent = nullptr);

    void show_answer(const QString& title, const Answer& answer);
    Plot& plot() { return *m_plot; }

  Q_SIGNALS:
    void dropped();

  private:
    void show_figures();
    void show_choice(int index);

    QLabel *m_title, *m_note;
    QHBoxLayout* m_figures;
    QComboBox* m_choice;
    Plot* m_plot;
    MapPlot* m_map;
    Answer m_shown; ///< in the units that read best
    std::vector<CurveGroup> m_groups;
};

} // namespace mavlo::app
