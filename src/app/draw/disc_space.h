#pragma once
// An axial machine in space, its discs drawn apart, turned by the mouse: to see what it is, no more.

#include "machine/discs.h"
#include "shell/document.h"

#include <QWidget>
#include <memory>

namespace mavlo::app {

class DiscSpace : public QWidget {
    Q_OBJECT
  public:
    explicit DiscSpace(const Document& document, QWidget* parent = nullptr);
    void set_discs(const std::shared_ptr<const Discs>& discs); ///< of the document; null: hidden
    double turn() const { return m_turn; }                     ///< about the axis, rad
    double tilt() const { return m_tilt; } ///< of the eye over the discs' plane, rad; below 0 from below

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    /// A layer where it is drawn: those on either side of a gap stand apart.
    struct Raised {
        const DiscLayer* layer;
        double from, to;
    };
    void turn_by(double turn, double tilt);
    std::vector<Raised> raised() const;
    QPointF placed(Point p, double z) const;
    void paint_ring(QPainter& painter, const Raised& layer) const;
    void paint_parts(QPainter& painter, const Raised& layer) const;
    void paint_prism(QPainter& painter, const Polygon& outline, const Raised& layer,
                     const QColor& colour) const;

    const Document& m_document;
    std::shared_ptr<const Discs> m_discs;
    double m_turn = 0.5, m_tilt = 0.6, m_scale = 1; ///< pixels a metre
    QPointF m_centre, m_pressed;
};

} // namespace mavlo::app
