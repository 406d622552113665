#include "circuit/bridge.h"

#include <cmath>

namespace mavlo {

LegLaw leg_law(const Bridge& b, int gate) {
    const double upper_switch = b.dc - b.switch_drop, upper_diode = b.dc + b.diode_drop;
    if (gate > 0) return {upper_switch, b.switch_resistance, upper_diode, b.diode_resistance};
    if (gate < 0) return {-b.diode_drop, b.diode_resistance, b.switch_drop, b.switch_resistance};
    return {-b.diode_drop, b.diode_resistance, upper_diode, b.diode_resistance};
}

LegPath leg_path(int gate, double current) {
    if (gate > 0) return {true, current > 0};
    if (gate < 0) return {false, current < 0};
    return {current < 0, false};
}

double leg_loss(const Bridge& b, int gate, double current) {
    const double i = std::abs(current);
    return leg_path(gate, current).by_switch ? (b.switch_drop + b.switch_resistance * i) * i
                                             : (b.diode_drop + b.diode_resistance * i) * i;
}

} // namespace mavlo
