#pragma once
// A cage on balanced phases, by fields of phasors: what it draws and gives, and the circuit that it is.

#include "field/harmonic_solver.h"
#include "figure/loss.h"
#include "figure/machine_model.h"

#include <optional>

namespace mavlo {

/// Of one phase, in its own connection; the voltage is peak.
struct CageSupply {
    double voltage = 0, frequency = 50;
    double resistance = 0;        ///< Ohm
    double end_inductance = 0;    ///< H, beside what the field links
    std::vector<GapWave> waves{}; ///< what waves round the gap meet beside the field (cage_waves.h)
};

/// Steady operation at a slip. Phasors are peak values of one phase, powers those of all phases and the whole
/// machine.
struct CagePoint {
    double slip = 0;
    std::complex<double> voltage, current;
    std::complex<double> emf;           ///< of the working wave that crosses the bore
    std::complex<double> rotor_current; ///< the bars' working wave, as a current of the stator
    double torque = 0;                  ///< of the gap, all waves
    double working_torque = 0;          ///< of the working wave alone
    double rotor_loss = 0;              ///< each wave's torque times its speed against the rotor
    double bar_loss = 0, ring_loss = 0; ///< as the field holds them, with one slip for all waves
    double copper_loss = 0;
    double input = 0; ///< W at the terminals, without iron loss
    HarmonicField field;
};

/// R1 + jX1 of the stator, jXm, and R2/s + jX2 of the rotor as they are at one point, Ohm of a phase in its own
/// connection. The bore's working wave parts X1 (slots, ends, harmonics round the gap) from the others.
struct CageElements {
    double r1 = 0, x1 = 0, xm = 0;
    std::optional<double> r2{}, x2{}; ///< empty where the rotor carries nothing
};

/// One thread's workspace. Of the bars' and phases' currents one wave works, the one with the machine's pole
/// pairs that turns forward; its coefficients follow from where the conductors lie and the potential on the
/// bore (J. Pyrhonen, T. Jokinen, V. Hrabovcova, Design of Rotating Electrical Machines, 2nd ed., ch. 2 and 7).
class CageField {
  public:
    /// The rotor stands at this angle, mechanical, rad.
    explicit CageField(std::shared_ptr<const MachineModel> model, double angle = 0);

    /// Another workspace of the same.
    CageField fresh() const;

    Result<CagePoint> at(const CageSupply& supply, double slip, const CagePoint* start = nullptr);
    CageElements elements(const CageSupply& supply, const CagePoint& point) const;
    /// Losses of the stator's steel with the point's field, each part at 1 Hz.
    IronLoss stator_iron(const CagePoint& point) const;

    /// Sum over the phases' conductors of turns e^{jn theta}, A, for 1 A of the feed: of the wave with n
    /// periods a turn, forward where n is above zero.
    std::complex<double> moment(int order) const;
    /// A workspace of its own.
    HarmonicSolver solver() const { return {m_model, m_conductance, m_angle}; }
    const MachineModel& model() const { return *m_model; }
    int phases() const { return m_model->machine.winding.phases; }

  private:
    CageField(std::shared_ptr<const MachineModel> model, double angle, std::vector<EddyBody> bodies,
              std::shared_ptr<const Conductance> conductance);
    /// Coefficients of exp(-j n theta) on both sides of the gap for an order and its opposite.
    struct Waves {
        GapElement::Traces forward, backward;
    };
    Waves waves(const HarmonicField& field) const;
    void add_waves(const HarmonicField& field, double omega, CagePoint& out) const;
    std::complex<double> bars_moment(const HarmonicField& field) const;

    std::shared_ptr<const MachineModel> m_model;
    double m_angle;
    std::vector<EddyBody> m_bodies;
    std::vector<std::complex<double>> m_wave; ///< of each phase
    std::complex<double> m_phases_moment;     ///< sum of turns e^{jp theta} for 1 A of the feed
    std::shared_ptr<const Conductance> m_conductance;
    HarmonicSolver m_solver;
};

} // namespace mavlo
