#include "question/heat_of_current.h"

#include "figure/balance.h"
#include "question/period.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr int period_points = 48;

KnownLosses losses_of(const MachineModel& model, const PeriodWithLoci& period, double speed,
                      double slot_share) {
    const Machine& machine = model.machine;
    const double f = electrical_frequency(machine, speed);
    const FieldLosses found = field_losses(model, period.loci);
    KnownLosses losses;
    if (machine.wound()) {
        const CopperLoss copper = copper_loss(machine, period_series(period.results).current, f, found);
        losses.winding = {copper.direct * slot_share, copper.direct * (1 - slot_share),
                          std::max(0.0, copper.alternating - copper.direct) + copper.stray,
                          machine.winding.temperature};
    }
    const MechanicalLoss mechanical = mechanical_loss(machine, speed);
    losses.other.watts = {{LossPart::IronStator, found.stator.at(f)},
                          {LossPart::IronRotor, found.rotor.at(f)},
                          {LossPart::Magnets, found.magnet(f)},
                          {LossPart::Bearings, mechanical.bearings},
                          {LossPart::Windage, mechanical.windage}};
    for (const IronLoss& density : found.density) losses.other.density.push_back(density.at(f));
    losses.words = "Losses of a period of fields with these currents.";
    return losses;
}

} // namespace

Result<HeatOfCurrent> HeatOfCurrent::of(std::shared_ptr<const MachineModel> model, const MaterialLibrary& own,
                                        double speed) {
    auto cooling = cooling_of(model->machine, own);
    if (!cooling) return cooling.problems();
    auto heat = MachineHeatModel::of(model, std::move(*cooling), speed);
    if (!heat) return heat.problems();
    HeatOfCurrent out;
    out.m_model = std::move(model);
    out.m_heat = std::move(*heat);
    out.m_speed = speed;
    return out;
}

Result<HeatOfCurrent::Found> HeatOfCurrent::at(const CurrentWave& current, int threads, const Watch& watch) {
    const auto period = sweep_period_with_loci(m_model, period_points, current, threads, watch);
    if (!period) return period.problems();
    KnownLosses losses = losses_of(*m_model, *period, m_speed, m_heat->slot_share());
    auto coupled = coupled_heat(*m_heat, losses, m_model->machine.winding.conductor_material);
    if (!coupled) return coupled.problems();
    Found found{std::move(*coupled), std::move(losses)};
    if (auto problems = keep(found, current.peak()); !problems.empty()) return problems;
    return found;
}

Problems HeatOfCurrent::keep(const Found& found, double peak) {
    Kept kept;
    kept.winding = found.losses.winding;
    const Machine& machine = m_model->machine;
    kept.direct = machine.wound() ? direct_copper_loss(machine, 1) : 0;
    kept.added = peak > 0 ? found.losses.winding.added / (peak * peak) : 0;
    HeatLosses part = found.losses.other;
    const auto all = m_heat->answer(part, true);
    if (!all) return all.problems();
    kept.without = *all;
    part.watts.clear();
    for (const auto& [watts, to] : {std::pair(&HeatLosses::slots, &kept.slots),
                                    {&HeatLosses::ends, &kept.ends},
                                    {&HeatLosses::added, &kept.extra}}) {
        HeatLosses one = part;
        one.*watts = 1;
        const auto rise = m_heat->answer(one, false);
        if (!rise) return rise.problems();
        *to = *rise;
    }
    m_kept = std::move(kept);
    return {};
}

std::optional<Eigen::VectorXd> HeatOfCurrent::estimate(const CurrentWave& current) const {
    constexpr int most_rounds = 60;
    constexpr double same = 1e-3, too_hot = 1500; // K
    if (!m_kept || !m_heat->has(HeatPart::Winding)) return std::nullopt;
    const Machine& machine = m_model->machine;
    const double square = current.peak() * current.peak(), direct = m_kept->direct * square,
                 share = m_heat->slot_share();
    const WindingLoss loss{direct * share, direct * (1 - share), m_kept->added * square,
                           m_kept->winding.temperature};
    const HeatPart ends = m_heat->has(HeatPart::Ends) ? HeatPart::Ends : HeatPart::Winding;
    Eigen::VectorXd t = m_kept->without;
    for (int round = 0; round < most_rounds; ++round) {
        const double before = m_heat->mean(HeatPart::Winding, t);
        const WindingHeat w =
            winding_heat(loss, machine.winding.conductor_material, before, m_heat->mean(ends, t));
        t = m_kept->without + w.slots * m_kept->slots + w.ends * m_kept->ends + w.added * m_kept->extra;
        const double now = m_heat->mean(HeatPart::Winding, t);
        if (!(now < too_hot)) return std::nullopt;
        if (std::abs(now - before) < same) return t;
    }
    return std::nullopt;
}

std::vector<double> HeatOfCurrent::densities(const Found& found) const {
    const HeatLosses& losses = found.coupled.losses;
    std::vector<double> out(m_model->elements.size(), 0.0);
    const auto volume = [&](std::size_t e) {
        return m_model->area(m_model->elements[e]) * m_model->depth * m_model->sector.count;
    };
    const auto spread = [&](Use use, bool rotor, double watts, bool evenly) {
        double sum = 0;
        const auto weight = [&](std::size_t e) {
            const Part& part = m_model->part(m_model->elements[e]);
            const bool own = part.use == use && m_model->is_rotor(part.body) == rotor;
            return !own ? 0.0 : evenly ? 1.0 : std::max(0.0, losses.density[e]);
        };
        for (std::size_t e = 0; e < out.size(); ++e) sum += weight(e) * volume(e);
        for (std::size_t e = 0; sum > 0 && e < out.size(); ++e) out[e] += watts / sum * weight(e);
    };
    const auto watts = [&](LossPart part) {
        const auto known = losses.watts.find(part);
        return known == losses.watts.end() ? 0.0 : known->second;
    };
    spread(Use::Iron, false, watts(LossPart::IronStator), false);
    spread(Use::Iron, true, watts(LossPart::IronRotor), false);
    spread(Use::Magnet, true, watts(LossPart::Magnets), false);
    spread(Use::Conductor, false, losses.slots, true);
    spread(Use::Conductor, false, losses.added, false);
    return out;
}

} // namespace mavlo
