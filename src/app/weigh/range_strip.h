#pragma once
// The range over which a dimension varies, on its own scale: the values that are tried, the present one, and
// two ends to be dragged. The wheel makes the values more or fewer.

#include <QWidget>
#include <vector>

namespace mavlo::app {

class RangeStrip : public QWidget {
    Q_OBJECT
  public:
    explicit RangeStrip(QWidget* parent = nullptr);

    /// In the parameter's unit; ends may be dragged to `low` and `high`.
    void show_range(double present, const std::vector<double>& values, double low, double high,
                    bool whole_numbers, const QString& unit);
    QPointF place_of(double value) const;
    QSize sizeHint() const override { return {240, 46}; }

  Q_SIGNALS:
    void range_dragged(double from, double to, int count);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    double value_at(double x) const;
    void move_end(double value);
    void set_scale();
    void tell(int count);

    double m_present = 0, m_low = 0, m_high = 1; ///< and the limits of the parameter
    double m_left = 0, m_right = 1;              ///< of the scale
    std::vector<double> m_values;
    bool m_whole = false;
    int m_end = -1; ///< the one in hand: 0 the first, 1 the last, -1 none
    QString m_unit;
};

} // namespace mavlo::app
