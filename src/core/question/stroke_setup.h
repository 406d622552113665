#pragma once
// A switched machine's strokes and what their fields say of the iron.

#include "figure/loss.h"
#include "map/strokes.h"
#include "question/linkage_grid.h"

namespace mavlo {

struct SolvedStrokes {
    LinkageMap map;
    StrokePeriod period;
    std::optional<double> avoided{}; ///< A, that the stroke which was given up would have reached
};

/// The steady stroke on a map that reaches its current: it grows where the current does. `otherwise` takes the
/// place of the drive's stroke where that would pass the machine's largest current; empty: it may.
Result<SolvedStrokes> solve_strokes(QuestionContext& context, const std::shared_ptr<const MachineModel>& model,
                                    StrokeDrive& drive, std::optional<StrokeSettings> otherwise = {});

/// What the fields of that stroke say of the iron and of the pull on a tooth of the first phase.
struct StrokeFields {
    FieldLosses losses;
    std::vector<double> angle; ///< electrical from the first phase's aligned position, over a whole period
    std::vector<double> tooth_force; ///< towards the gap, N
};

/// From so many positions over a period.
Result<StrokeFields> stroke_fields(QuestionContext& context, const std::shared_ptr<const MachineModel>& model,
                                   const StrokePeriod& period, int points);
/// Places round the gap at which the pull on a tooth is summed.
int stroke_places(const Machine& machine);

} // namespace mavlo
