#pragma once
// A network as its schematic, with the element in hand lit.

#include "circuits/schematic_layout.h"

#include <QWidget>

namespace mavlo::app {

class NetworkSchematic : public QWidget {
    Q_OBJECT
  public:
    explicit NetworkSchematic(QWidget* parent = nullptr);
    void show_network(const Network& network);
    void clear();            ///< there is none that can be read
    void set_line(int line); ///< of the netlist: what stands there is lit
    /// Where an element is drawn, for a click and for tests.
    QPointF place_of(const std::string& element) const;

  Q_SIGNALS:
    void line_clicked(int line);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    double column_x(int column) const;
    double row_y(int row) const;
    QPointF middle_of(std::size_t element) const;
    void paint_node(QPainter& painter, std::size_t node) const;
    void paint_element(QPainter& painter, std::size_t element) const;

    Network m_network;
    SchematicLayout m_layout;
    int m_line = 0;
};

} // namespace mavlo::app
