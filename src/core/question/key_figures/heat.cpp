#include "question/key_figure.h"

namespace mavlo::key_heat {
namespace {

bool warms_up(const Facts& f) {
    return f.wound && !f.induced && !f.axial && !f.linear;
}

const Register<KeyFigure> winding{{
    .name = "temperature_winding_highest",
    .order = 75,
    .label = "Winding for good at the rating",
    .unit = "°C",
    .better = -1,
    .slow = true,
    .from_field = true,
    .answered_by = "heat",
    .applies = warms_up,
    .title = [](const Machine&) { return std::string("Winding"); },
    .value =
        [](const QuickFields& f) { return f.heat ? std::optional(f.heat->winding_highest) : std::nullopt; },
}};

const Register<KeyFigure> magnets{{
    .name = "temperature_magnets",
    .order = 76,
    .label = "Magnets for good at the rating",
    .unit = "°C",
    .better = -1,
    .slow = true,
    .from_field = true,
    .answered_by = "heat",
    .joins = "temperature_winding_highest",
    .applies = [](const Facts& f) { return warms_up(f) && f.magnets; },
    .title = [](const Machine&) { return std::string("magnets"); },
    .value = [](const QuickFields& f) { return f.heat ? f.heat->magnets : std::nullopt; },
}};

} // namespace
} // namespace mavlo::key_heat
