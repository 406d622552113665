#include "figure/magnet_line.h"

#include "material/demagnetisation.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr double felt = 2e-3; ///< of the remanence: less than this measured curves do not tell

/// Where in a falling list of shares s lies: the place of the first that is smaller.
std::size_t below(const std::vector<double>& share, double s) {
    return std::size_t(
        std::lower_bound(share.begin(), share.end(), s, [](double a, double b) { return a > b; }) -
        share.begin());
}

} // namespace

MagnetLine MagnetLine::of(const Substance& magnet) {
    const MagnetData& data = magnet.material.magnet;
    MagnetLine line{magnet.own_remanence(), data.knee_at(magnet.temperature), mu0 * data.recoil_mu_r};
    if (data.curves.empty() || line.remanence <= 0) return line;
    double at_whole = 0;
    for (const BhPoint& p : intrinsic_curve(data, magnet.temperature)) {
        const double h = std::abs(p.h), s = (p.b + (line.permeability - mu0) * h) / line.remanence;
        if (line.share.empty() && s > 1 - felt) {
            at_whole = h;
            continue;
        }
        if (line.share.empty()) {
            line.share.push_back(1);
            line.field.push_back(at_whole);
        }
        if (s >= line.share.back() || h <= line.field.back()) continue;
        line.share.push_back(std::max(0.0, s));
        line.field.push_back(h);
    }
    return line;
}

double MagnetLine::field_of(double s) const {
    if (share.empty()) return (remanence - knee) / permeability;
    const std::size_t k = below(share, s);
    if (k == 0) return field.front();
    if (k == share.size()) return field.back();
    return field[k - 1] + (field[k] - field[k - 1]) * (share[k - 1] - s) / (share[k - 1] - share[k]);
}

double MagnetLine::slope_of(double s) const {
    if (share.size() < 2) return 0;
    const std::size_t k = std::max<std::size_t>(1, below(share, s));
    return k == share.size() ? 0 : (field[k] - field[k - 1]) / (share[k] - share[k - 1]);
}

std::vector<MagnetLine> magnet_lines(const std::vector<Substance>& substances) {
    std::vector<MagnetLine> lines;
    lines.reserve(substances.size());
    for (const Substance& s : substances)
        lines.push_back(s.material.kind == MaterialKind::Magnet ? MagnetLine::of(s) : MagnetLine{});
    return lines;
}

} // namespace mavlo
