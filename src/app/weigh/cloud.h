#pragma once
// A cloud of designs over two figures; the best compromises stand out, and a click picks one.

#include <QWidget>
#include <optional>
#include <vector>

namespace mavlo::app {

struct CloudPoint {
    double x = 0, y = 0;
    std::size_t design = 0;
    bool front = false, within = true, base = false;
};

class Cloud : public QWidget {
    Q_OBJECT
  public:
    explicit Cloud(QWidget* parent = nullptr);
    void show_points(std::vector<CloudPoint> points, const QString& x_label, const QString& y_label);
    std::optional<std::size_t> picked() const { return m_picked; }
    void pick(std::optional<std::size_t> design);
    QPointF place_of(std::size_t design) const; ///< on the widget

  Q_SIGNALS:
    void design_picked(std::size_t design);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

  private:
    QRectF frame() const;
    QPointF place(const CloudPoint& point) const;
    const CloudPoint* nearest(QPointF at) const;
    void paint_axes(QPainter& painter) const;

    std::vector<CloudPoint> m_points;
    QString m_x_label, m_y_label;
    double m_x0 = 0, m_x1 = 1, m_y0 = 0, m_y1 = 1;
    std::optional<std::size_t> m_picked;
    const CloudPoint* m_hot = nullptr;
};

} // namespace mavlo::app
