#pragma once
// The picture of a field as a view will show it, made beside the window.

#include "section/overlay.h"

namespace mavlo::app {

/// The field's colours, and what lies over them, as one picture of the whole view.
struct FieldPainter {
    ViewFrame frame;
    QSize size;
    double pixel_ratio = 1, low = 0, high = 2; ///< range of the colours where the picture leaves it to the view
    OverlaySet overlays;
    QImage operator()(const FieldPicture& picture) const {
        const bool own = picture.shown.high > 0;
        QImage image = flux_density_image(picture, frame, size, pixel_ratio, own ? picture.shown.low : low,
                                          own ? picture.shown.high : high);
        QPainter painter(&image);
        painter.setRenderHint(QPainter::Antialiasing);
        for (const Overlay* overlay : overlays.list())
            if (overlay->paint_on_colours) overlay->paint_on_colours(painter, frame, picture);
        return image;
    }
    bool operator==(const FieldPainter&) const = default;
};

} // namespace mavlo::app
