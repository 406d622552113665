#pragma once
// The face of a pole towards the gap: a circle about the machine's centre, or about a point off it.

#include "machine/tile_drawing.h"

namespace mavlo {

struct Face {
    Point centre;
    double radius;

    /// The circle that lies `depth` behind the face.
    double behind(const TileFrame& frame, double depth) const { return radius + frame.dir() * depth; }
    /// How deep a point lies behind the face.
    double depth_of(const TileFrame& frame, Point p) const {
        return frame.dir() * (distance(p, centre) - radius);
    }
};

/// A face that touches the gap's circle on the axis, its centre `eccentricity` off the machine's so that the
/// gap widens towards the pole's edges.
Face eccentric_face(const TileFrame& frame, double eccentricity);

/// Draws the iron's face over the whole pole, with the air before it where it is eccentric.
void draw_face(TileDrawing& drawing, const TileFrame& frame, const Face& face, double eccentricity);

/// Air meshed before a shaped face, as a share of the gap: thick enough for elements of a fair shape.
inline constexpr double face_layer = 0.4;

} // namespace mavlo
