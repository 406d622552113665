#pragma once
// Strokes on the fields themselves, every phase with what the others link in it.

#include "figure/iron_in_time.h"
#include "question/stroke_setup.h"

namespace mavlo {

/// A period of all phases together, from the first one's turn-on; angles electrical from its aligned position.
struct FullStrokes {
    StrokePeriod period; ///< of the network of all phases
    std::vector<double> torque_angle, torque;
    std::vector<double> tooth_force; ///< on a tooth of the first phase at those angles, N
    IronInTime::Losses iron;         ///< with every phase's own currents
    StrokeFigures figures;
};

/// From the map's steady stroke; a stroke is run first, in which every phase begins anew.
Result<FullStrokes> full_strokes(QuestionContext& context, const std::shared_ptr<const MachineModel>& model,
                                 const StrokeDrive& drive, const StrokePeriod& quick, int steps);
/// Fields that it solves, about.
int full_stroke_solves(const Machine& machine, int steps);

/// What curves are drawn from, at an electrical angle from the first phase's aligned position.
struct StrokeCurves {
    std::function<double(std::size_t phase, double angle)> current, voltage, linkage, gate;
    std::function<double(double angle)> torque, link;
};
StrokeCurves curves_of(const StrokePeriod& quick, const std::vector<double>& lags);
StrokeCurves curves_of(const FullStrokes& full, std::size_t phases);

} // namespace mavlo
