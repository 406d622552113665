#pragma once
// Judges the points of a magnetisation curve before a field is computed with them.

#include "material/bh_curve.h"

#include <string>
#include <vector>

namespace mavlo {

struct Finding {
    enum class Grade { Good, Caution, Fault };
    Grade grade = Grade::Good;
    int row = 0; ///< of the table, from 1 on; 0: the curve as a whole
    std::string sentence;
    bool operator==(const Finding&) const = default;
};

/// What is wrong with the points (faults: no field can be computed, or the curve is not physical), what is
/// doubtful, and what is good. Rows count as given. `polarisation`: the table was read as J, which is checked
/// too: a polarisation must saturate, and a flux density must not.
std::vector<Finding> judge_bh(const std::vector<BhPoint>& points, bool polarisation = false);

/// Rows (from 0 on) whose flux density lies off the line through their neighbours, over log H, by far more
/// than the other rows do.
std::vector<std::size_t> bh_outliers(const std::vector<BhPoint>& points);

/// Slope from one point to the next over that of vacuum: the differential relative permeability.
double slope_between(const BhPoint& a, const BhPoint& b);
/// Slope of the last step over that of vacuum; 0 with fewer than two points.
double last_slope(const std::vector<BhPoint>& points);

bool has_fault(const std::vector<Finding>& findings);

} // namespace mavlo
