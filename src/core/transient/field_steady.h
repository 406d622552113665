#pragma once
// The steady state of a machine on its supply, on the fields themselves.

#include "circuit/steady.h"
#include "transient/field_transient.h"

namespace mavlo {

struct FieldSteadyOptions {
    int most_periods = 12;   ///< that are run at most before the window
    int window = 1;          ///< periods of the window
    double tolerance = 1e-4; ///< of the largest current, from one part of a period to the next
    bool from_zero = false;  ///< the start-up itself: the first `window` periods
    bool tangent = true;     ///< the machine is near one of constant inductances along d and q
    int settling_steps = 0;  ///< of a period before the window, without a tangent; 0: as many as in it
    bool sixths = false;     ///< the section repeats every sixth of a period, as the supply may
    /// Where a machine without a tangent begins; currents and field at rest where there is none.
    std::optional<FieldStart> start{};
    double band = 0; ///< A, within which switching by current leaves the currents undecided
};

/// Begins where the machine's tangents (ConstantMachine) at a few fields say the steady state is, then runs the
/// fields on. Where supply and section repeat every sixth of a period, with the phases in each other's places,
/// a sixth is enough to compare and to correct by: the currents are moved as Newton's method on the tangent
/// machine's shooting asks (T.J. Aprille, T.N. Trick, Proc. IEEE 60, 1972). Without a tangent periods are run
/// until the currents' means over them (fundamental and direct parts) repeat, with fewer steps and the last
/// quarter before the window with all: where rotor and currents keep no step nothing else does. Currents that a
/// band switches never repeat exactly: they are steady once they come back to within the band. With a carrier
/// the average it makes is run until steady, then where it can be some sixths of a period with the carrier to
/// correct by, and the window. The window is run whole, or a sixth of it and the rest follows.
Result<SteadyRun> find_field_steady(FieldTransient& run, const Clock& clock, const Supply& supply,
                                    const FieldTransientOptions& options, const FieldSteadyOptions& steady,
                                    int pole_pairs, const StepObserver& observe);

} // namespace mavlo
