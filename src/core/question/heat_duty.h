#pragma once
// Duties by IEC 60034-1, and tables of load, as stretches of time.

#include "quantity/problem.h"

#include <optional>
#include <string>
#include <vector>

namespace mavlo {

/// A stretch of a duty: its current over the load's, or the shaft's torque instead.
struct DutyStretch {
    double seconds = 0; ///< 0: for good
    double current = 1;
    std::optional<double> torque{}; ///< N.m
    std::optional<double> speed{};  ///< rad/s; empty: the load's
    bool at_rest() const { return speed && *speed == 0; }
};

struct HeatDuty {
    std::vector<DutyStretch> cycle;
    bool repeats = false;
    std::string words; ///< what it is called
    double cycle_time() const;
    bool has_torques() const;
};

/// The duty types of IEC 60034-1:2022, clause 4.2:
///   S1                                        continuous
///   S2 30 min                                 short-time
///   S3 25 % 10 min                            intermittent periodic
///   S4 25 % 10 min start 3 s:6                the same with starting, 3 s at 6 times the current
///   S5 25 % 10 min start 3 s:6 brake 2 s:4    with electric braking, too
///   S6 40 % 10 min                            continuous-operation periodic
///   S7 10 min start 3 s:6 brake 2 s:4         the same with electric braking, without rest
///   S8 4 min:1@1500 rpm, 6 min:0.6@3000 rpm   with related changes of load and speed
///   S9 (a table that does not repeat), S10 (one that does)
/// The cyclic duration factor of S4 and S5 holds starting, load and braking. A table has times and currents
/// over the load's, "rest" at standstill, or torques (N.m) at the shaft; each may have a speed behind @.
Result<HeatDuty> read_heat_duty(const std::string& text);

} // namespace mavlo
