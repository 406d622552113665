#include "question/circumstances.h"

#include "circuit/voltage_rule.h"
#include "figure/copper.h"
#include "quantity/constants.h"

#include <algorithm>
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

std::string slices_in_words(const Machine& machine) {
    if (machine.facts().linear)
        return " Computed on one flat section without an end: the ends of a finite part and what spreads "
               "beyond "
               "the stack's sides are left out.";
    if (!machine.facts().axial) return {};
    const auto solved = machine.solved();
    const auto radii = std::count_if(solved.begin(), solved.end(), [](const Section& s) { return !s.second; });
    const double from = solved.front().chart().flat, to = solved.back().chart().flat;
    std::string where = radii == 1 ? fmt::format("one flat slice, at a radius of {:.4g} mm", from * 1e3)
                                   : fmt::format("{} flat slices at radii from {:.4g} to {:.4g} mm", radii,
                                                 from * 1e3, to * 1e3);
    return fmt::format(
        " Computed on {}; what spreads along the radius and beyond the ring's edges is left out, so "
        "that the real machine links somewhat less (no-load says how much with smooth iron).",
        where);
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
