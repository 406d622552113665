#pragma once
// The current vector in the dq plane: drag its tip, or use the arrow keys.

#include "figure/park.h"

#include <QWidget>

namespace mavlo::app {

class DqPad : public QWidget {
    Q_OBJECT
  public:
    explicit DqPad(QWidget* parent = nullptr);

    Dq current() const { return m_current; }
    void set_current(Dq current);
    void set_limit(double amperes); ///< radius of the drawn circle: the largest current
    QPointF tip() const;

  Q_SIGNALS:
    void changed(mavlo::Dq current);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    QSize sizeHint() const override { return {220, 190}; }

  private:
    QPointF centre() const { return QRectF(rect()).center(); }
    double pixels_per_ampere() const;
    void take(QPointF position);
    Dq m_current;
    double m_limit = 10;
};

} // namespace mavlo::app
