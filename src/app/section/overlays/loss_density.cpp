// Iron loss of each element at the rated speed, from a coarse sweep of the period.

#include "figure/loss.h"
#include "question/period.h"
#include "section/element_memory.h"
#include "section/overlay.h"

namespace mavlo::app {
namespace {

/// W/m3 of each element; empty where the sweep fails.
std::vector<double> loss_of_elements(const FieldInHand& field) {
    constexpr int points = 48;
    const auto period = sweep_period_with_loci(field.model, points, field.current, 1, {});
    if (!period) return {};
    const Machine& machine = field.model->machine;
    const double f = electrical_frequency(machine, machine.rating.speed);
    std::vector<double> list;
    for (const IronLoss& loss : field_losses(*field.model, period->loci).density) list.push_back(loss.at(f));
    return list;
}

void colour(FieldPicture& picture, const FieldInHand& field) {
    static ElementMemory memory;
    if (field.model->machine.wound())
        show_of_elements(picture, memory.values(field, loss_of_elements),
                         {"loss density at the rated speed, kW/m³", "loss", "kW/m³", 1e-3});
}

const Register<Overlay> loss_density{{
    .name = "loss density",
    .order = 30,
    .needs_field = true,
    .coloured = true,
    .colour = colour,
}};

} // namespace
} // namespace mavlo::app
