#pragma once
// How much voltage a bridge makes of its link.

#include "machine/machine_winding.h"

#include <optional>
#include <string>

namespace mavlo {

/// How the inverter makes its voltage from the DC link. The largest peak of a phase's fundamental in star is
/// U/2 (sine-triangle), 2U/pi (six steps), and with the zero sequence added (space vectors) U/(2 cos(pi/2n))
/// where n phases, an odd number, share a star point: U/sqrt(3) of three. Phases by threes have a star point a
/// three; other even numbers gain nothing. (D.G. Holmes, T.A. Lipo, Pulse Width Modulation for Power
/// Converters, 2003, ch. 1 and 6; n phases: E. Levi et al., IET Electr. Power Appl. 1(4), 2007.)
enum class VoltageRule { Sine, SpaceVector, SixStep };
std::optional<VoltageRule> voltage_rule(const std::string& word);
/// Largest phase voltage (V, peak of the fundamental); `share` of it may be used. In delta a phase lies between
/// two lines, one after the other; an open phase has a bridge of its own and both its legs' voltages.
double voltage_limit(VoltageRule rule, double dc_voltage, double share, Connection connection, int phases);

} // namespace mavlo
