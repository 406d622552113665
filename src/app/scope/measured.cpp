#include "scope/measured.h"

#include "figure/spectrum.h"
#include "scope/time_record.h"

#include <algorithm>
#include <cmath>

namespace mavlo::app {

Measured measured(const Curve& curve, double from, double to) {
    std::vector<std::pair<double, double>> points{{from, value_at(curve, from)}};
    for (std::size_t i = 0; i < curve.x.size(); ++i)
        if (curve.x[i] > from && curve.x[i] < to) points.emplace_back(curve.x[i], curve.y[i]);
    // At a jump the earlier value ends the stretch.
    const auto at_end = std::lower_bound(curve.x.begin(), curve.x.end(), to);
    const bool jumps = at_end != curve.x.end() && *at_end == to;
    points.emplace_back(to, jumps ? curve.y[std::size_t(at_end - curve.x.begin())] : value_at(curve, to));
    Measured out{0, 0, points.front().second, points.front().second};
    for (std::size_t i = 1; i < points.size(); ++i) {
        const auto [t0, a] = points[i - 1];
        const auto [t1, b] = points[i];
        out.mean += (t1 - t0) * (a + b) / 2;
        out.rms += (t1 - t0) * (a * a + a * b + b * b) / 3;
        out.least = std::min(out.least, b);
        out.most = std::max(out.most, b);
    }
    out.mean /= to - from;
    out.rms = std::sqrt(std::max(0.0, out.rms / (to - from)));
    return out;
}

Curve spectrum_between(const Curve& curve, double from, double to, int orders) {
    constexpr int samples = 4096;
    std::vector<double> values;
    values.reserve(samples);
    for (int i = 0; i < samples; ++i) values.push_back(value_at(curve, from + (to - from) * i / samples));
    const auto waves = harmonics(values);
    Curve out{curve.name + "_spectrum", curve.unit, "frequency", "Hz", {}, {}};
    for (int h = 1; h <= orders && h < samples / 2; ++h) {
        out.x.push_back(h / (to - from));
        out.y.push_back(std::abs(waves[std::size_t(h)]));
    }
    return out;
}

} // namespace mavlo::app
