#pragma once
// The key figures of a design within a blink: few positions on a coarse mesh.

#include "figure/machine_model.h"
#include "question/sweep.h"

#include <array>
#include <optional>

namespace mavlo {

/// What the tell-tales show, from a dozen fields on the draft mesh by the symmetry of a balanced machine: the
/// phases at 4 positions of the part of an electrical period that tells the whole (a sixth with three) are as
/// many samples of one phase as there are in the period; torque repeats after that part; cogging is odd about a
/// magnet on a slot's centre, so half its period will do. Against the full questions these leave out: harmonics
/// of the back-EMF and of the iron's flux beyond the 11th, torque ripple beyond the 18th, cogging waves beyond
/// the 4th of its period, and, but for cogging, which its adjoint field corrects, the accuracy of a finer mesh.
/// Empty values do not apply (no winding).
struct QuickFigures {
    std::optional<double> torque;   ///< mean at the rated current and advance, N.m
    std::optional<double> cogging;  ///< peak to peak, N.m
    std::optional<double> back_emf; ///< rms between lines at the rated speed, V
    double tooth = 0,
           yoke = 0; ///< flux density at no load (without magnets: at the rated current; see IronLevels), T
    std::optional<double> resistance;  ///< of a phase at the winding's temperature, Ohm
    std::optional<double> copper_loss; ///< at the rated current, W
    std::optional<double> loss;        ///< all of it at the rating, W; empty where a material's is not known
    std::optional<double> efficiency;  ///< at the rating
    std::optional<double> fill;        ///< copper over slot area
    double mass = 0;                   ///< active, kg
    int solves = 0;
    double seconds_per_solve = 0; ///< of one thread
};

/// The mesh they are made for: the plain draft one, a little finer.
inline ModelOptions quick_mesh() {
    return {Quality::Draft, 0.8};
}

/// All of them; `threads` as in sweep(). Stops within one solve.
Result<QuickFigures> quick_figures(const std::shared_ptr<const MachineModel>& model, int threads,
                                   const Watch& watch);

} // namespace mavlo
