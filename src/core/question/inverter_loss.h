#pragma once
// What an inverter's carrier adds to the losses of a drive's operating points.

#include "circuit/carrier_ripple.h"
#include "map/drive.h"
#include "question/question.h"

namespace mavlo {

/// Loss of ripple currents in iron and magnets, over the plane of currents.
///
/// A ripple about a working point moves the field by its slope over the currents there, dB/di. What it loses is
/// the classical eddy loss of the sheets, with their skin effect at the ripple's own frequency, and that of the
/// magnets in their pieces, both quadratic in di/dt. The slopes are differences of fields at nine vectors of
/// currents and two positions of the rotor each. Its hysteresis and excess are left out, so is the reaction of
/// the currents in the magnets.
class RippleLoss {
  public:
    /// Over currents up to `most` (A, peak) to these sides of the plane.
    static Result<RippleLoss> find(QuestionContext& context, double most, bool positive_d);
    static constexpr int solves = 9 * 2 * 3;

    struct Watts {
        double iron = 0, magnets = 0;
    };
    Watts at(Dq current, const CarrierRipple& ripple) const;

  private:
    GridFunctions m_functions;
    bool m_mirrored = true;
};

/// A drive on an inverter with a carrier.
class InverterLoss {
  public:
    InverterLoss(const Machine& machine, const FluxMap& map, Carrier carrier, RippleLoss loss);

    /// Adds copper's, iron's, magnets' and valves' losses to the point's balance; tells the ripple, A rms.
    double add(OperatingPoint& point) const;

  private:
    Eigen::Matrix2d inductance_at(Dq current) const;
    FluxMap m_map;
    Carrier m_carrier;
    RippleLoss m_loss;
    AcResistance m_alternating;
    double m_resistance;
    int m_pairs, m_phases;
};

/// supply, carrier_frequency, and what valves have.
std::vector<QuestionInput> inverter_inputs();
/// Whether a carrier was asked for.
bool has_carrier(const Inputs& inputs);
Result<InverterLoss> make_inverter_loss(QuestionContext& context, const Drive& drive);

} // namespace mavlo
