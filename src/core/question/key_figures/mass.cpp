#include "figure/mass.h"

#include "question/key_figure.h"

namespace mavlo::key_mass {
namespace {

const Register<KeyFigure> mass{{
    .name = "active_mass",
    .order = 90,
    .label = "Active mass",
    .unit = "kg",
    .better = -1,
    .value = [](const QuickFields& f) { return std::optional(active_mass(*f.model).total()); },
}};

} // namespace
} // namespace mavlo::key_mass
