#pragma once
// The mean over a duty's points.

#include "map/drive.h"
#include "question/question.h"

#include <functional>
#include <optional>

namespace mavlo {

/// duty_speeds, duty_torques, duty_times.
std::vector<QuestionInput> duty_inputs();

/// How the machine gives a torque (N.m) at a speed (rad/s); empty where it cannot.
using BestPoint = std::function<std::optional<OperatingPoint>(double torque, double speed)>;

/// Where the shaft gives a torque: what brakes on its way from the gap is added until it fits.
std::optional<OperatingPoint> at_shaft_torque(const BestPoint& best, double torque, double speed);

/// Energies over the duty's points: each torque at its speed for its time. Nothing where there is no duty.
Problems add_duty(QuestionContext& context, const BestPoint& best);

} // namespace mavlo
