#pragma once
// The star of slots: a phasor for every coil in its phase's colour, and what each phase sums to.

#include "section/phase_focus.h"
#include "shell/document.h"

#include <QWidget>

namespace mavlo::app {

class StarView : public QWidget {
    Q_OBJECT
  public:
    StarView(Document& document, PhaseFocus& focus, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {360, 210}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void paint_star(QPainter& painter, const Machine& m, QRectF box) const;
    void paint_sums(QPainter& painter, const Machine& m, QRectF box) const;

    Document& m_document;
    PhaseFocus& m_focus;
};

} // namespace mavlo::app
