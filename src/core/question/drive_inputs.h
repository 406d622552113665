#pragma once
// Inputs and the flux map that all questions over the whole speed range share.

#include "map/drive.h"
#include "question/flux_grid.h"

namespace mavlo {

/// dc_voltage, voltage_rule, voltage_share, max_current, map_steps.
std::vector<QuestionInput> drive_inputs();
/// Which of several equally strong current vectors is taken.
QuestionInput aim_input();
QuestionInput speeds_input();

DriveLimits drive_limits(const Machine& machine, const Inputs& inputs);
Aim aim_of(const Inputs& inputs);

/// Fields of the map, were none of its points there yet.
int drive_solves(const Machine& machine, const Inputs& inputs);
/// The drive with the map that was brought along, or with one up to the largest current, solved as far as it is
/// not kept; the effort goes into the answer.
Result<Drive> make_drive(QuestionContext& context, const DriveLimits& limits, Aim aim);
/// The same for another machine of the same mesh (other temperatures).
Result<Drive> make_drive(QuestionContext& context, const Machine& machine, const PointStore& store,
                         const DriveLimits& limits, Aim aim);

/// rad/s, up to which the drive's torque at standstill (N.m) is there, at most `fastest`.
double base_speed(const Drive& drive, double standstill, double fastest);

} // namespace mavlo
