#pragma once
// A cage's machine over its slip by fields of phasors, and the circuit that they make.

#include "circuit/saturated_circuit.h"
#include "figure/cage_waves.h"
#include "question/question.h"

#include <map>

namespace mavlo {

/// Points are found on several threads, each from a neighbour's field; what is found stays. All values as
/// SlipMachine has them: of a phase in star, a delta as its star.
class FieldSlips final : public SlipMachine {
  public:
    struct Circuit {
        double resistance = 0, end_inductance = 0; ///< of a phase in its own connection
        double friction = 0;                       ///< W
    };
    FieldSlips(std::shared_ptr<const MachineModel> model, Circuit circuit, QuestionContext& context);

    Result<SlipPoint> at(double voltage, double frequency, double slip) override;
    Result<std::vector<SlipPoint>> over(double voltage, double frequency,
                                        const std::vector<double>& slips) override;
    /// The point's field as it was found, in the phases' own connection; it must have been.
    const CagePoint& found(double voltage, double frequency, double slip) const;
    /// Of a phase in star, at the point found there.
    CageElements elements(double voltage, double frequency, double slip) const;
    /// Voltages' points at one slip, each from the one before.
    Result<std::vector<SlipPoint>> over_voltages(const std::vector<double>& voltages, double frequency,
                                                 double slip);

    double star_emf(double voltage, double frequency, double slip) const; ///< rms, at a point found
    /// The stator's iron by the field without slip, each part at 1 Hz.
    Result<IronLoss> iron_at_rest(double voltage, double frequency);
    int fields() const { return int(m_known.size()); }

  protected:
    std::vector<double> known_slips(double voltage, double frequency) const override;

  private:
    struct Place {
        double voltage, frequency, slip;
        auto operator<=>(const Place&) const = default;
    };
    CageSupply supply(const Place& place) const;
    Problems find_waves(const Place& place);
    Problems find(const std::vector<Place>& places);
    Problems find_chain(const std::vector<Place>& places, std::vector<CagePoint>& out) const;
    const CagePoint* nearest(const Place& place) const;
    Result<std::vector<SlipPoint>> points(const std::vector<Place>& places);
    Result<SlipPoint> point_of(const Place& place);

    CageField m_field;
    Circuit m_circuit;
    double m_to_star; ///< voltage of a phase in its own connection over that of its star
    QuestionContext& m_context;
    std::map<Place, CagePoint> m_known;
    std::map<double, CageWaves> m_waves;                  ///< by frequency
    std::map<std::pair<double, double>, IronLoss> m_iron; ///< without slip, by voltage and frequency
};

inline constexpr int harmonic_price = 20; ///< of a field of phasors, in fields at rest
inline constexpr int table_fields = 12;   ///< that circuit_table() solves
/// The circuit's elements on this voltage (of a phase in star, rms) and frequency, from the fields over slip
/// and voltage.
Result<CircuitTable> circuit_table(FieldSlips& fields, double voltage, double frequency);

} // namespace mavlo
