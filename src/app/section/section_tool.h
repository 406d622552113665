#pragma once
// What takes the section's mouse and keys while it is in hand, and paints over it.

#include "section/view_frame.h"

#include <QKeyEvent>
#include <QPainter>

namespace mavlo::app {

class SectionTool {
  public:
    virtual ~SectionTool() = default;

    virtual void paint(QPainter& painter, const ViewFrame& frame, double rotor_angle) const = 0;
    /// Each returns whether it took the event; what it leaves is the section's own.
    virtual bool press(QPointF at, const ViewFrame& frame, double rotor_angle) = 0;
    virtual bool move(QPointF at, const ViewFrame& frame, double rotor_angle) = 0;
    virtual bool release(QPointF at, const ViewFrame& frame, double rotor_angle) = 0;
    virtual bool double_click(QPointF at) = 0;
    virtual bool key(QKeyEvent& event) = 0;
};

} // namespace mavlo::app
