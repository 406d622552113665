#include "scope/time_record.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo::app {

double value_at(const Curve& curve, double x) {
    const auto next = std::upper_bound(curve.x.begin(), curve.x.end(), x);
    if (next == curve.x.begin()) return curve.y.front();
    if (next == curve.x.end()) return curve.y.back();
    const auto b = std::size_t(next - curve.x.begin()), a = b - 1;
    const double width = curve.x[b] - curve.x[a];
    return width > 0 ? curve.y[a] + (x - curve.x[a]) / width * (curve.y[b] - curve.y[a]) : curve.y[b];
}

std::optional<TimeRecord> TimeRecord::of(const Answer& answer) {
    const Curve* torque = answer.curve("torque");
    const bool timed = torque && torque->x_name == "time" && torque->x.size() > 1;
    if (!timed || !answer.curve("current_u") || !answer.curve("rotor_angle") ||
        !answer.inputs.contains("supply"))
        return std::nullopt;
    return TimeRecord(answer);
}

Moment TimeRecord::at(double time) const {
    Moment m;
    m.time = std::clamp(time, 0.0, duration());
    m.rotor_angle = value_at(*m_answer.curve("rotor_angle"), m.time) * std::numbers::pi / 180;
    m.torque = value_at(*m_answer.curve("torque"), m.time);
    const char* phases[] = {"u", "v", "w"};
    for (std::size_t k = 0; k < 3; ++k)
        m.current[k] = value_at(*m_answer.curve(std::string("current_") + phases[k]), m.time);
    if (!has_bridge()) return m;
    Gates gates{};
    for (std::size_t k = 0; k < 3; ++k)
        gates[k] = int(std::lround(value_at(*m_answer.curve(std::string("gate_") + phases[k]), m.time)));
    m.gates = gates;
    m.dc_current = value_at(*m_answer.curve("dc_current"), m.time);
    return m;
}

} // namespace mavlo::app
