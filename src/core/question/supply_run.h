#pragma once
// The steady state on a supply by the flux map, and the currents it makes.

#include "circuit/delta.h"
#include "circuit/steady.h"
#include "figure/current_wave.h"
#include "map/map_machine.h"
#include "question/supply_inputs.h"
#include "question/time_map.h"

namespace mavlo {

/// The section's phases by its map, with what all of them have in common and what their end windings link (H).
class PhasesByMap : public PhaseMachine {
  public:
    PhasesByMap(PositionMap map, double end_inductance, double zero_sequence, int pole_pairs)
        : m_section(std::move(map))
        , m_whole(m_section, zero_sequence, pole_pairs)
        , m_phases(m_whole, end_inductance) {}
    PhasesByMap(const PhasesByMap&) = delete;
    PhasesByMap& operator=(const PhasesByMap&) = delete;
    PhaseState at(double angle, const Currents& currents) const override {
        return m_phases.at(angle, currents);
    }

  private:
    MapMachine m_section;
    WithZeroSequence m_whole;
    WithSeriesInductance m_phases;
};

/// The section's machine by its map as a supply sees it: with what its end windings link, and as a delta where
/// it is one.
class MachineOnTerminals : public PhaseMachine {
  public:
    /// H, of a phase and of what all phases have in common.
    MachineOnTerminals(PositionMap map, double end_inductance, double zero_sequence, const Machine& machine);
    MachineOnTerminals(const MachineOnTerminals&) = delete;
    MachineOnTerminals& operator=(const MachineOnTerminals&) = delete;
    PhaseState at(double angle, const Currents& currents) const override {
        return m_is_delta ? m_delta.at(angle, currents) : m_phases.at(angle, currents);
    }

  private:
    PhasesByMap m_phases;
    DeltaAsStar m_delta;
    bool m_is_delta;
};

/// Two sentences, or the one that is not empty.
std::string joined_sentences(const std::string& first, const std::string& second);

/// H, what the current round a delta meets in the section; 0 of a star, whose phases have none in common.
Result<double> zero_sequence_of_terminals(QuestionContext& context);
/// Fields that it takes.
int zero_sequence_of_terminals_solves(const Machine& machine);

/// How far a run's currents go beyond the map's edge, A; 0: not at all.
double run_beyond_map(const FluxMap& map, const SteadyRun& run);

struct MapRun {
    SteadyRun run;
    std::unique_ptr<Supply> supply; ///< as it was at the start
    FluxMap map;                    ///< the means over the rotor's positions
    std::string words;              ///< what was found of the supply, a sentence
};

/// On the supply that the inputs name, at this electrical angular frequency (rad/s), in so many steps a period.
Result<MapRun> run_supply_by_map(QuestionContext& context, double omega, int steps, SteadyOptions steady);

/// The window's currents over the electrical angle: at each of `positions` even angles from `theta` on the mean
/// over the step about it and over the window's periods, so that a carrier's ripple does not alias.
CurrentWave wave_of_run(const SteadyRun& run, double theta, int positions);

} // namespace mavlo
