#pragma once
// The close-up of Draw: one slot pitch over one pole pitch.

#include "section/view_frame.h"
#include "shell/document.h"

#include <QPainterPath>
#include <vector>

namespace mavlo::app {

/// What the close-up shows: the slot at angle 0 and the pole nearest to it. Radii in m, angles in rad.
struct CloseUp {
    struct Part {
        double from = 0, to = 0;     ///< radii, of what is to be seen
        double half = 0, middle = 0; ///< half the pitch, and the angle of its middle
    };
    Part slot, pole;

    /// Corners of what has to fit into the window.
    std::vector<Point> corners() const;
    QPainterPath shape(const ViewFrame& frame) const;
};

CloseUp close_up_of(const DrawnMachine& built, double rotor_angle);

/// Angle by which the close-up turns the drawing, so that its slot stands upright.
inline constexpr double upright = 1.5707963267948966;

/// Pales all that is not in the close-up.
void paint_veil(QPainter& painter, const ViewFrame& frame, const CloseUp& close_up, const QRectF& view);

/// The whole section, small, with the close-up's pitches lit.
void paint_key_plan(QPainter& painter, const QRectF& box, const DrawnMachine& built, const CloseUp& close_up,
                    double rotor_angle);

} // namespace mavlo::app
