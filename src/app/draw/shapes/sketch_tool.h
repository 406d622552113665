#pragma once
// Draws shapes on the section and drags their corners: the hand's part of free shapes.

#include "draw/shapes/sketch.h"
#include "draw/shapes/snap.h"
#include "machine/shape_edit.h"
#include "section/section_tool.h"
#include "section/section_view.h"

#include <QLineEdit>
#include <QObject>

namespace mavlo::app {

class SketchTool : public QObject, public SectionTool {
    Q_OBJECT
  public:
    SketchTool(Document& document, SectionView& view, QObject* parent = nullptr);

    void begin(SketchKind kind);
    /// The next click takes a part off the selected shape.
    void begin_trim();
    void cancel();
    bool is_drawing() const { return m_sketch.has_value(); }
    void set_use(Use use) { m_use = use; } ///< of what is drawn next
    void select(const std::string& name);
    const std::string& selected() const { return m_selected; }
    /// Of the machine that was built last; null where it has none of this name.
    const ShapeOutline* outline(const std::string& name) const;
    /// Where a corner of the selected shape stands on the screen; for the hand and for tests.
    std::optional<QPointF> corner_position(std::size_t corner) const;

    void paint(QPainter& painter, const ViewFrame& frame, double rotor_angle) const override;
    bool press(QPointF at, const ViewFrame& frame, double rotor_angle) override;
    bool move(QPointF at, const ViewFrame& frame, double rotor_angle) override;
    bool release(QPointF at, const ViewFrame& frame, double rotor_angle) override;
    bool double_click(QPointF at) override;
    bool key(QKeyEvent& event) override;

  Q_SIGNALS:
    void drawing_changed(bool on);
    void selection_changed(const std::string& name);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void aim(QPointF at);
    PitchPlace first_pitch(const std::string& side) const;
    Point to_pitch(Point world) const;
    Point to_world(Point local) const;
    Snapped snapped(QPointF at, const std::optional<Point>& from);
    std::optional<Point> turned_from() const;
    void add_point(Point local);
    void finish();
    void add_dimension();
    void trim(Point local);
    void take_typed();
    bool grab_corner(QPointF at);
    void drag_to(Point local);
    void say(const QString& sentence);

    Document& m_document;
    SectionView& m_view;
    QLineEdit* m_typed;
    Use m_use = Use::Air;
    std::optional<Sketch> m_sketch;
    bool m_trimming = false;
    PitchPlace m_place;
    double m_rotor_angle = 0;
    std::optional<Snapper> m_snapper;
    Snapped m_cursor;
    std::string m_selected;
    int m_grabbed = -1; ///< corner, or that many past the corners: a circle's edge
    int m_gesture = 0;
    QString m_said;
};

} // namespace mavlo::app
