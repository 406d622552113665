// Conductors in the colours of their phases.

#include "section/overlay.h"

namespace mavlo::app {
namespace {

const Register<Overlay> phases{{
    .name = "phases",
    .order = 10,
    .at_first = {"draw", "wind"},
    .look = [](SectionLook& look) { look.phases = true; },
}};

} // namespace
} // namespace mavlo::app
