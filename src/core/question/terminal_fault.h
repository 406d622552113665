#pragma once
// Faults at a winding's terminals: which phases close on themselves, and the currents that follow.

#include "circuit/network_window.h"
#include "circuit/phase_machine.h"
#include "figure/park.h"
#include "machine/machine.h"

#include <string>
#include <vector>

namespace mavlo {

enum class Fault { ThreePhase, TwoPhase, PhaseToNeutral };

/// "three-phase", "two-phase", "phase-to-neutral"
const std::vector<std::string>& fault_words();
Fault fault_of(const std::string& word);

/// Whether a current that all phases have in common may flow.
bool has_common_current(Fault fault, const Machine& machine);
/// Why a machine cannot have the fault that the input `path` names; empty where it can.
Problems fault_problems(const std::string& path, Fault fault, const Machine& machine);

/// When and out of what it happens.
struct FaultOnset {
    double speed = 0; ///< of the shaft, rad/s
    double angle = 0; ///< electrical, of the d axis from phase U
    Dq before{};      ///< A: what flowed until then
};

/// The phases' own circuits once some terminals have been joined, everything else being open.
struct FaultCircuit {
    Network network;       ///< of the phases that carry current
    Eigen::MatrixXd loops; ///< 3 rows: the phases' currents of each loop's own
};
/// Two-phase: of U and V; to neutral: U. In a delta phase k lies between the terminals k and k + 1, and two
/// joined ones close a phase on itself and the other two in series. `resistance` of a phase, Ohm.
FaultCircuit fault_circuit(Fault fault, bool delta, double resistance);

/// Of the three phases; 0 where they are open.
Currents phase_currents(const Network& network, const NetworkSample& sample);

/// The currents with which the loops link what they linked with those before: at that instant no loop's flux
/// linkage changes, whatever is cut off beside it (R.E. Doherty, A theorem of constant linkages, General
/// Electric Review 26, 1923).
Currents held_currents(const PhaseMachine& machine, const FaultCircuit& circuit, double angle,
                       const Currents& before);

/// A fault in time. The machine must outlive it.
class FaultRun {
  public:
    FaultRun(const PhaseMachine& phases, FaultCircuit circuit, int pole_pairs, FaultOnset onset, int steps,
             std::function<bool()> stop);
    FaultRun(const FaultRun&) = delete;
    FaultRun& operator=(const FaultRun&) = delete;
    ~FaultRun();

    double period() const; ///< electrical, s
    /// So many periods on, sample by sample.
    Result<std::vector<NetworkSample>> go_on(double periods);
    /// On until it is steady, and a period of that.
    Result<NetworkWindow> steady();

    Currents currents(const NetworkSample& sample) const; ///< of the phases
    Dq vector(const NetworkSample& sample) const;         ///< the same along d and q

  private:
    struct Parts;
    std::unique_ptr<Parts> m;
};

/// What is worst of a fault, over the angles at which it may happen.
struct WorstFault {
    double angle = 0; ///< electrical, rad
    double value = 0;
};
/// The largest of `badness` over the samples of the first periods, tried at so many angles of a turn.
Result<WorstFault> worst_onset(const PhaseMachine& phases, const FaultCircuit& circuit, int pole_pairs,
                               FaultOnset onset, int angles,
                               const std::function<double(const FaultRun&, const NetworkSample&)>& badness,
                               const std::function<bool()>& stop);

} // namespace mavlo
