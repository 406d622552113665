#include "question/key_figure.h"

namespace mavlo::key_losses {
namespace {

const Register<KeyFigure> losses{{
    .name = "total_loss",
    .order = 60,
    .label = "Losses at the rating",
    .unit = "W",
    .better = -1,
    .from_field = true,
    .answered_by = "load",
    .applies = [](const Facts& f) { return !f.induced; },
    .title = [](const Machine&) { return std::string("Losses"); },
    .value = [](const QuickFields& f) { return f.balance ? f.balance->total() : std::nullopt; },
}};

const Register<KeyFigure> copper{{
    .name = "copper_loss",
    .order = 61,
    .label = "Copper loss at rated current",
    .unit = "W",
    .better = -1,
    .joins = "total_loss",
    .title = [](const Machine&) { return std::string("copper"); },
    .value = [](const QuickFields& f) -> std::optional<double> {
        if (!f.conductor) return std::nullopt;
        const Machine& m = f.model->machine;
        return direct_copper_loss(m, m.rating.current);
    },
}};

const Register<KeyFigure> efficiency{{
    .name = "efficiency",
    .order = 70,
    .label = "Efficiency at the rating",
    .unit = "%",
    .factor = 100,
    .better = 1,
    .from_field = true,
    .answered_by = "load",
    .applies = [](const Facts& f) { return !f.induced; },
    .title = [](const Machine&) { return std::string("Efficiency"); },
    .value = [](const QuickFields& f) -> std::optional<double> {
        if (!f.balance || f.balance->known_shaft() <= 0) return std::nullopt;
        return f.balance->efficiency();
    },
}};

} // namespace
} // namespace mavlo::key_losses
