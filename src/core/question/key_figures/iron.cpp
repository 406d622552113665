#include "question/key_figure.h"

#include <cmath>

namespace mavlo::key_iron {
namespace {

std::optional<double> known(double level) {
    return std::isnan(level) ? std::nullopt : std::optional(level);
}

const Register<KeyFigure> tooth{{
    .name = "tooth_flux_density",
    .order = 40,
    .label = "Flux density of the teeth",
    .unit = "T",
    .better = -1,
    .from_field = true,
    .title = [](const Machine&) { return std::string("Tooth"); },
    .value = [](const QuickFields& f) { return known(f.levels.tooth); },
}};

const Register<KeyFigure> yoke{{
    .name = "yoke_flux_density",
    .order = 41,
    .label = "Flux density of the yoke",
    .unit = "T",
    .better = -1,
    .from_field = true,
    .joins = "tooth_flux_density",
    .title = [](const Machine&) { return std::string("yoke"); },
    .value = [](const QuickFields& f) { return known(f.levels.yoke); },
}};

} // namespace
} // namespace mavlo::key_iron
