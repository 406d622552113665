#pragma once
// The legs that feed the phases, each a monotone relation between its potential and its current.

#include <array>

namespace mavlo {

/// Potentials are measured to the negative rail. V, Ohm.
struct Bridge {
    double dc = 0;
    double switch_drop = 0, switch_resistance = 0, diode_drop = 0, diode_resistance = 0;
};

/// A leg gives `out` - `out_resistance` i while its current flows out of it (i > 0) and `in` - `in_resistance`
/// i while it flows in; no current flows while the machine's potential lies between the two.
struct LegLaw {
    double out = 0, out_resistance = 0;
    double in = 0, in_resistance = 0;
    /// A source: what it gives does not ask for the current's direction.
    bool both_ways() const { return out == in && out_resistance == in_resistance; }
};

/// 1: the upper switch is on, -1: the lower one, 0: neither, so that diodes alone conduct.
using Gates = std::array<int, 3>;

LegLaw leg_law(const Bridge& bridge, int gate);

/// What carries a leg's current.
struct LegPath {
    bool upper = false, by_switch = false;
};
LegPath leg_path(int gate, double current);

/// Loss in the device that carries the current, W.
double leg_loss(const Bridge& bridge, int gate, double current);

} // namespace mavlo
