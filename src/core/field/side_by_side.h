#pragma once
// Parts of one field's work on several cores.

#include <tbb/parallel_for.h>
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

/// f(k) for each k below `count`, on as many cores as are free.
template <typename F>
void each_side_by_side(int count, const F& f) {
#if defined(__SANITIZE_THREAD__)
    for (int k = 0; k < count; ++k) f(k);
#else
    tbb::parallel_for(0, count, f);
#endif
}

} // namespace mavlo
