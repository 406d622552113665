#pragma once
// Currents of phases that are switched by themselves: a column each, dragged to its height.

#include <QWidget>
#include <vector>

namespace mavlo::app {

class PhasePad : public QWidget {
    Q_OBJECT
  public:
    explicit PhasePad(QWidget* parent = nullptr);

    const std::vector<double>& currents() const { return m_currents; }
    void set_currents(std::vector<double> amperes);
    void set_limit(double amperes);  ///< of a whole column
    QRectF column(int phase) const;  ///< where it may be dragged
    QPointF top_of(int phase) const; ///< middle of its upper end

  Q_SIGNALS:
    void changed();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    QSize sizeHint() const override { return {220, 190}; }

  private:
    void drag(QPointF position);
    void change(double amperes);
    std::vector<double> m_currents;
    double m_limit = 10;
    int m_chosen = 0;
};

} // namespace mavlo::app
