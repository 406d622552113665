#include "circuit/voltage_rule.h"

#include "quantity/constants.h"

#include <cassert>
#include <cmath>

namespace mavlo {

std::optional<VoltageRule> voltage_rule(const std::string& word) {
    if (word == "sine") return VoltageRule::Sine;
    if (word == "space-vector") return VoltageRule::SpaceVector;
    if (word == "six-step") return VoltageRule::SixStep;
    return std::nullopt;
}

double voltage_limit(VoltageRule rule, double dc, double share, Connection connection, int phases) {
    assert(dc >= 0 && share >= 0 && phases > 0);
    const int together = phases % 3 == 0 ? 3 : phases; // that share a star point
    const bool gains =
        rule == VoltageRule::SpaceVector && together % 2 == 1 && together > 1 && connection != Connection::Open;
    const double leg = rule == VoltageRule::SixStep ? 2 * dc / pi
                       : gains                      ? dc / (2 * std::cos(pi / (2 * together)))
                                                    : dc / 2;
    const double legs = connection == Connection::Star    ? 1
                        : connection == Connection::Delta ? 2 * std::sin(pi / together)
                                                          : 2;
    return share * leg * legs;
}

} // namespace mavlo
