#include "scope/time_record.h"

#include "ask/drawn_curve.h"
#include "quantity/quantity.h"
#include "question/period.h"

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

namespace {

/// What turns with the rotor as it passes in time, at the speed asked for; the rotor stands at `offset` degrees
/// where the curves are at 0. Empty when the rotor stands still.
std::optional<Answer> in_time(Answer answer, double offset, const char* supply) {
    const auto speed = answer.inputs.find("speed");
    const auto value =
        speed == answer.inputs.end() ? Result<Quantity>(Problem{}) : parse_quantity(speed->second);
    if (!value || !(value->si > 0)) return std::nullopt;
    std::vector<Curve> curves;
    Curve angle{"rotor_angle", "deg", "time", "s", {}, {}};
    for (const Curve& given : answer.curves) {
        if (given.x_name != "rotor_angle") continue;
        Curve curve = answer.question == "strokes" ? given : drawn_curve(given);
        const double first = curve.x.front(), seconds = std::numbers::pi / 180 / value->si;
        if (curve.name == "torque")
            for (double x : curve.x) {
                angle.x.push_back((x - first) * seconds);
                angle.y.push_back(offset + x);
            }
        for (double& x : curve.x) x = (x - first) * seconds;
        curve.x_name = "time";
        curve.x_unit = "s";
        curves.push_back(std::move(curve));
    }
    curves.push_back(std::move(angle));
    answer.curves = std::move(curves);
    answer.inputs["supply"] = supply;
    return answer;
}

/// Strokes, or a period with given currents; empty when the answer tells neither.
std::optional<Answer> turning_in_time(const Answer& answer) {
    if (answer.question == "strokes")
        if (const auto aligned = answer.figure("aligned_angle"))
            return in_time(answer, *aligned, half_bridge_supply);
    if (answer.question == "load" && answer.curve("torque") && answer.curve("current_u"))
        return in_time(answer, 0, given_currents);
    return std::nullopt;
}

} // namespace

TimeRecord::TimeRecord(Answer answer)
    : m_answer(std::move(answer)) {
    while (m_answer.curve("current_" + phase_suffix(m_phases))) ++m_phases;
}

std::optional<TimeRecord> TimeRecord::of(const Answer& answer) {
    if (auto turning = turning_in_time(answer)) return TimeRecord(std::move(*turning));
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
    for (std::size_t k = 0; k < m_phases; ++k)
        m.current.push_back(value_at(*m_answer.curve("current_" + phase_suffix(k)), m.time));
    m.line = m.current;
    for (std::size_t k = 0; is_delta() && k < m_phases; ++k)
        m.line[k] = value_at(*m_answer.curve("line_current_" + phase_suffix(k)), m.time);
    if (!has_bridge()) return m;
    m.gates.emplace();
    for (std::size_t k = 0; k < m_phases; ++k)
        m.gates->push_back(int(std::lround(value_at(*m_answer.curve("gate_" + phase_suffix(k)), m.time))));
    m.dc_current = value_at(*m_answer.curve("dc_current"), m.time);
    return m;
}

} // namespace mavlo::app
