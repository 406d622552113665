#include "heat/heat_responses.h"

#include "heat/heat_groups.h"

#include <algorithm>

namespace mavlo {

HeatResponses::One HeatResponses::reduced(const MachineHeatModel& model, const Eigen::VectorXd& t) {
    One out;
    const auto at = [&](const std::vector<int>& nodes) {
        Eigen::VectorXd values{Eigen::Index(nodes.size())};
        for (std::size_t k = 0; k < nodes.size(); ++k) values[Eigen::Index(k)] = t[nodes[k]];
        return values;
    };
    out.slots = model.mean(HeatPart::Winding, t);
    out.ends = model.has(HeatPart::Ends) ? model.mean(HeatPart::Ends, t) : out.slots;
    out.winding = at(model.stator().nodes_of(stator_winding));
    out.magnets = at(model.rotor().nodes_of(rotor_magnets));
    return out;
}

Result<HeatResponses> HeatResponses::of(MachineHeatModel& model, const HeatLosses& pattern) {
    HeatResponses out;
    HeatLosses unit;
    unit.density = pattern.density;
    const auto rest = model.answer({}, true);
    if (!rest) return rest.problems();
    out.m_at_rest = reduced(model, *rest);
    const auto add = [&](One& to) -> Problems {
        const auto rise = model.answer(unit, false);
        if (!rise) return rise.problems();
        to = reduced(model, *rise);
        return {};
    };
    unit.slots = 1;
    if (auto problems = add(out.m_slots); !problems.empty()) return problems;
    unit.slots = 0;
    unit.ends = 1;
    if (auto problems = add(out.m_ends); !problems.empty()) return problems;
    unit.ends = 0;
    for (const auto& [part, watts] : pattern.watts) {
        unit.watts = {{part, 1.0}};
        if (auto problems = add(out.m_rises[part]); !problems.empty()) return problems;
    }
    return out;
}

double HeatResponses::sum(const HeatLosses& losses, double One::*of) const {
    double value = m_at_rest.*of + (losses.slots + losses.added) * (m_slots.*of) + losses.ends * (m_ends.*of);
    for (const auto& [part, watts] : losses.watts)
        if (const auto found = m_rises.find(part); found != m_rises.end()) value += watts * (found->second.*of);
    return value;
}

Eigen::VectorXd HeatResponses::sum(const HeatLosses& losses, Eigen::VectorXd One::*of) const {
    Eigen::VectorXd value =
        m_at_rest.*of + (losses.slots + losses.added) * (m_slots.*of) + losses.ends * (m_ends.*of);
    for (const auto& [part, watts] : losses.watts)
        if (const auto found = m_rises.find(part); found != m_rises.end()) value += watts * (found->second.*of);
    return value;
}

double HeatResponses::winding_highest(const HeatLosses& losses) const {
    const Eigen::VectorXd t = sum(losses, &One::winding);
    return std::max(t.size() > 0 ? t.maxCoeff() : 0.0, ends(losses));
}

double HeatResponses::magnets_highest(const HeatLosses& losses) const {
    const Eigen::VectorXd t = sum(losses, &One::magnets);
    return t.size() > 0 ? t.maxCoeff() : 0.0;
}

} // namespace mavlo
