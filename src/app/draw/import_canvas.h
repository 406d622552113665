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
    void show_nothing();
    const ViewFrame& frame() const { return m_frame; }

  Q_SIGNALS:
    void region_clicked(int number);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

  private:
    int region_at(QPointF position) const; ///< its place in the list, or -1
    void fit();

    ImportedDrawing m_drawing;
    ViewFrame m_frame;
    int m_hot = -1;
};

} // namespace mavlo::app
