#include "material/sheet.h"

#include "quantity/constants.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace mavlo {
namespace {

/// The law at even steps: it is asked for every order of every element.
class ShareTable {
  public:
    ShareTable() {
        for (std::size_t k = 0; k < m_values.size(); ++k)
            m_values[k] = std::pow(1 + std::pow(double(k) / per_one, 3), -1.0 / 6);
    }
    double at(double r) const {
        const double place = r * per_one;
        if (place >= double(m_values.size() - 1)) return 1 / std::sqrt(r);
        const auto k = std::size_t(place);
        return m_values[k] + (place - double(k)) * (m_values[k + 1] - m_values[k]);
    }

  private:
    static constexpr int per_one = 100;
    std::array<double, 20 * per_one + 1> m_values{};
};

constexpr int corner_count = 60; // up to 3 T

} // namespace

double sheet_share(double over_corner) {
    static const ShareTable table;
    return table.at(over_corner);
}

Sheet::Sheet(double thickness, double resistivity, double density, const BhCurve& curve) {
    if (thickness <= 0 || resistivity <= 0) return;
    if (density > 0) classical = pi * pi * thickness * thickness / (6 * resistivity * density);
    for (int k = 1; k <= corner_count; ++k) {
        const double b = corner_step * k, h = curve.at(b).h;
        corners.push_back(9 * resistivity * h / (pi * b * thickness * thickness));
    }
}

double corner_at(const std::vector<double>& corners, double peak) {
    if (corners.empty()) return 0;
    const double place = std::clamp(peak / corner_step - 1, 0.0, double(corners.size() - 1));
    const auto k = std::min(std::size_t(place), corners.size() - 2);
    return corners[k] + (place - double(k)) * (corners[k + 1] - corners[k]);
}

} // namespace mavlo
