#pragma once
// Two halves of one field's work on two cores.

#include <tbb/parallel_invoke.h>

namespace mavlo {

/// Runs both, side by side where two cores are wanted and free. They share nothing that either writes, so that
/// it does not matter how many there are in truth.
template <typename First, typename Second>
void side_by_side(bool two_cores, const First& first, const Second& second) {
#if defined(__SANITIZE_THREAD__)
    two_cores = false; // how TBB hands work over is not seen
#endif
    if (two_cores) {
        tbb::parallel_invoke(first, second);
    } else {
        first();
        second();
    }
}

} // namespace mavlo
