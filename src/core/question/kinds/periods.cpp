#include "question/kinds/periods.h"

#include <numbers>

namespace mavlo {
namespace {
constexpr double pi = std::numbers::pi;
}

std::vector<Position> electrical_period(const Machine& machine, int points, Dq current) {
    std::vector<Position> positions;
    for (int i = 0; i < points; ++i) {
        const double angle = 2 * pi / machine.pole_pairs() * i / points;
        positions.push_back({angle, to_phases(current, electrical_angle(machine, angle))});
    }
    return positions;
}

PeriodSeries period_series(const std::vector<PositionResult>& results) {
    PeriodSeries s;
    for (const auto& r : results) {
        s.angle_deg.push_back(r.position.angle * 180 / pi);
        s.torque.push_back(r.torque);
        for (std::size_t k = 0; k < 3; ++k) {
            s.flux_linkage[k].push_back(r.flux_linkage[k]);
            s.current[k].push_back(r.position.current[k]);
        }
        s.newton_steps += r.newton_steps;
    }
    return s;
}

std::array<std::vector<double>, 3> induced_voltage(const PeriodSeries& series, const Machine& machine,
                                                   double speed) {
    std::array<std::vector<double>, 3> e;
    for (std::size_t k = 0; k < 3; ++k) {
        e[k] = derivative(series.flux_linkage[k], 2 * pi / machine.pole_pairs());
        for (double& value : e[k]) value *= speed;
    }
    return e;
}

Curve over_angle(const std::string& name, const std::string& unit, const PeriodSeries& series,
                 const std::vector<double>& y) {
    return {name, unit, "rotor_angle", "deg", series.angle_deg, y};
}

} // namespace mavlo
