#pragma once
// What a strip of designs scrolls: machines are built when they are first seen.

#include "weigh/design_strip.h"

namespace mavlo::app {

class DesignStripRow : public QWidget {
    Q_OBJECT
  public:
    explicit DesignStripRow(QWidget* parent = nullptr);

    void show_designs(const Project& project, std::vector<StripDesign> designs);
    void pick(std::optional<std::size_t> index);
    std::optional<std::size_t> picked() const { return m_picked; }
    QRect place_of(std::size_t index) const;

  Q_SIGNALS:
    void design_picked(std::size_t index);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    struct Cell {
        StripDesign shown;
        std::shared_ptr<const DrawnMachine> built;
        bool is_tried = false;
    };
    void paint_cell(QPainter& painter, Cell& cell, const QRect& box, bool picked);

    Project m_project;
    std::vector<Cell> m_cells;
    std::optional<std::size_t> m_picked;
};

} // namespace mavlo::app
