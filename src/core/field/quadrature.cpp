#include "field/quadrature.h"

namespace mavlo {

std::span<const RulePoint> straight_rule() {
    static constexpr RulePoint rule[] = {
        {1.0 / 6, 1.0 / 6, 1.0 / 6}, {2.0 / 3, 1.0 / 6, 1.0 / 6}, {1.0 / 6, 2.0 / 3, 1.0 / 6}};
    return rule;
}

std::span<const RulePoint> curved_rule() {
    static constexpr double a = 0.445948490915965, b = 0.091576213509771;
    static constexpr double wa = 0.223381589678011 / 2, wb = 0.109951743655322 / 2;
    static constexpr RulePoint rule[] = {{a, a, wa}, {1 - 2 * a, a, wa}, {a, 1 - 2 * a, wa},
                                         {b, b, wb}, {1 - 2 * b, b, wb}, {b, 1 - 2 * b, wb}};
    return rule;
}

ShapeAt quadratic_shape(const std::array<Point, 6>& nodes, double a, double b) {
    const double c = 1 - a - b; // corner 0 has weight c, corner 1 a, corner 2 b
    ShapeAt s{};
    s.n = {c * (2 * c - 1), a * (2 * a - 1), b * (2 * b - 1), 4 * c * a, 4 * a * b, 4 * b * c};
    const std::array<double, 6> da{1 - 4 * c, 4 * a - 1, 0, 4 * (c - a), 4 * b, -4 * b};
    const std::array<double, 6> db{1 - 4 * c, 0, 4 * b - 1, -4 * a, 4 * a, 4 * (c - b)};
    Point ta{}, tb{};
    for (std::size_t k = 0; k < 6; ++k) {
        s.at = s.at + s.n[k] * nodes[k];
        ta = ta + da[k] * nodes[k];
        tb = tb + db[k] * nodes[k];
    }
    s.jacobian = cross(ta, tb);
    for (std::size_t k = 0; k < 6; ++k) {
        s.gx[k] = (tb.y * da[k] - ta.y * db[k]) / s.jacobian;
        s.gy[k] = (-tb.x * da[k] + ta.x * db[k]) / s.jacobian;
    }
    return s;
}

} // namespace mavlo
