#pragma once
// What warms a machine: losses given, those of load or of a cage's plate, those of a point of the flux map.

#include "heat/machine_heat.h"
#include "map/drive.h"
#include "question/question.h"

namespace mavlo {

/// Losses with the winding's at a temperature, from which it follows its resistivity: direct current's in
/// proportion to it, what alternating current adds in inverse proportion (P.H. Mellor, R. Wrobel, N. McNeill,
/// IEEE IAS Annual Meeting, 2006).
struct WindingLoss {
    double slots = 0, ends = 0; ///< W by direct current at `temperature`
    double added = 0;           ///< W in the slots beside it, likewise
    double temperature = 293.15;
};
struct KnownLosses {
    HeatLosses other; ///< all but the winding's
    WindingLoss winding;
    std::string words;                           ///< where they are from, a sentence
    std::shared_ptr<const FieldLosses> period{}; ///< of the fields that told where they arise
    double total() const { return other.total() + winding.slots + winding.ends + winding.added; }
    /// All of them with the winding's at the temperature that it was found with.
    HeatLosses as_found() const;
    /// Those of a part of the time are so many times as large on average.
    void add(const KnownLosses& more, double share, double current = 1);
};

/// Mean ones; empty where there is no such steel.
struct SteelTemperatures {
    std::optional<double> stator{}, rotor{};
};

/// The name by which a loss is given ("iron_stator").
std::string loss_name(LossPart part);
/// Whether the input leaves the losses to a question.
bool are_asked_for(const Inputs& inputs);
/// Given as text ("copper=120 W, iron_stator=30 W"), or by the question load (of a cage rating-plate) with the
/// same inputs, at this speed (rad/s).
Result<KnownLosses> known_losses(QuestionContext& context, const MachineHeatModel& model, double speed);
/// The same with the magnets at another temperature: by a period of fields of the same currents, or where a
/// supply drives them by load once more. Where iron loses it stays as before.
Result<KnownLosses> losses_with_magnets_at(QuestionContext& context, const KnownLosses& before, double kelvin,
                                           double slot_share);
/// The same with the steels at other temperatures (K): of a period's fields the parts that eddy currents make
/// follow the resistivity. Losses that were given stay.
KnownLosses losses_with_steel_at(const KnownLosses& before, const Machine& machine, double frequency,
                                 const SteelTemperatures& kelvin);
/// Between two of the same question: `share` of the way from a to b.
KnownLosses between(const KnownLosses& a, const KnownLosses& b, double share);
/// Those of a balance, at the machine's temperatures.
KnownLosses losses_of(const Balance& power, const Machine& machine, double slot_share);
/// The text that gives an answer's losses to another question ("copper=120 W, …"); empty where it has none.
std::string losses_in_words(const Answer& answer);
/// The text alone; `auto` is no such text.
Result<KnownLosses> read_losses(const std::string& text, const Machine& machine, double slot_share);

} // namespace mavlo
