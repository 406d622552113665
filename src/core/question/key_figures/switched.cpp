// Of phases that are switched by position.

#include "figure/spectrum.h"
#include "question/key_figure.h"
#include "question/period.h"

namespace mavlo::key_switched {
namespace {

bool is_switched(const Facts& facts) {
    return facts.switched;
}

const Register<KeyFigure> ripple{{
    .name = "torque_peak_to_peak",
    .order = 20,
    .label = "Torque ripple with rated strokes, peak to peak",
    .unit = "N·m",
    .better = -1,
    .from_field = true,
    .answered_by = "load",
    .applies = is_switched,
    .title = [](const Machine&) { return std::string("Ripple p–p"); },
    .value = [](const QuickFields& f) -> std::optional<double> {
        if (!f.aligned || f.loaded.empty()) return std::nullopt;
        return peak_to_peak(period_series(f.loaded).torque);
    },
}};

const Register<KeyFigure> inductance_ratio{{
    .name = "inductance_ratio",
    .order = 30,
    .label = "Inductance, aligned over unaligned",
    .unit = "",
    .better = 1,
    .from_field = true,
    .answered_by = "linkage-curves",
    .applies = is_switched,
    .title = [](const Machine&) { return std::string("L aligned / unaligned"); },
    .value = [](const QuickFields& f) -> std::optional<double> {
        if (!f.aligned || !f.unaligned) return std::nullopt;
        return *f.aligned / *f.unaligned;
    },
}};

} // namespace
} // namespace mavlo::key_switched
