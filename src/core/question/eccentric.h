#pragma once
// Fields of machines whose rotor lies beside the stator's axis.
//
// A turn of the displacement by a sector and of the pattern with it changes nothing. So with two sectors or
// more torque has no part that is straight in the displacement, and with three or more it depends to second
// order on how far, not on where to; the pull then goes with the displacement wherever that points, so that an
// eccentricity that turns with the rotor (a dynamic one) pulls alike.

#include "machine/displacement.h"
#include "machine/off_centre.h"
#include "question/question.h"

namespace mavlo {

/// Whether it does not matter to second order where the rotor is displaced to.
inline bool alike_all_round(const Machine& machine) {
    return machine.sector().count > 2;
}

/// Tiles of the rotor in a whole turn.
inline int rotor_tiles(const Machine& machine) {
    return machine.sector().count * machine.sector().pitches[std::size_t(machine.section.rotor_index())];
}

/// The input "eccentricity": a length, or a share of the gap.
QuestionInput eccentricity_input(const char* help, double least);
/// What is wrong with a displacement: beyond `most_eccentricity` of the gap.
Problems eccentricity_problems(const Machine& machine, double distance);

/// Of each position.
struct OffCentre {
    std::vector<double> torque; ///< N.m
    std::vector<Point> pull;    ///< on the rotor, N, in the stator's frame
};

/// The whole machine, its fields with the rotor in the middle and what a displacement does to them.
class EccentricMachine {
  public:
    /// Solves the positions with the rotor in the middle. `displacements`: how many will follow, for the
    /// progress that is told.
    static Result<EccentricMachine> of(QuestionContext& context, std::vector<Position> positions,
                                       int displacements, Eccentricity kind = Eccentricity::Static);
    const OffCentre& centred() const { return m_centred; }
    /// The same positions with the rotor displaced by so much, m, in the resting frame or, where it turns with
    /// the rotor, in the rotor's; at most `most_eccentricity` of the gap.
    Result<OffCentre> displaced(Point by) {
        return deformed(m_kind == Eccentricity::Static ? off_centre(by) : beside_axis(by));
    }
    /// The same with what has room displaced or out of shape, by less than its layer of air.
    Result<OffCentre> deformed(const Displacement& displacement) { return solve(displacement, nullptr); }

  private:
    EccentricMachine(QuestionContext& context, std::vector<Position> positions, int displacements,
                     Eccentricity kind);
    Result<OffCentre> solve(const Displacement& displacement, std::vector<FieldSolution>* keep);

    QuestionContext* m_context;
    Eccentricity m_kind;
    Machine m_machine;
    std::vector<Position> m_positions;
    std::vector<FieldSolution> m_fields; ///< of the rotor in the middle, to begin from
    OffCentre m_centred;
    int m_runs, m_done = 0;
};

} // namespace mavlo
