#pragma once
// A drawing from elsewhere as it was understood: its regions in the colours of their roles.

#include "drawing/import.h"
#include "section/view_frame.h"

#include <QWidget>

namespace mavlo::app {

class ImportCanvas : public QWidget {
    Q_OBJECT
  public:
    explicit ImportCanvas(QWidget* parent = nullptr);
    void show_drawing(const ImportedDrawing& drawing);
    /// What does not close, with rings round its open ends.
    void show_open(const OpenDrawing& drawing);
    const ViewFrame& frame() const { return m_frame; }
    void light(const std::vector<int>& numbers); ///< regions that stand out

    /// Where the head of a magnet's arrow stands; empty for other regions.
    std::optional<QPointF> arrow_head(int number) const;

  Q_SIGNALS:
    void region_clicked(int number);
    void region_pointed(int number); ///< under the cursor; 0: none
    void role_wanted(int number, mavlo::Role role);
    void magnet_touched(int number);
    void magnet_turned(int number, double direction); ///< by dragging its arrow, rad

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

  private:
    int region_at(QPointF position) const; ///< its place in the list, or -1
    void fit();
    void paint_open(QPainter& painter) const;
    void paint_healed(QPainter& painter) const;
    void paint_left_out(QPainter& painter) const;
    void paint_counts(QPainter& painter) const;
    void offer_roles(int at, QPoint place);

    ImportedDrawing m_drawing;
    ViewFrame m_frame;
    std::vector<int> m_lit; ///< numbers
    OpenDrawing m_open;
    int m_hot = -1, m_grabbed = -1; ///< places in the list
    double m_turned = 0;            ///< direction of the grabbed arrow, rad
};

} // namespace mavlo::app
