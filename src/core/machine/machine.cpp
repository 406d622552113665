#include "machine/machine.h"

#include "machine/hash.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo {
double electrical_frequency(const Machine& machine, double speed) {
    return machine.pole_pairs() * std::abs(speed) / (2 * std::numbers::pi);
}

Facts Machine::facts() const {
    Facts f;
    f.wound = wound();
    f.phases = winding.phases;
    f.magnets = magnet() != nullptr;
    f.shell = substance("rotor.shell.material") != nullptr;
    f.cage = rings.has_value();
    f.induced = f.shell || f.cage;
    f.switched = f.wound && winding.layout.switched();
    f.dq_frame = f.wound && winding.phases > 1 && !f.induced && !f.switched;
    f.mirrored = symmetry.mirrored;
    f.linear = section.chart().straight;
    f.axial = section.chart().is_flat() && !f.linear;
    return f;
}

const Substance* Machine::substance(std::string_view path) const {
    const auto found =
        std::find_if(substances.begin(), substances.end(), [&](const Substance& s) { return s.path == path; });
    return found == substances.end() ? nullptr : &*found;
}

Machine of_section(Machine machine) {
    machine.slices.clear();
    return machine;
}

const Substance* Machine::magnet() const {
    const auto found = std::find_if(substances.begin(), substances.end(),
                                    [](const Substance& s) { return s.material.kind == MaterialKind::Magnet; });
    return found == substances.end() ? nullptr : &*found;
}

Result<Machine> build_machine(const Design& design, const MaterialLibrary& own, MachineOptions options) {
    auto values = resolve(design);
    if (!values) return values.problems();
    return build_machine(*values, own, options);
}

Result<Built> build(const Design& design, const MaterialLibrary& own, MachineOptions options) {
    auto machine = build_machine(design, own, options);
    if (!machine) return machine.problems();
    return Built{design, own, std::move(*machine), design_hash(design, own)};
}

Machine at_temperatures(Machine machine, const Temperatures& temperatures) {
    for (Substance& s : machine.substances) {
        const bool steel = s.material.kind == MaterialKind::Steel;
        const auto& wanted = s.material.kind == MaterialKind::Magnet  ? temperatures.magnets
                             : s.path == "winding.conductor.material" ? temperatures.winding
                             : steel && s.path.starts_with("stator.") ? temperatures.stator_steel
                             : steel && s.path.starts_with("rotor.")  ? temperatures.rotor_steel
                                                                      : std::nullopt;
        if (!wanted) continue;
        const double before = s.material.resistivity_at(s.temperature);
        // A massive steel's may have been given; a sheet's is not set.
        if (!steel)
            s.resistivity = s.material.resistivity_at(*wanted);
        else if (s.resistivity > 0 && before > 0)
            s.resistivity *= s.material.resistivity_at(*wanted) / before;
        s.temperature = *wanted;
    }
    if (temperatures.winding) machine.winding.temperature = *temperatures.winding;
    return machine;
}

} // namespace mavlo
