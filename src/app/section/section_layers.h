#pragma once
// The layers of the section's drawing: materials, outlines, phases, magnets' arrows, field and flux lines.

#include "compute/live_field.h"
#include "heat/housing_section.h"
#include "section/view_frame.h"
#include "shell/document.h"

#include <QImage>
#include <QPainter>
#include <QPainterPath>

namespace mavlo::app {

struct SectionLook {
    bool phases = false;    ///< conductors in the colours of their phases
    bool ghost = false;     ///< faded: the last good drawing of a design that cannot be built now
    double rotor_angle = 0; ///< rad
    std::string selected;   ///< path of the region drawn in the accent's outline; empty: none
    bool on_field = false;  ///< outlines lie on the field's pale ground, in both themes
};

/// A region's outline on the screen.
QPainterPath path_of(const Polygon& polygon, const ViewFrame& frame);

void paint_materials(QPainter& painter, const ViewFrame& frame, const DrawnMachine& built,
                     const SectionLook& look);
/// Round what paint_materials() draws, to be painted before it.
void paint_housing(QPainter& painter, const ViewFrame& frame, const HousingSection& housing);
void paint_outlines(QPainter& painter, const ViewFrame& frame, const DrawnMachine& built,
                    const SectionLook& look);
/// The outlines of another design, to stand under the present one's: dashed, in the accent.
void paint_ghost(QPainter& painter, const ViewFrame& frame, const DrawnMachine& other, double rotor_angle);
void paint_magnet_arrows(QPainter& painter, const ViewFrame& frame, const DrawnMachine& built,
                         const SectionLook& look);

/// The size of B (or what else the picture shows) as colours, rasterised by our own loop (one pass over the
/// triangles), each pixel from its element's own linear field; transparent outside the section.
QImage flux_density_image(const FieldPicture& picture, const ViewFrame& frame, QSize size, double pixel_ratio,
                          double low, double high);

void paint_flux_lines(QPainter& painter, const ViewFrame& frame, const FieldPicture& picture, int count,
                      const QColor& colour);
void paint_mesh(QPainter& painter, const ViewFrame& frame, const FieldPicture& picture, const QColor& colour);

/// Colour of the coil side in this slot and layer.
QColor coil_side_colour(const Machine& machine, int slot, int layer);
/// Phase (0…) and sign of the coil side; phase -1 when the slot is empty there.
struct SideOf {
    int phase = -1, sign = 0;
};
SideOf side_of(const Machine& machine, int slot, int layer);

/// What the colours show and A at a point in metres, from the picture.
struct FieldReading {
    double shown, potential;
};
std::optional<FieldReading> read_field(const FieldPicture& picture, Point at);

} // namespace mavlo::app
