#include "section/small_section.h"

#include "section/section_layers.h"

namespace mavlo::app {

ViewFrame small_frame(const QRectF& box, const DrawnMachine& built) {
    ViewFrame frame;
    frame.fit(box, built.drawing.bodies.back().outer_radius);
    return frame;
}

void paint_small_section(QPainter& painter, const QRectF& box, const DrawnMachine& built) {
    const ViewFrame frame = small_frame(box, built);
    painter.save();
    paint_materials(painter, frame, built, {});
    if (box.width() < 120) painter.setOpacity(0.5); // else a small picture is all outline
    paint_outlines(painter, frame, built, {});
    painter.restore();
}

} // namespace mavlo::app
