// |B| as colours: what a picture of a field shows by itself.

#include "section/overlay.h"

namespace mavlo::app {
namespace {

const Register<Overlay> flux_density{{
    .name = "flux density",
    .order = 20,
    .at_first = {"probe"},
    .needs_field = true,
    .coloured = true,
}};

} // namespace
} // namespace mavlo::app
