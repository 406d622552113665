#pragma once
// The key figures of a design within a blink: few positions on a coarse mesh.

#include "question/key_figure.h"

namespace mavlo {

/// The mesh they are made for: the plain draft one, a little finer.
inline ModelOptions quick_mesh() {
    return {Quality::Draft, 0.8};
}

/// Fields of a model of the same mesh, moved a little, to begin from; and a place for this model's own.
struct QuickStart {
    const std::vector<FieldSolution>* from = nullptr;
    std::vector<FieldSolution>* keep = nullptr;
};

/// What the key figures are made from: a dozen fields on the draft mesh by the symmetry of a balanced machine.
/// The phases at 4 positions of the part of an electrical period that tells the whole (a sixth with three) are
/// as many samples of one phase as there are in the period; torque repeats after that part; cogging is odd
/// about a magnet on a slot's centre, so half its period will do. Against the full questions these leave out:
/// harmonics of the back-EMF and of the iron's flux beyond the 11th, torque ripple beyond the 18th, cogging
/// waves beyond the 4th of its period, and, but for cogging, which its adjoint field corrects, the accuracy of
/// a finer mesh. `threads` as in sweep(). Stops within one solve.
Result<QuickFields> quick_fields(const std::shared_ptr<const MachineModel>& model, int threads,
                                 const Watch& watch, const QuickStart& start = {});

/// All registered key figures of a design but the slow ones, from its quick fields.
Result<QuickFigures> quick_figures(const std::shared_ptr<const MachineModel>& model, int threads,
                                   const Watch& watch, const QuickStart& start = {});
/// The slow ones, too, with materials of one's own beside the shipped ones.
void add_slow_figures(QuickFigures& figures, const MaterialLibrary& own);

} // namespace mavlo
