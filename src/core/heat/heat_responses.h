#pragma once
// Temperatures of many losses at once, with films that stay: sums of what each loss does by itself.

#include "heat/machine_heat.h"

namespace mavlo {

/// Linear in the losses: at rest, and K per W of the winding's slots, its ends and each other loss.
class HeatResponses {
  public:
    /// With the films as the model's last steady() found them. Losses that `pattern` does not have are taken as
    /// none.
    static Result<HeatResponses> of(MachineHeatModel& model, const HeatLosses& pattern);

    double slots(const HeatLosses& losses) const { return sum(losses, &One::slots); } ///< mean, K
    double ends(const HeatLosses& losses) const { return sum(losses, &One::ends); }   ///< mean, K
    double winding_highest(const HeatLosses& losses) const;                           ///< K
    double magnets_highest(const HeatLosses& losses) const;                           ///< K; 0 without magnets

  private:
    struct One {
        double slots = 0, ends = 0;
        Eigen::VectorXd winding, magnets; ///< of their nodes
    };
    static One reduced(const MachineHeatModel& model, const Eigen::VectorXd& temperature);
    double sum(const HeatLosses& losses, double One::*of) const;
    Eigen::VectorXd sum(const HeatLosses& losses, Eigen::VectorXd One::*of) const;

    One m_at_rest, m_slots, m_ends;
    std::map<LossPart, One> m_rises;
};

} // namespace mavlo
