#pragma once
// What drives the legs over time: voltages, or gates that change at known instants or when currents cross a
// bound.

#include "circuit/bridge.h"
#include "circuit/phase_machine.h"

#include <limits>
#include <memory>
#include <vector>

namespace mavlo {

/// Time and angle of a run at constant speed: angle = omega t, the d axis on phase U at 0.
struct Clock {
    double omega = 0; ///< rad/s, electrical; positive
    double ahead = 0; ///< rad, of a supply whose terminals are not the phases
    double angle(double t) const { return omega * t + ahead; }
    double period() const;
};

/// A supply keeps its gates and whatever it remembers; a copy of it goes on from there.
class Supply {
  public:
    virtual ~Supply() = default;
    virtual std::unique_ptr<Supply> copy() const = 0;

    /// Of each phase at this instant, with the gates as they stand.
    virtual std::array<LegLaw, 3> legs(double t) const = 0;
    /// As they stand; none for sources without a bridge.
    virtual const Gates* gates() const { return nullptr; }
    virtual const Bridge* bridge() const { return nullptr; }

    /// The next instant after t at which at_edge() wants to be called; the state never steps over it.
    virtual double next_edge(double /*t*/) const { return std::numeric_limits<double>::infinity(); }
    virtual void at_edge(double /*t*/, const Currents& /*currents*/) {}

    /// Functions of time and currents whose rise through zero calls on_watch() there.
    virtual int watches() const { return 0; }
    virtual double watch(int /*which*/, double /*t*/, const Currents& /*currents*/) const { return -1; }
    virtual void on_watch(int /*which*/, double /*t*/, const Currents& /*currents*/) {}

    /// Whether its gates depend on the angle alone, so that a steady state may be found by shooting.
    virtual bool is_scheduled() const { return true; }
    /// What it gives on average over its carrier's periods; null where it has none.
    virtual std::unique_ptr<Supply> averaged() const { return nullptr; }
    /// Whether a sixth of a period later it does the same reversed, with the phases in each other's places.
    virtual bool repeats_in_sixths() const { return false; }
};

/// Lags of the phases: 0, 120, 240 degrees.
double phase_lag(int phase);

} // namespace mavlo
