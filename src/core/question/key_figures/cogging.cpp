#include "question/key_figure.h"

namespace mavlo::key_cogging {
namespace {

const Register<KeyFigure> cogging{{
    .name = "cogging_peak_to_peak",
    .order = 20,
    .label = "Cogging, peak to peak",
    .unit = "N·m",
    .better = -1,
    .from_field = true,
    .answered_by = "cogging",
    .applies = [](const Facts& f) { return f.magnets && !f.switched; },
    .title = [](const Machine&) { return std::string("Cogging p–p"); },
    .value = [](const QuickFields& f) { return f.cogging; },
}};

} // namespace
} // namespace mavlo::key_cogging
