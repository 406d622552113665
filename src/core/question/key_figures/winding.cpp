#include "question/key_figure.h"

namespace mavlo::key_winding {
namespace {

const Register<KeyFigure> resistance{{
    .name = "phase_resistance",
    .order = 50,
    .label = "Phase resistance",
    .unit = "Ω",
    .better = -1,
    .value =
        [](const QuickFields& f) {
            return f.conductor ? std::optional(f.conductor->resistance) : std::nullopt;
        },
}};

const Register<KeyFigure> fill{{
    .name = "slot_fill",
    .order = 80,
    .label = "Slot fill",
    .value =
        [](const QuickFields& f) { return f.conductor ? std::optional(f.conductor->size.fill) : std::nullopt; },
}};

} // namespace
} // namespace mavlo::key_winding
