#pragma once
// Sizes of winding wires: bare, and over their enamel.

#include <string>
#include <vector>

namespace mavlo {

struct WireSize {
    std::string name;     ///< "0.500 mm", "AWG 24"
    double diameter = 0;  ///< bare, m
    double increase[3]{}; ///< largest increase by the enamel of grade 1, 2 and 3, m
};

/// The nominal diameters of IEC 60317-0-1 (R 20), 0.02 to 5 mm, with the largest overall diameters of its
/// grades.
const std::vector<WireSize>& metric_wires();

/// American wire gauge 4 to 44: d = 0.127 mm 92^((36 - n)/39) (ASTM B258), enamelled as a wire of IEC 60317-0-1
/// of its diameter would be.
const std::vector<WireSize>& gauge_wires();

/// Over the enamel of a round wire of this bare diameter (m); `grade` 1 to 3, 0: bare. Between sizes of the
/// standard the increase goes linearly.
double insulated_diameter(double bare, int grade);

/// The increase of a rectangular wire's width and height by its enamel: IEC 60317-0-2 gives for grade 1 0.06 to
/// 0.11 mm and for grade 2 0.12 to 0.17 mm; their middles are taken.
double rectangular_increase(int grade);

/// The standard sizes next below and above, metric first; empty where the size is beyond all.
struct NearestWires {
    std::vector<WireSize> metric, gauge;
};
NearestWires nearest_wires(double bare);

} // namespace mavlo
