#pragma once
// Lines in the plane of currents: limits, torques and chosen points.

#include "map/drive.h"
#include "question/answer.h"

namespace mavlo {

/// An empty line with its name, "plane_NAME" over "id".
Curve plane_curve(const std::string& name);
void add_point(Curve& curve, Dq current);

/// The quarter of the circle of the largest current that a motor uses.
Curve current_limit_curve(const Drive& drive);
/// Where the voltage is at its limit at this speed (rad/s), inside the map; empty where it never is.
Curve voltage_limit_curve(const Drive& drive, double speed);
/// Currents that give this torque.
Curve torque_curve(const Drive& drive, double torque);

} // namespace mavlo
