#include "winding/wire.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

/// Bare, and largest overall diameters of grades 1, 2, 3, mm (IEC 60317-0-1, table 1).
constexpr double table[][4] = {
    {0.020, 0.024, 0.027, 0.030}, {0.025, 0.031, 0.034, 0.038}, {0.032, 0.039, 0.043, 0.048},
    {0.040, 0.049, 0.054, 0.060}, {0.050, 0.060, 0.066, 0.072}, {0.063, 0.076, 0.083, 0.090},
    {0.071, 0.084, 0.091, 0.097}, {0.080, 0.094, 0.101, 0.108}, {0.090, 0.105, 0.113, 0.120},
    {0.100, 0.117, 0.125, 0.132}, {0.112, 0.130, 0.139, 0.147}, {0.125, 0.144, 0.154, 0.163},
    {0.140, 0.160, 0.171, 0.181}, {0.160, 0.182, 0.194, 0.205}, {0.180, 0.204, 0.217, 0.229},
    {0.200, 0.226, 0.239, 0.252}, {0.224, 0.252, 0.266, 0.280}, {0.250, 0.281, 0.297, 0.312},
    {0.280, 0.312, 0.329, 0.345}, {0.315, 0.349, 0.367, 0.384}, {0.355, 0.392, 0.411, 0.428},
    {0.400, 0.439, 0.459, 0.478}, {0.450, 0.491, 0.513, 0.533}, {0.500, 0.544, 0.566, 0.587},
    {0.560, 0.606, 0.630, 0.653}, {0.630, 0.679, 0.704, 0.728}, {0.710, 0.762, 0.789, 0.814},
    {0.800, 0.855, 0.884, 0.911}, {0.900, 0.959, 0.989, 1.018}, {1.000, 1.062, 1.094, 1.124},
    {1.120, 1.184, 1.217, 1.248}, {1.250, 1.316, 1.349, 1.381}, {1.400, 1.468, 1.502, 1.535},
    {1.600, 1.670, 1.706, 1.740}, {1.800, 1.872, 1.909, 1.944}, {2.000, 2.074, 2.112, 2.148},
    {2.240, 2.316, 2.355, 2.392}, {2.500, 2.578, 2.618, 2.656}, {2.800, 2.880, 2.922, 2.961},
    {3.150, 3.233, 3.276, 3.316}, {3.550, 3.635, 3.679, 3.721}, {4.000, 4.088, 4.133, 4.176},
    {4.500, 4.591, 4.637, 4.681}, {5.000, 5.093, 5.141, 5.186}};

double increase_of(double bare, int grade) {
    if (grade < 1) return 0;
    const double d = bare / mm;
    const auto increase = [&](const double* row) { return row[grade] - row[0]; };
    const auto above =
        std::find_if(std::begin(table), std::end(table), [&](const double* row) { return row[0] >= d; });
    if (above == std::begin(table)) return mm * increase(*above) * d / (*above)[0];
    if (above == std::end(table)) return mm * increase(*(std::end(table) - 1));
    const double* below = *(above - 1);
    const double share = (d - below[0]) / ((*above)[0] - below[0]);
    return mm * ((1 - share) * increase(below) + share * increase(*above));
}

WireSize wire(std::string name, double bare) {
    WireSize size{std::move(name), bare, {}};
    for (int grade = 1; grade <= 3; ++grade) size.increase[grade - 1] = increase_of(bare, grade);
    return size;
}

std::vector<WireSize> round_about(const std::vector<WireSize>& rising, double bare) {
    const auto above = std::find_if(rising.begin(), rising.end(),
                                    [&](const WireSize& w) { return w.diameter > bare * (1 - 1e-9); });
    std::vector<WireSize> near;
    if (above != rising.begin()) near.push_back(*(above - 1));
    if (above != rising.end()) near.push_back(*above);
    return near;
}

} // namespace

const std::vector<WireSize>& metric_wires() {
    static const auto list = [] {
        std::vector<WireSize> all;
        for (const auto& row : table) all.push_back(wire(fmt::format("{:.3f} mm", row[0]), mm * row[0]));
        return all;
    }();
    return list;
}

const std::vector<WireSize>& gauge_wires() {
    static const auto list = [] {
        std::vector<WireSize> all;
        for (int n = 44; n >= 4; --n)
            all.push_back(wire(fmt::format("AWG {}", n), 0.127 * mm * std::pow(92.0, (36 - n) / 39.0)));
        return all;
    }();
    return list;
}

double insulated_diameter(double bare, int grade) {
    return bare + increase_of(bare, grade);
}

double rectangular_increase(int grade) {
    return grade < 1 ? 0 : mm * (grade == 1 ? 0.085 : grade == 2 ? 0.145 : 0.205);
}

NearestWires nearest_wires(double bare) {
    return {round_about(metric_wires(), bare), round_about(gauge_wires(), bare)};
}

} // namespace mavlo
