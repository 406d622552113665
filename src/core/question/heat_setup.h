#pragma once
// What questions about heat share: the losses, the machine's heat model, and the winding's loss that follows
// its temperature.

#include "heat/machine_heat.h"
#include "heat/network.h"
#include "question/heat_losses.h"

namespace mavlo {

/// Films outside as a flow solver found them.
QuestionInput walls_input();
/// Cooling and ambient as the context's inputs and design have them.
Result<CoolingData> cooling_in(const QuestionContext& context);
/// Losses, ambient, walls, and what `load` takes.
std::vector<QuestionInput> heat_inputs();
int heat_solves(const Machine& machine, const Inputs& inputs);

/// The winding's slots and ends at these temperatures (K), with the slopes over them.
struct WindingHeat {
    double slots = 0, ends = 0, added = 0;  ///< W; `added` lies in the slots, too
    double slots_slope = 0, ends_slope = 0; ///< W/K; of all in the slots
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

/// The same with the losses of the context's inputs. Where load tells them and the magnets come out at another
/// temperature than it took, they are found once more with that; between the two the losses go in proportion.
/// What eddy currents lose in the steels follows their resistivity. The temperatures fit all of it.
struct SelfHeated {
    CoupledHeat found;
    KnownLosses losses;
    bool magnets_count = false; ///< they changed the losses
};
Result<SelfHeated> self_heated(QuestionContext& context, MachineHeatModel& model);

} // namespace mavlo
