#include "question/plane_curves.h"

#include "quantity/constants.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {
constexpr int line_steps = 120;
} // namespace

Curve plane_curve(const std::string& name) {
    return {"plane_" + name, "A", "id", "A", {}, {}};
}

void add_point(Curve& curve, Dq current) {
    curve.x.push_back(current.d);
    curve.y.push_back(current.q);
}

Curve current_limit_curve(const Drive& drive) {
    Curve circle = plane_curve("current_limit");
    for (int k = 0; k <= 90; ++k) add_point(circle, current_vector(drive.limits().current, k * pi / 180));
    return circle;
}

Curve voltage_limit_curve(const Drive& drive, double speed) {
    Curve curve = plane_curve(fmt::format("voltage_limit_{:.0f}_rpm", speed * 30 / pi));
    const auto& map = drive.map();
    const double low = map.id().front(), high = map.id().back(), top = map.iq().back();
    for (int k = 0; k <= line_steps; ++k) {
        const double id = low + (high - low) * k / line_steps;
        const auto excess = [&](double iq) {
            return drive.at({id, iq}, speed).voltage - drive.limits().voltage;
        };
        if (excess(0) > 0 || excess(top) < 0) continue;
        double a = 0, b = top;
        while (b - a > 1e-4 * top) (excess((a + b) / 2) > 0 ? b : a) = (a + b) / 2;
        add_point(curve, {id, a});
    }
    return curve;
}

Curve torque_curve(const Drive& drive, double torque) {
    Curve curve = plane_curve(fmt::format("torque_{:.4g}_N.m", torque));
    for (const FluxPoint& point : drive.contour(torque).points) add_point(curve, point.current);
    return curve;
}

} // namespace mavlo
