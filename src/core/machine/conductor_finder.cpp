#include "machine/conductor_finder.h"

#include "machine/slot_space.h"
#include "winding/wire.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

Machine with_diameter(Machine machine, double size) {
    ConductorInput& c = machine.winding.conductor;
    if (size_conductor(c).is_round()) {
        c.diameter = size;
    } else {
        c.width = size_conductor(c).width;
        c.height = size;
    }
    return machine;
}

ConductorOption named(const Machine& machine, const std::string& name, double diameter) {
    ConductorOption option = judge_conductor(with_diameter(machine, diameter));
    option.name = name;
    return option;
}

} // namespace

ConductorOption judge_conductor(const Machine& machine) {
    const Conductor conductor = machine_conductor(machine);
    ConductorOption option;
    option.diameter = conductor.size.is_round() ? conductor.size.diameter : conductor.size.height;
    option.width = conductor.size.is_round() ? 0 : conductor.size.width;
    option.resistance = conductor.resistance;
    option.fill = conductor.size.fill;
    option.density = rated_density(machine, conductor);
    option.fits = fill_slot(machine, fullest_slot(machine)).fits();
    return option;
}

Result<std::vector<ConductorOption>> find_conductor(const Machine& machine, Wanted wanted, double value) {
    const Conductor now = machine_conductor(machine);
    const double more = wanted == Wanted::PhaseResistance ? now.resistance / value
                        : wanted == Wanted::SlotFill
                            ? value / now.size.fill
                            : rated_density(machine, now) / value; // of the copper's area
    if (!(value > 0) || !std::isfinite(more))
        return Problem{"winding.conductor", "A positive value is wanted."};
    if (now.size.fill * more > 0.95)
        return Problem{
            "winding.conductor",
            fmt::format("That needs {:.0f} % of the slot as copper, more than fits; fewer turns or a deeper "
                        "slot would do it.",
                        100 * now.size.fill * more)};
    const bool round = now.size.is_round();
    const double exact = round ? now.size.diameter * std::sqrt(more) : now.size.height * more;
    std::vector<ConductorOption> options{named(machine, "", exact)};
    if (!round) return options;
    const NearestWires near = nearest_wires(exact);
    for (const auto* list : {&near.metric, &near.gauge})
        for (const WireSize& wire : *list) options.push_back(named(machine, wire.name, wire.diameter));
    return options;
}

Design with_conductor(Design design, const ConductorOption& option) {
    const std::string shape = design.text("winding.conductor.shape");
    const bool round = shape == "round" || shape == "litz";
    design.texts[round ? "winding.conductor.diameter" : "winding.conductor.height"] =
        fmt::format("{:.6g} mm", option.diameter * 1e3);
    if (!round) design.texts["winding.conductor.width"] = fmt::format("{:.6g} mm", option.width * 1e3);
    return design;
}

} // namespace mavlo
