#include "question/heat_lumps.h"

#include "quantity/dense.h"

#include <algorithm>

namespace mavlo {

constexpr double least_capacity = 10; ///< J/K

Result<HeatLumps> HeatLumps::of(MachineHeatModel& model) {
    HeatLumps out;
    for (HeatPart part : model.parts())
        if (model.capacity(part) > least_capacity) out.parts.push_back(part);
    const auto rises = model.rises(out.parts);
    if (!rises) return rises.problems();
    const auto n = Eigen::Index(out.parts.size());
    out.network.conductance = solved(*rises, Eigen::MatrixXd(Eigen::MatrixXd::Identity(n, n)));
    out.network.capacity.resize(n);
    for (Eigen::Index k = 0; k < n; ++k) {
        const HeatPart part = out.parts[std::size_t(k)];
        out.network.names.push_back(to_string(part));
        out.network.capacity[k] = model.capacity(part);
    }
    auto cold = model.at_rest(out.parts);
    if (!cold) return cold.problems();
    out.network.at_rest = std::move(*cold);
    return out;
}

Eigen::Index HeatLumps::index(HeatPart part) const {
    const auto at = std::find(parts.begin(), parts.end(), part);
    return at == parts.end() ? Eigen::Index(-1) : Eigen::Index(at - parts.begin());
}

Result<Eigen::VectorXd> HeatLumps::powers(MachineHeatModel& model, const HeatLosses& losses) const {
    const auto rise = model.answer(losses, false);
    if (!rise) return rise.problems();
    Eigen::VectorXd means{Eigen::Index(parts.size())};
    for (std::size_t k = 0; k < parts.size(); ++k) means[Eigen::Index(k)] = model.mean(parts[k], *rise);
    return Eigen::VectorXd(network.conductance * means);
}

} // namespace mavlo
