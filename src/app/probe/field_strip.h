#pragma once
// The field along the gap, or along a line laid by hand, as wide as the section: a place on the curve is a
// place on the drawing. The wheel zooms, dragging scrolls, a double click shows all.

#include "compute/live_field.h"
#include "shell/document.h"

#include <QWidget>
#include <optional>

namespace mavlo::app {

class FieldStrip : public QWidget {
    Q_OBJECT
  public:
    explicit FieldStrip(Document& document, QWidget* parent = nullptr);

    void show_result(const LiveResult& result);
    /// The place of the section under the cursor; empty: it is elsewhere.
    void show_place(std::optional<Point> place);
    /// As read under the cursor, or what is shown; for the ear and for tests.
    QString reading() const;
    double x_of(double along) const; ///< pixels; of an angle (rad) or a distance (m)

  Q_SIGNALS:
    void place_hovered(std::optional<mavlo::Point> place);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    /// What is drawn: over an angle in rad or a way in m, with the field across it and along it in T.
    struct Course {
        std::vector<double> x, across, lengthwise;
        double end = 1;
    };
    QRectF plot_area() const;
    double along_of(double x) const;
    double y_of(double tesla) const;
    std::size_t nearest(double along) const;
    std::optional<Point> place_at(double along) const;
    std::optional<double> along_at(Point place) const;
    void keep_in_view();
    void paint_scale(QPainter& painter) const;
    void paint_slots(QPainter& painter) const;
    void paint_course(QPainter& painter, const std::vector<double>& values, const QColor& colour) const;
    void paint_cursor(QPainter& painter) const;

    Document& m_document;
    Course m_course;
    std::optional<LineProfile> m_line; ///< none: the gap is shown
    double m_radius = 0;               ///< of the gap's middle, m
    double m_rotor = 0;                ///< rad
    double m_high = 1;                 ///< T
    double m_zoom = 1, m_left = 0;     ///< pixels that are scrolled away
    std::optional<double> m_cursor;    ///< along
    std::optional<double> m_scrolling; ///< x of the hand
};

} // namespace mavlo::app
