#include "question/overload.h"

#include "heat/heat_groups.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr double first_time = 0.25; // s
constexpr int times_told = 90;

/// Evenly by their logarithms.
std::vector<double> times_up_to(double longest) {
    std::vector<double> times;
    times.reserve(times_told);
    for (int k = 0; k < times_told; ++k)
        times.push_back(first_time * std::pow(longest / first_time, double(k) / (times_told - 1)));
    return times;
}

double magnets_of(const HeatLosses& losses) {
    double sum = 0;
    for (LossPart part : {LossPart::Magnets, LossPart::CarrierMagnets})
        if (const auto found = losses.watts.find(part); found != losses.watts.end()) sum += found->second;
    return sum;
}

} // namespace

Result<Overload> Overload::of(MachineHeatModel& model, const Material& conductor, TemperatureLimits limits) {
    Overload out;
    auto lumps = HeatLumps::of(model);
    if (!lumps) return lumps.problems();
    out.m_lumps = std::move(*lumps);
    out.m_conductor = conductor;
    out.m_limits = limits;
    HeatLosses one;
    one.slots = 1;
    const auto by_slots = model.answer(one, false);
    if (!by_slots) return by_slots.problems();
    out.m_winding_above = std::max(0.0, model.stator().highest(stator_winding, *by_slots) -
                                            model.mean(HeatPart::Winding, *by_slots));
    if (!model.has(HeatPart::Magnets)) return out;
    one = {};
    one.watts[LossPart::Magnets] = 1;
    const auto by_magnets = model.answer(one, false);
    if (!by_magnets) return by_magnets.problems();
    out.m_magnets_above = std::max(0.0, model.rotor().highest(rotor_magnets, *by_magnets) -
                                            model.mean(HeatPart::Magnets, *by_magnets));
    return out;
}

Result<Eigen::VectorXd> Overload::warm(MachineHeatModel& model, const HeatLosses& losses) const {
    const auto t = model.answer(losses, true);
    if (!t) return t.problems();
    Eigen::VectorXd means{Eigen::Index(m_lumps.parts.size())};
    for (std::size_t k = 0; k < m_lumps.parts.size(); ++k)
        means[Eigen::Index(k)] = model.mean(m_lumps.parts[k], *t);
    return means;
}

bool Overload::reached(const Eigen::VectorXd& kelvin, const HeatLosses& losses) const {
    const auto slots = m_lumps.index(HeatPart::Winding), ends = m_lumps.index(HeatPart::Ends),
               magnets = m_lumps.index(HeatPart::Magnets);
    const double copper = losses.slots + losses.added;
    return (slots >= 0 && kelvin[slots] + m_winding_above * copper >= m_limits.winding) ||
           (ends >= 0 && kelvin[ends] >= m_limits.winding) ||
           (magnets >= 0 && kelvin[magnets] + m_magnets_above * magnets_of(losses) >= m_limits.magnets);
}

Result<double> Overload::time(MachineHeatModel& model, const KnownLosses& known, const Eigen::VectorXd& from,
                              double longest) const {
    const auto other = m_lumps.powers(model, known.other);
    if (!other) return other.problems();
    const HeatLosses losses = known.as_found();
    if (reached(from, losses)) return 0.0;
    const LossLawOfHeat winding = winding_law(known.winding, m_conductor, 1, m_lumps.index(HeatPart::Winding),
                                              m_lumps.index(HeatPart::Ends));
    const LossLawOfHeat law = [&](const Eigen::VectorXd& t, Eigen::MatrixXd* slope) {
        return Eigen::VectorXd(*other + winding(t, slope));
    };
    double found = longest;
    heat_over_time(m_lumps.network, law, from, 0, longest, times_up_to(longest),
                   [&](double time, const Eigen::VectorXd& now) {
                       if (!reached(now, losses)) return true;
                       found = time;
                       return false;
                   });
    return found;
}

} // namespace mavlo
