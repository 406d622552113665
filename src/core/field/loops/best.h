#pragma once
// The choice between the loops compiled for several generations of vector units, made when the program runs.

namespace mavlo {

#ifdef __x86_64__
template <typename Loops>
const Loops* best_for_processor(const Loops* any, const Loops* avx2, const Loops* avx512) {
    if (__builtin_cpu_supports("avx512f")) return avx512;
    return __builtin_cpu_supports("avx2") && __builtin_cpu_supports("fma") ? avx2 : any;
}
#endif

} // namespace mavlo
