#pragma once
// Eddy currents of a machine that turns steadily with its currents given, until they repeat.

#include "field/stepper.h"

#include <functional>

namespace mavlo {

struct EddySteadyOptions {
    std::function<Position(double t)> position; ///< of rotor and currents at a time, s
    double period = 0;                          ///< s, after which the currents are as they were
    int steps = 120;                            ///< a period
    int most_periods = 60;
    double tolerance = 2e-3; ///< of the loss and the mean torque, that may be left of the settling
    std::function<bool()> stop{};
};

struct EddySteady {
    std::vector<double> loss{}; ///< of each body, mean over the last period, W, whole machine
    double torque = 0;          ///< mean, N.m
    int periods = 0;
    bool settled = false;
};

/// From the static field at time 0, period by period.
Result<EddySteady> find_eddy_steady(FieldStepper& stepper, const EddySteadyOptions& options);

} // namespace mavlo
