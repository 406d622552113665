#pragma once
// Lengths between two points of the drawing: on the section, and as a table where a drawn part is given them.

#include "section/view_frame.h"
#include "shell/document.h"

#include <QLabel>
#include <QPainter>
#include <QTableWidget>

namespace mavlo::app {

/// Each on its pitch, with an arrow at both ends and its length; given ones in the accent.
void paint_dimensions(QPainter& painter, const ViewFrame& frame, const Machine& machine, double rotor_angle);

class DimensionTable : public QWidget {
    Q_OBJECT
  public:
    explicit DimensionTable(Document& document, QWidget* parent = nullptr);

  private:
    void refresh();
    void take_cell(int row, int column);
    void remove();

    Document& m_document;
    QTableWidget* m_table;
    QLabel* m_words;
};

} // namespace mavlo::app
