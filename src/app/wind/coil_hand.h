#pragma once
// Takes coil sides in hand on the section: dragged onto another, the two are exchanged.

#include "section/section_tool.h"
#include "shell/document.h"

#include <QObject>
#include <functional>
#include <optional>

namespace mavlo::app {

/// Exchanges two coil sides of the design as one step to undo.
void exchange_sides(Document& document, CoilSide a, CoilSide b);

class CoilHand : public QObject, public SectionTool {
  public:
    /// `redraw` is called when what it paints has changed.
    CoilHand(Document& document, std::function<void()> redraw, QObject* parent);

    void paint(QPainter& painter, const ViewFrame& frame, double rotor_angle) const override;
    bool press(QPointF at, const ViewFrame& frame, double rotor_angle) override;
    bool move(QPointF at, const ViewFrame& frame, double rotor_angle) override;
    bool release(QPointF at, const ViewFrame& frame, double rotor_angle) override;
    bool double_click(QPointF) override { return false; }
    bool key(QKeyEvent& event) override;

  private:
    std::optional<CoilSide> side_at_point(QPointF at, const ViewFrame& frame) const;
    void drop();

    Document& m_document;
    std::function<void()> m_redraw;
    std::optional<CoilSide> m_held, m_over;
    QPointF m_at;
};

} // namespace mavlo::app
