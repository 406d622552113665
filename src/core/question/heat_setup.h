#pragma once
// What questions about heat share: the losses, the machine's heat model, and the winding's loss that follows
// its temperature.

#include "heat/machine_heat.h"
#include "heat/network.h"
#include "question/question.h"

namespace mavlo {

/// Losses, ambient, and what `load` takes.
std::vector<QuestionInput> heat_inputs();
int heat_solves(const Machine& machine, const Inputs& inputs);

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
    std::string words; ///< where they are from, a sentence
    double total() const { return other.total() + winding.slots + winding.ends + winding.added; }
};

/// Given as text ("copper=120 W, iron_stator=30 W"), or by the question load (of a cage rating-plate) with the
/// same inputs.
Result<KnownLosses> known_losses(QuestionContext& context, const MachineHeatModel& model);
/// The text alone; `auto` is no such text.
Result<KnownLosses> read_losses(const std::string& text, const Machine& machine, double slot_share);

/// The winding's slots and ends at these temperatures (K), with the slopes over them.
struct WindingHeat {
    double slots = 0, ends = 0, slots_slope = 0, ends_slope = 0;
};
WindingHeat winding_heat(const WindingLoss& loss, const Material& conductor, double slots_kelvin,
                         double ends_kelvin);

/// The same as a law of a network's temperatures, with the currents times `factor`: where slots and ends stand
/// in it; without ends (-1) the slots take their loss too.
LossLawOfHeat winding_law(const WindingLoss& loss, const Material& conductor, double factor, Eigen::Index slots,
                          Eigen::Index ends);

/// The heat model on the context's mesh, at the speed of its inputs, with the ambient given there.
Result<std::unique_ptr<MachineHeatModel>> heat_model(QuestionContext& context, double speed);

/// Losses and temperatures that fit each other, or the share of the current's heat up to which there are such.
struct CoupledHeat {
    MachineHeat heat;
    HeatLosses losses;
    double runs_away_from = 0; ///< factor of the current; 0: it does not
};
Result<CoupledHeat> coupled_heat(MachineHeatModel& model, const KnownLosses& losses, const Material& conductor);

} // namespace mavlo
