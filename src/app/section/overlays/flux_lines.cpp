#include "section/overlay.h"
#include "shell/theme.h"

namespace mavlo::app {
namespace {

constexpr int levels = 18;

const Register<Overlay> lines{{
    .name = "flux lines",
    .order = 40,
    .at_first = {"probe"},
    .needs_field = true,
    .paint_on_colours =
        [](QPainter& painter, const ViewFrame& frame, const FieldPicture& picture) {
            paint_flux_lines(painter, frame, picture, levels, QColor(255, 255, 255, 190));
        },
    .paint =
        [](const SectionCanvas& c) {
            if (c.picture && !c.on_colours)
                paint_flux_lines(c.painter, c.frame, *c.picture, levels, theme().ink);
        },
}};

} // namespace
} // namespace mavlo::app
