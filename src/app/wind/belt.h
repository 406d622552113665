#pragma once
// The winding unrolled: slots in a row, coil sides in their phase's colour, coils as arches above. Coil sides
// are dragged to other slots; the wheel zooms, dragging the ground scrolls; a click on a phase shows it alone.

#include "section/phase_focus.h"
#include "shell/document.h"

#include <QWidget>
#include <optional>

namespace mavlo::app {

class Belt : public QWidget {
    Q_OBJECT
  public:
    Belt(Document& document, PhaseFocus& focus, QWidget* parent = nullptr);

    /// Where a coil side is drawn; for the hand and for tests.
    QRectF side_box(CoilSide side) const;
    QRectF phase_box(int phase) const; ///< of the legend

  Q_SIGNALS:
    void said(const QString& sentence);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    QSize sizeHint() const override { return {900, 138}; }

  private:
    const Machine* machine() const;
    double pitch() const;
    double centre_of(int slot) const;
    std::optional<CoilSide> side_at_point(QPointF at) const;
    void paint_coil(QPainter& painter, const Machine& m, const Coil& coil) const;
    void paint_sides(QPainter& painter, const Machine& m) const;
    void paint_numbers(QPainter& painter, const Machine& m) const;
    void paint_legend(QPainter& painter, const Machine& m) const;
    void keep_in_view();

    Document& m_document;
    PhaseFocus& m_focus;
    double m_zoom = 1, m_left = 0; ///< pixels that are scrolled away
    std::optional<CoilSide> m_held, m_over;
    std::optional<double> m_scrolling; ///< x of the hand
};

} // namespace mavlo::app
