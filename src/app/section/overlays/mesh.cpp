// Edges of the elements.

#include "section/overlay.h"
#include "shell/theme.h"

namespace mavlo::app {
namespace {

const Register<Overlay> mesh{{
    .name = "mesh",
    .order = 50,
    .needs_field = true,
    .paint =
        [](const SectionCanvas& c) {
            if (c.picture) paint_mesh(c.painter, c.frame, *c.picture, theme().ink);
        },
}};

} // namespace
} // namespace mavlo::app
