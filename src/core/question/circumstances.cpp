#include "question/circumstances.h"

#include "circuit/voltage_rule.h"
#include "figure/copper.h"
#include "quantity/constants.h"

#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double reserve = 0.95;

} // namespace

std::string conditions_in_words(const Machine& machine) {
    const double celsius = 273.15;
    std::string text =
        machine.wound() ? fmt::format("winding at {:.3g} °C", machine.winding.temperature - celsius) : "";
    if (const Substance* magnet = machine.magnet())
        text += fmt::format("{}magnets at {:.3g} °C", text.empty() ? "" : ", ", magnet->temperature - celsius);
    if (!text.empty()) {
        text.front() = char(std::toupper(text.front()));
        text += ".";
    }
    if (machine.pole_depth > 0)
        text +=
            fmt::format(" Poles that stand out stir {:.2g} times the air of a round rotor, by a rule from few "
                        "measured ones.",
                        salient_drag(machine));
    return text;
}

double rated_voltage_limit(const Machine& machine) {
    return voltage_limit(VoltageRule::SpaceVector, machine.rating.dc_voltage, reserve,
                         machine.winding.connection, machine.winding.phases);
}

std::string beyond_link_in_words(const Machine& machine, double voltage, double speed) {
    const double limit = rated_voltage_limit(machine);
    if (limit <= 0 || voltage <= limit) return "";
    const double share = limit / voltage;
    return fmt::format(
        "A link of {:.4g} V gives {:.4g} V peak a phase: this takes {:.4g} V, or about {:.4g} rpm, or "
        "{:.2g} times the turns.",
        machine.rating.dc_voltage, limit, machine.rating.dc_voltage / share, speed / rpm * share, share);
}

} // namespace mavlo
