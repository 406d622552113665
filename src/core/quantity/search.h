#pragma once
// Roots and least values of functions of one variable.

#include <cmath>
#include <optional>

namespace mavlo {

/// x in [low, high] where f, below or at zero at `low` and above or at zero at `high`, is zero: by regula falsi
/// with the Illinois rule (M. Dowell, P. Jarratt, BIT 11, 1971). Empty when the signs are otherwise.
template <typename F>
std::optional<double> rising_root(F f, double low, double high) {
    double a = f(low), b = f(high);
    if (a > 0 || b < 0) return std::nullopt;
    const double width = high - low, scale = b - a;
    int side = 0;
    for (int i = 0; i < 60 && high - low > 1e-10 * width; ++i) {
        const double x = b > a ? (low * b - high * a) / (b - a) : low, y = f(x);
        if (std::abs(y) <= 1e-12 * scale) return x;
        if (y > 0) {
            high = x, b = y;
            if (side == 1) a /= 2;
            side = 1;
        } else {
            low = x, a = y;
            if (side == -1) b /= 2;
            side = -1;
        }
    }
    return std::abs(a) < b ? low : high;
}

/// x in [low, high] with the least f, to `tolerance`, where f has one valley: golden sections (J. Kiefer, Proc.
/// AMS 4, 1953).
template <typename F>
double least_between(F f, double low, double high, double tolerance) {
    constexpr double ratio = 0.6180339887498949;
    double x1 = high - ratio * (high - low), x2 = low + ratio * (high - low), f1 = f(x1), f2 = f(x2);
    while (high - low > tolerance) {
        if (f1 < f2) {
            high = x2, x2 = x1, f2 = f1;
            x1 = high - ratio * (high - low), f1 = f(x1);
        } else {
            low = x1, x1 = x2, f1 = f2;
            x2 = low + ratio * (high - low), f2 = f(x2);
        }
    }
    return f1 < f2 ? x1 : x2;
}

} // namespace mavlo
