#pragma once
// The hand on Probe's section: shows the place that the strip is read at, and lays a line whose field the strip
// shows. An end is dragged; a new line begins elsewhere; Escape takes it away.

#include "section/section_tool.h"

#include <QObject>
#include <optional>
#include <utility>

namespace mavlo::app {

class ProbeHand : public QObject, public SectionTool {
    Q_OBJECT
  public:
    using Line = std::pair<Point, Point>;
    using QObject::QObject;

    void set_laying(bool on); ///< lines are laid; off takes the line away
    std::optional<Line> line() const { return m_line; }
    void set_marked(std::optional<Point> place);

    void paint(QPainter& painter, const ViewFrame& frame, double rotor_angle) const override;
    bool press(QPointF at, const ViewFrame& frame, double rotor_angle) override;
    bool move(QPointF at, const ViewFrame& frame, double rotor_angle) override;
    bool release(QPointF at, const ViewFrame& frame, double rotor_angle) override;
    bool double_click(QPointF at) override;
    bool key(QKeyEvent& event) override;

  Q_SIGNALS:
    void line_changed();
    void marked_changed(); ///< to be painted anew
    void hovered(mavlo::Point place);

  private:
    enum class Held { Nothing, First, Second };
    bool m_laying = false;
    Held m_held = Held::Nothing;
    std::optional<Line> m_line;
    std::optional<Point> m_marked;
};

} // namespace mavlo::app
