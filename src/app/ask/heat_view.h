#pragma once
// A machine cut along its axis, its parts in the colours of their temperatures, with the heat that flows
// between them.

#include "question/answer.h"

#include <QWidget>
#include <vector>

namespace mavlo::app {

/// The upper half, not to scale. Arrows are as wide as the root of what flows.
class HeatView : public QWidget {
    Q_OBJECT
  public:
    explicit HeatView(QWidget* parent = nullptr);
    /// Shows itself where the answer has parts' temperatures and flows.
    void show_answer(const Answer& answer);
    /// Whether a figure is told in the drawing.
    static bool draws(const std::string& figure);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Body {
        QRectF place; ///< shares of the drawing
        QString name;
        double celsius;
        bool mirrored; ///< stands on both sides
    };
    struct Flow {
        QPointF from, to; ///< shares of the drawing
        double watts;
    };
    QRectF placed(const QRectF& share) const;
    QPointF placed(QPointF share) const;
    void draw_body(class QPainter& painter, const Body& body) const;
    void draw_flow(class QPainter& painter, const Flow& flow) const;
    void draw_scale(class QPainter& painter) const;

    std::vector<Body> m_bodies;
    std::vector<Flow> m_flows;
    double m_coldest = 0, m_hottest = 1, m_most = 1;
};

} // namespace mavlo::app
