#pragma once
// The library's factorisation of a model's matrix, against which sweeps are measured.

#include "field/cholesky.h"
#include "figure/machine_model.h"
#include "material/bh_curve.h"

#include <algorithm>
#include <chrono>
#include <vector>

namespace mavlo {

/// Stands for the tangent matrix: the linear parts, with the iron as air.
inline std::vector<double> matrix_values(const FieldModel& m) {
    auto values = m.linear_values;
    for (int j = 0; j < m.unknowns(); ++j) values[std::size_t(m.pattern->column[std::size_t(j)])] += nu0;
    return values;
}

/// Seconds that the library needs for one factorisation and substitution of the model's matrix: the yardstick
/// that a wavering machine does not bend.
inline double library_factorisation(const FieldModel& m) {
    auto library = make_cholmod(m.pattern);
    const auto values = matrix_values(m);
    std::vector<double> x(std::size_t(m.unknowns()), 1.0);
    std::vector<double> times;
    for (int i = 0; i < 15; ++i) {
        const auto start = std::chrono::steady_clock::now();
        library->factorise(values);
        library->solve(x);
        times.push_back(std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
    }
    std::nth_element(times.begin(), times.begin() + 7, times.end());
    return times[7];
}

} // namespace mavlo
