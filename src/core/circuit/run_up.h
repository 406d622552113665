#pragma once
// A machine that slips runs its load up from rest.

#include "circuit/slip_machine.h"

#include <functional>

namespace mavlo {

/// What feeds the machine at a time and speed: of a phase in star, rms; Hz.
struct RunUpSupply {
    double voltage = 0, frequency = 0;
    /// Line current over that of the connection that the machine's circuit stands for: of a delta's phases in
    /// star, on a voltage lower by root three, 1 over root three again.
    double line_current = 1;
};

struct RunUp {
    /// By time (s) and speed (rad/s).
    std::function<RunUpSupply(double, double)> supply;
    double inertia = 0;                        ///< kg m2, of everything that turns
    std::function<double(double)> load_torque; ///< N.m at a speed (rad/s)
    double longest = 60;                       ///< s, after which it is given up
    double supply_ends = 0;                    ///< s, from which the supply changes no more by itself
};

struct RunUpPoint {
    double time = 0, speed = 0, load_torque = 0;
    SlipPoint at;
};

struct RunUpCourse {
    std::vector<RunUpPoint> points;
    std::optional<double> time{}; ///< s, until the speed is within 1 % of where it ends; empty: given up
    double cage_heat = 0, stator_heat = 0; ///< J
    double largest_current = 0;            ///< A, rms
    bool stands = false;                   ///< it ends at rest or far below synchronous speed
};

/// Through steady states, one after the other: J dω/dt = T(ω) - T_load(ω) by the fourth-order Runge-Kutta
/// method, each step with about the same change of speed. The currents' own transients, which die within some
/// periods, are left out.
Result<RunUpCourse> run_up(SlipMachine& machine, const RunUp& run);

} // namespace mavlo
