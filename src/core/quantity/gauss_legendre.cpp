#include "quantity/gauss_legendre.h"

#include <cmath>
#include <numbers>

namespace mavlo {

std::vector<GaussPoint> gauss_legendre(int n) {
    std::vector<GaussPoint> points;
    for (int i = 0; i < n; ++i) {
        double x = std::cos(std::numbers::pi * (i + 0.75) / (n + 0.5)), slope = 1;
        for (int round = 0; round < 50; ++round) {
            double p = 1, before = 0;
            for (int k = 1; k <= n; ++k) {
                const double next = ((2 * k - 1) * x * p - (k - 1) * before) / k;
                before = p;
                p = next;
            }
            slope = n * (x * p - before) / (x * x - 1);
            const double step = p / slope;
            x -= step;
            if (std::abs(step) < 1e-15) break;
        }
        points.push_back({(1 - x) / 2, 1 / ((1 - x * x) * slope * slope)});
    }
    return points;
}

} // namespace mavlo
