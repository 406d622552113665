// Steady temperature of each element with the losses of the current in hand at the rated speed.

#include "figure/balance.h"
#include "question/heat_setup.h"
#include "question/period.h"
#include "section/element_memory.h"
#include "section/overlay.h"

namespace mavlo::app {
namespace {

KnownLosses losses_in_hand(const FieldInHand& field, const PeriodWithLoci& period, double slot_share) {
    const Machine& machine = field.model->machine;
    const double f = electrical_frequency(machine, machine.rating.speed);
    const FieldLosses found = field_losses(*field.model, period.loci);
    const CopperLoss copper = copper_loss(machine, period_series(period.results).current, f, found);
    KnownLosses losses;
    losses.winding = {copper.direct * slot_share, copper.direct * (1 - slot_share),
                      std::max(0.0, copper.alternating - copper.direct) + copper.stray,
                      machine.winding.temperature};
    losses.other.watts = {{LossPart::IronStator, found.stator.at(f)},
                          {LossPart::IronRotor, found.rotor.at(f)},
                          {LossPart::Magnets, found.magnet(f)}};
    const MechanicalLoss mechanical = mechanical_loss(machine, machine.rating.speed);
    losses.other.watts[LossPart::Bearings] = mechanical.bearings;
    losses.other.watts[LossPart::Windage] = mechanical.windage;
    for (std::size_t e = 0; e < found.density.size(); ++e)
        losses.other.iron_density.push_back(
            field.model->part(field.model->elements[e]).use == Use::Iron ? found.density[e].at(f) : 0);
    return losses;
}

/// degC of each element; empty where they are not known.
std::vector<double> temperatures_of(const FieldInHand& field) {
    constexpr int points = 48;
    const Machine& machine = field.model->machine;
    const auto cooling = cooling_of(machine, {});
    if (!cooling) return {};
    const auto model = MachineHeatModel::of(field.model, *cooling, machine.rating.speed);
    const auto period = sweep_period_with_loci(field.model, points, field.current, 1, {});
    if (!model || !period) return {};
    const auto heat = coupled_heat(**model, losses_in_hand(field, *period, (*model)->slot_share()),
                                   machine.winding.conductor_material);
    if (!heat || heat->runs_away_from > 0) return {};
    return (*model)->of_elements(heat->heat);
}

void colour_by_temperature(FieldPicture& picture, const FieldInHand& field) {
    static ElementMemory memory;
    const Facts facts = field.model->machine.facts();
    if (facts.wound && !facts.induced)
        show_of_elements(picture, memory.values(field, temperatures_of),
                         {"temperature for good at the rated speed, °C", "temperature", "°C", 1, true});
}

const Register<Overlay> temperature{{
    .name = "temperature",
    .order = 35,
    .needs_field = true,
    .coloured = true,
    .colour = colour_by_temperature,
}};

} // namespace
} // namespace mavlo::app
