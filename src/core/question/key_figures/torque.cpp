#include "question/key_figure.h"

#include <fmt/format.h>

namespace mavlo::key_torque {
namespace {

const Register<KeyFigure> torque{{
    .name = "torque_mean",
    .order = 10,
    .label = "Torque at rated current",
    .unit = "N·m",
    .better = 1,
    .from_field = true,
    .answered_by = "load",
    .applies = [](const Facts& f) { return !f.induced; },
    .title = [](const Machine& m) { return fmt::format("Torque at {:g} A", m.rating.current); },
    .value = [](const QuickFields& f) { return f.torque; },
}};

} // namespace
} // namespace mavlo::key_torque
