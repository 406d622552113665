#pragma once
// A machine cut along its axis, its parts in the colours of their temperatures, with the heat that flows
// between them and a thermometer for each part that matters.

#include "question/axial_cut.h"

#include <QWidget>

class QPainter;

namespace mavlo::app {

/// Arrows are as wide as the root of what flows.
class HeatView : public QWidget {
    Q_OBJECT
  public:
    explicit HeatView(QWidget* parent = nullptr);
    /// Shows itself where the answer has parts' temperatures and flows.
    void show_answer(const Answer& answer);

    QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    QRectF drawing() const;
    QRectF placed(const QRectF& share) const;
    QPointF placed(QPointF share) const;
    void draw_body(QPainter& painter, const AxialCut::Body& body) const;
    void draw_flow(QPainter& painter, const AxialCut::Flow& flow) const;
    void draw_thermometers(QPainter& painter) const;

    AxialCut m_cut;
};

} // namespace mavlo::app
