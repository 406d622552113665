#pragma once
// The whole of a run as a narrow strip, with the stretch that is looked at: dragged, it moves.

#include "question/answer.h"

#include <QWidget>
#include <optional>

namespace mavlo::app {

class TimeBar : public QWidget {
    Q_OBJECT
  public:
    explicit TimeBar(QWidget* parent = nullptr);

    void show_curve(const Curve& curve);       ///< over time from 0
    void show_stretch(double from, double to); ///< s
    double pixel_of(double seconds) const;

  Q_SIGNALS:
    void stretch_wanted(double from, double to);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

  private:
    double seconds_at(double x) const;
    void centre_on(double seconds);
    Curve m_curve;
    double m_from = 0, m_to = 1;
    std::optional<double> m_grabbed; ///< s between the hand and the stretch's middle
};

} // namespace mavlo::app
