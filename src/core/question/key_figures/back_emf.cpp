#include "figure/spectrum.h"
#include "question/key_figure.h"
#include "question/period.h"

#include <fmt/format.h>
#include <numbers>

namespace mavlo::key_back_emf {
namespace {

std::optional<double> line_rms(const QuickFields& f) {
    const Machine& m = f.model->machine;
    if (f.idle.empty()) return std::nullopt;
    const auto e = induced_voltage(period_series(f.idle), m, m.rating.speed);
    std::vector<double> line = e[0];
    if (m.winding.star())
        for (std::size_t i = 0; i < line.size(); ++i) line[i] -= e[1][i];
    return rms(line);
}

const Register<KeyFigure> back_emf{{
    .name = "back_emf_line_rms",
    .order = 30,
    .label = "Line back-EMF at rated speed, rms",
    .unit = "V rms",
    .from_field = true,
    .answered_by = "no-load",
    .applies = [](const Facts& f) { return f.magnets && !f.switched; },
    .title =
        [](const Machine& m) {
            return fmt::format("Line EMF, {:.4g} rpm", m.rating.speed * 30 / std::numbers::pi);
        },
    .value = line_rms,
}};

} // namespace
} // namespace mavlo::key_back_emf
