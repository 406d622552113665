#pragma once
// How long a machine bears what it does not bear for good.

#include "question/heat_lumps.h"
#include "question/heat_setup.h"

namespace mavlo {

/// K; what is not limited may reach anything.
struct TemperatureLimits {
    static constexpr double none = 1e9;
    double winding = none, magnets = none;
};

/// Times by lumped bodies with films as the model's last steady() found them. The hottest place stands above
/// its body's mean as in the steady state, where less time would leave it nearer: times are a little short.
class Overload {
  public:
    static Result<Overload> of(MachineHeatModel& model, const Material& conductor, TemperatureLimits limits);
    /// To begin from, K: the temperatures without any loss, and those of losses that are borne for good.
    Eigen::VectorXd cold() const { return m_lumps.network.at_rest; }
    Result<Eigen::VectorXd> warm(MachineHeatModel& model, const HeatLosses& losses) const;
    /// s from these temperatures until a limit is reached; `longest` where none is until then.
    Result<double> time(MachineHeatModel& model, const KnownLosses& losses, const Eigen::VectorXd& from,
                        double longest) const;

  private:
    bool reached(const Eigen::VectorXd& kelvin, const HeatLosses& losses) const;

    HeatLumps m_lumps;
    Material m_conductor;
    TemperatureLimits m_limits;
    double m_winding_above = 0,
           m_magnets_above = 0; ///< K/W of the slots' and the magnets' loss, above the mean
};

} // namespace mavlo
