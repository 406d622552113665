#include "material/demagnetisation.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double departure = 0.05; // of the remanence, at the knee

/// J at a field of the curve; h <= 0.
double polarisation_at(const std::vector<BhPoint>& points, double h) {
    const auto below = std::find_if(points.begin(), points.end(), [&](const BhPoint& p) { return p.h <= h; });
    if (below == points.begin()) return points.front().b;
    if (below == points.end()) return points.back().b;
    const BhPoint &a = *(below - 1), &b = *below;
    return a.b + (b.b - a.b) * (h - a.h) / (b.h - a.h);
}

/// A straight line J = remanence + slope h over the points of weaker field than `reach`.
struct FittedLine {
    double remanence, slope;
};

FittedLine line_through(const std::vector<BhPoint>& points, double reach) {
    double n = 0, h = 0, j = 0, hh = 0, hj = 0;
    for (const BhPoint& p : points) {
        if (-p.h > reach && n >= 2) break;
        n += 1, h += p.h, j += p.b, hh += p.h * p.h, hj += p.h * p.b;
    }
    const double spread = n * hh - h * h, slope = spread > 0 ? (n * hj - h * j) / spread : 0;
    return {(j - slope * h) / n, slope};
}

/// Where J reaches zero; 0 where it was not measured so far.
double coercivity_of(const std::vector<BhPoint>& points) {
    for (std::size_t i = 1; i < points.size(); ++i)
        if (points[i].b <= 0) {
            const BhPoint &a = points[i - 1], &b = points[i];
            return -(a.h + (b.h - a.h) * a.b / (a.b - b.b));
        }
    return 0;
}

/// v(T) = v20 (1 + c (T - 20 degC)), least squares; c = 0 with one temperature.
struct OverTemperature {
    double at_20 = 0, per_kelvin = 0;
};

OverTemperature over_temperature(const std::vector<std::pair<double, double>>& values) {
    double n = 0, t = 0, v = 0, tt = 0, tv = 0;
    for (const auto& [kelvin, value] : values) {
        const double x = kelvin - reference_temperature;
        n += 1, t += x, v += value, tt += x * x, tv += x * value;
    }
    const double spread = n * tt - t * t;
    if (spread < 1) return {v / n, 0};
    const double slope = (n * tv - t * v) / spread, at_20 = (v - slope * t) / n;
    return {at_20, slope / at_20};
}

/// The measured curves round a temperature, and how far it is from the first to the second; beyond them the
/// nearest twice.
struct Between {
    const DemagnetisationCurve *colder, *warmer;
    double share;
};

Between curves_at(const std::vector<DemagnetisationCurve>& curves, double kelvin) {
    auto warmer =
        std::find_if(curves.begin(), curves.end(), [&](const auto& c) { return c.temperature >= kelvin; });
    if (warmer == curves.end()) return {&curves.back(), &curves.back(), 0};
    if (warmer == curves.begin()) return {&*warmer, &*warmer, 0};
    const auto colder = warmer - 1;
    return {&*colder, &*warmer, (kelvin - colder->temperature) / (warmer->temperature - colder->temperature)};
}

} // namespace

Result<DemagnetisationCurve> demagnetisation_curve(double kelvin, std::vector<BhPoint> points) {
    for (std::size_t i = 0; i < points.size(); ++i) {
        if (!std::isfinite(points[i].h + points[i].b))
            return Problem{"demagnetisation", fmt::format("Row {} is not a finite number.", i + 1)};
        points[i].h = -std::abs(points[i].h);
    }
    std::stable_sort(points.begin(), points.end(),
                     [](const BhPoint& a, const BhPoint& b) { return a.h > b.h; });
    const auto last =
        std::unique(points.begin(), points.end(), [](const auto& a, const auto& b) { return a.h == b.h; });
    points.erase(last, points.end());
    if (points.size() < 3)
        return Problem{"demagnetisation", "Three fields or more are wanted in a demagnetisation curve."};
    if (points.front().b <= 0)
        return Problem{"demagnetisation",
                       "The polarisation is not positive at the weakest field; look at the units and signs."};
    const double rounding = 1e-3 * points.front().b;
    for (std::size_t i = 1; i < points.size(); ++i)
        if (points[i].b > points[i - 1].b + rounding)
            return Problem{"demagnetisation",
                           fmt::format("The polarisation rises from {:.4g} to {:.4g} T towards {:.4g} kA/m; a "
                                       "demagnetising field lowers it.",
                                       points[i - 1].b, points[i].b, points[i].h / 1e3)};
    return DemagnetisationCurve{kelvin, std::move(points)};
}

double knee_field(const DemagnetisationCurve& curve, double recoil_mu_r) {
    const double remanence = line_through(curve.points, 0.3 * -curve.points.back().h).remanence,
                 slope = (recoil_mu_r - 1) * mu0;
    const auto off = [&](const BhPoint& p) { return remanence + slope * p.h - p.b - departure * remanence; };
    for (std::size_t i = 1; i < curve.points.size(); ++i) {
        const BhPoint &a = curve.points[i - 1], &b = curve.points[i];
        if (off(b) >= 0) return -(a.h + (b.h - a.h) * std::clamp(-off(a) / (off(b) - off(a)), 0.0, 1.0));
    }
    return -curve.points.back().h;
}

double measured_knee_field(const MagnetData& magnet, double kelvin) {
    const Between between = curves_at(magnet.curves, kelvin);
    return (1 - between.share) * knee_field(*between.colder, magnet.recoil_mu_r) +
           between.share * knee_field(*between.warmer, magnet.recoil_mu_r);
}

std::vector<BhPoint> intrinsic_curve(const MagnetData& magnet, double kelvin, int count) {
    std::vector<BhPoint> out;
    const auto share = [&](int i) { return double(i) / (count - 1); };
    if (!magnet.curves.empty()) {
        const auto [colder, warmer, between] = curves_at(magnet.curves, kelvin);
        for (int i = 0; i < count; ++i) {
            const double cold = colder->points.back().h * share(i), warm = warmer->points.back().h * share(i);
            out.push_back(
                {(1 - between) * cold + between * warm, (1 - between) * polarisation_at(colder->points, cold) +
                                                            between * polarisation_at(warmer->points, warm)});
        }
        return out;
    }
    const double remanence = magnet.remanence_at(kelvin), slope = (magnet.recoil_mu_r - 1) * mu0,
                 coercivity = std::max(0.0, magnet.coercivity_at(kelvin)), knee = magnet.knee_field_at(kelvin);
    if (coercivity <= 0) // only the recoil line is known
        return {
            {0, remanence},
            {-remanence / mu0 / magnet.recoil_mu_r, remanence - slope * remanence / mu0 / magnet.recoil_mu_r}};
    for (int i = 0; i < count; ++i) {
        const double h = coercivity * share(i);
        const double x = h > knee && coercivity > knee ? (h - knee) / (coercivity - knee) : 0;
        out.push_back({-h, (remanence - slope * std::min(h, knee)) * std::sqrt(std::max(0.0, 1 - x * x))});
    }
    return out;
}

Result<MagnetData> fit_magnet(std::vector<DemagnetisationCurve> curves) {
    if (curves.empty()) return Problem{"demagnetisation", "A curve is wanted first."};
    std::sort(curves.begin(), curves.end(),
              [](const auto& a, const auto& b) { return a.temperature < b.temperature; });
    MagnetData data;
    std::vector<std::pair<double, double>> remanences, coercivities;
    double slopes = 0;
    for (const DemagnetisationCurve& curve : curves) {
        const FittedLine line = line_through(curve.points, knee_field(curve, 1) / 2);
        if (line.remanence <= 0) return Problem{"demagnetisation", "No recoil line is found in this curve."};
        remanences.emplace_back(curve.temperature, line.remanence);
        slopes += std::max(0.0, line.slope / mu0);
        if (const double c = coercivity_of(curve.points); c > 0)
            coercivities.emplace_back(curve.temperature, c);
    }
    const OverTemperature remanence = over_temperature(remanences);
    data.remanence = remanence.at_20;
    data.remanence_per_kelvin = remanence.per_kelvin;
    data.recoil_mu_r = 1 + slopes / double(curves.size());
    if (!coercivities.empty()) {
        const OverTemperature coercivity = over_temperature(coercivities);
        data.coercivity = coercivity.at_20;
        data.coercivity_per_kelvin = coercivity.per_kelvin;
    }
    data.curves = std::move(curves);
    return data;
}

} // namespace mavlo
