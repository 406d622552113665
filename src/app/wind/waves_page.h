#pragma once
// Star of slots, the MMF round the gap at an instant, its spectrum with what the waves do, and the
// alternating-current factor over frequency.

#include "plot/plot.h"
#include "section/phase_focus.h"
#include "shell/document.h"

#include <QComboBox>
#include <QLabel>
#include <QSlider>
#include <QTimer>

namespace mavlo::app {

class WavesPage : public QWidget {
    Q_OBJECT
  public:
    WavesPage(Document& document, PhaseFocus& focus, QWidget* parent = nullptr);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void refresh();
    void show_mmf();
    void show_factors();
    void show_spectrum();
    void show_ac();

    Document& m_document;
    QSlider* m_instant;
    QLabel *m_angle, *m_harm;
    QComboBox* m_kind;
    Plot *m_mmf, *m_plot;
};

} // namespace mavlo::app
