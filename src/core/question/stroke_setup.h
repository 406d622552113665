#pragma once
// A switched machine's strokes and what their fields say of the iron.

#include "figure/loss.h"
#include "map/strokes.h"
#include "question/linkage_grid.h"

namespace mavlo {

struct SolvedStrokes {
    LinkageMap map;
    StrokePeriod period;
};

/// The steady stroke on a map that reaches its current: it grows where the current does.
Result<SolvedStrokes> solve_strokes(QuestionContext& context, const std::shared_ptr<const MachineModel>& model,
                                    const StrokeDrive& drive);

/// Losses in the field of that stroke, from so many positions over a period.
Result<FieldLosses> stroke_losses(QuestionContext& context, const std::shared_ptr<const MachineModel>& model,
                                  const StrokePeriod& period, int points);

} // namespace mavlo
