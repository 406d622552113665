#include "figure/gap_stress.h"

#include "figure/sample.h"

#include <cassert>
#include <cmath>
#include <numbers>

namespace mavlo {

namespace {

GapStress stress_of(const GapElement::Ring& ring) {
    GapStress s;
    for (std::size_t i = 0; i < ring.radial.size(); ++i) {
        const double r = ring.radial[i], t = ring.tangential[i];
        s.radial.push_back((r * r - t * t) / (2 * mu0));
        s.tangential.push_back(r * t / mu0);
    }
    return s;
}

} // namespace

GapStress gap_stress(const MachineModel& model, const FieldSolution& field, int places) {
    return stress_of(model.gap().ring(gap_traces(model, field), model.machine.middle_of_gap(), places));
}

Point rotor_pull(const MachineModel& model, const FieldSolution& field) {
    // Products of two orders need twice as many places, and one more for the turn.
    const int places = 2 * (model.gap().orders().back() + 2);
    const double radius = model.gap().middle_radius(), step = 2 * std::numbers::pi / places;
    const GapStress s = stress_of(model.gap().ring(gap_traces(model, field), radius, places));
    Point sum;
    for (int i = 0; i < places; ++i) {
        const auto k = std::size_t(i);
        sum = sum + rotated({s.radial[k], s.tangential[k]}, i * step);
    }
    // On what the cylinder holds: of an outer rotor that is the stator.
    return (model.rotor == 0 ? 1 : -1) * radius * model.machine.stack_length * step * sum;
}

double axial_pull(const MachineModel& model, const FieldSolution& field, bool second) {
    double pull = 0, whole = 0;
    for (std::size_t k = 0; k < model.sections.size(); ++k) {
        if (model.sections[k].second != second) continue;
        whole += model.sections[k].share;
        const GapElement& gap = model.gap(k);
        const int places = 2 * (gap.orders().back() + 2);
        const GapStress s = stress_of(gap.ring(gap_traces(model, field, k), gap.middle_radius(), places));
        double sum = 0;
        for (double stress : s.radial) sum += stress;
        const double circumference = 2 * std::numbers::pi * model.sections[k].chart.flat;
        pull += model.machine.stack_length * model.sections[k].share * circumference * sum / places;
    }
    return whole > 0 ? pull / whole : axial_pull(model, field, false);
}

int places_round(const Machine& machine, int least) {
    const int slots = std::max(1, machine.slots);
    return slots * ((least + slots - 1) / slots);
}

std::vector<double> tooth_forces(const Machine& machine, const GapStress& stress) {
    const std::size_t teeth = std::size_t(std::max(1, machine.slots)), each = stress.radial.size() / teeth;
    assert(each * teeth == stress.radial.size());
    const double area =
        machine.middle_of_gap() * machine.stack_length * 2 * std::numbers::pi / double(stress.radial.size());
    std::vector<double> force(teeth, 0.0);
    for (std::size_t k = 0; k < teeth; ++k) {
        // By the trapezoidal rule from one slot's middle to the next one's.
        for (std::size_t i = 0; i <= each; ++i)
            force[k] +=
                (i == 0 || i == each ? 0.5 : 1.0) * stress.radial[(k * each + i) % stress.radial.size()];
        force[k] *= area;
    }
    return force;
}

int tooth_of_phase(const Machine& machine, int phase) {
    for (const Coil& coil : machine.winding.layout.coils) {
        if (coil.phase != phase) continue;
        const int go = coil.go.slot, back = coil.back.slot;
        return back == (go + 1) % machine.slots ? go : go == (back + 1) % machine.slots ? back : go;
    }
    return 0;
}

} // namespace mavlo
