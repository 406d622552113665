#include "machine/rotors/face.h"

#include "shape/fillet.h"

namespace mavlo {

Face eccentric_face(const TileFrame& frame, double eccentricity) {
    return {{-frame.dir() * eccentricity, 0}, frame.gap_radius + frame.dir() * eccentricity};
}

void draw_face(TileDrawing& drawing, const TileFrame& frame, const Face& face, double eccentricity) {
    if (eccentricity <= 0) return; // the gap's circle itself
    const Point out = polar(1, frame.half_pitch());
    const auto end = far_crossing({}, out, face.radius, face.centre);
    if (!end) return;
    drawing.arc({frame.gap_radius, 0}, *end, face.centre);
    const double layer = face_layer * frame.gap;
    drawing.lift_gap(layer);
    for (int k = 0; k <= 6; ++k) {
        const Point p = *far_crossing({}, polar(1, frame.half_pitch() * k / 6), face.radius, face.centre);
        drawing.hint(p, 1.5 * (layer + face.depth_of(frame, p) + frame.depth_of(p)));
    }
}

} // namespace mavlo
