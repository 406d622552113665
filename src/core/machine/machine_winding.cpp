#include "machine/machine_winding.h"

#include "machine/machine.h"
#include "quantity/constants.h"
#include "winding/end_winding.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

class Measurer {
  public:
    explicit Measurer(const Machine& machine)
        : m(machine)
        , w(machine.winding) {}

    Conductor run() {
        out.size = size_conductor(w.conductor);
        out.phase_resistance.assign(std::size_t(w.phases), 0);
        double turns = 0, length = 0;
        for (const Coil& coil : w.layout.coils) {
            const double turn = turn_length(coil);
            turns += coil.turns;
            length += coil.turns * turn;
            if (out.size.area > 0)
                out.phase_resistance[std::size_t(coil.phase)] +=
                    w.resistivity() * coil.turns * turn / (double(w.paths) * w.paths * out.size.area);
        }
        if (turns > 0) out.turn_length = length / turns;
        for (double r : out.phase_resistance) out.resistance += r / w.phases;
        out.copper_volume = length * out.size.area;
        // Stators in series repeat what one of them has.
        for (double& r : out.phase_resistance) r *= w.stators;
        out.resistance *= w.stators;
        out.copper_volume *= w.stators;
        out.end_inductance = w.stators * end_inductance();
        return out;
    }

  private:
    double pitch() const {
        const Chart& chart = m.section.chart();
        return 2 * pi * chart.arm((m.stator_radius() + w.slot_bottom) / 2) / m.slots;
    }

    /// Mean distance of the coil's two sides along the circle through the slots' middles.
    double coil_width(const Coil& coil) const {
        const int span = span_of(coil, m.slots), across = std::min(span, m.slots - span);
        const double depth = std::abs(w.slot_bottom - m.stator_radius()),
                     slot_width = depth > 0 ? w.slot_area / depth : 0;
        // Around one tooth the two sides lie half a slot nearer to each other than the slots' centres.
        return w.layout.sharing == SlotSharing::SideBySide ? across * pitch() - slot_width / 2
                                                           : across * pitch();
    }

    double turn_length(const Coil& coil) const {
        if (coil.back.slot == outside_core) {
            const double middle = (m.stator_radius() + w.slot_bottom) / 2,
                         beyond = m.section.stator().tile.far_radius;
            return 2 * (m.stack_length + 2 * w.overhang + std::abs(beyond - middle));
        }
        const double length = w.side_length > 0 ? w.side_length : m.stack_length;
        if (w.end_length > 0) return 2 * (length + w.end_length);
        const double width = coil_width(coil);
        // Axial: one end lies inside the ring, the other outside it.
        return 2 * length + end_turn_length((1 - w.end_spread) * width, w.overhang, 0) +
               end_turn_length((1 + w.end_spread) * width, w.overhang, 0);
    }

    double end_inductance() const {
        double rings = 0, series = 0, width = 0;
        int wide = 0;
        for (const Coil& coil : w.layout.coils) {
            if (coil.back.slot == outside_core) continue;
            const double across = coil_width(coil);
            const int span = span_of(coil, m.slots);
            if (std::min(span, m.slots - span) == 1) {
                const double section = coil.turns * out.size.area / std::max(0.05, out.size.fill);
                rings += ring_inductance(across / 2, section, coil.turns);
            } else {
                ++wide;
                series += coil.turns;
                width += across;
            }
        }
        const double paths = double(w.paths) * w.paths;
        double inductance = rings / (w.phases * paths);
        if (wide > 0) {
            width /= wide;
            const double q = double(m.slots) / (m.poles * w.phases), a = w.paths;
            // The half circle of the end reaches half the coil's width beyond its straight parts.
            inductance += overhang_inductance(w.phases, m.slots, q, series / (w.phases * a),
                                              w.overhang + width / 4, width);
        }
        return inductance;
    }

    const Machine& m;
    const MachineWinding& w;
    Conductor out;
};

} // namespace

std::vector<double> MachineWinding::turns_in_slot(int slot) const {
    std::vector<double> turns(std::size_t(layout.input.layers), 0.0);
    for (const Coil& coil : layout.coils)
        for (const CoilSide& side : {coil.go, coil.back})
            if (side.slot == slot) turns[std::size_t(side.layer)] += in_section * coil.turns;
    return turns;
}

double MachineWinding::most_turns_in_slot() const {
    std::vector<double> turns(std::size_t(layout.input.slots), 0.0);
    for (const Coil& coil : layout.coils)
        for (const CoilSide& side : {coil.go, coil.back})
            if (side.slot != outside_core) turns[std::size_t(side.slot)] += in_section * coil.turns;
    return *std::max_element(turns.begin(), turns.end());
}

std::optional<double> Conductor::line_resistance(Connection connection) const {
    if (connection == Connection::Open) return std::nullopt;
    return connection == Connection::Star ? 2 * resistance : 2 * resistance / 3;
}

Conductor machine_conductor(const Machine& machine) {
    return Measurer(machine).run();
}

double rated_density(const Machine& machine, const Conductor& conductor) {
    return machine.rating.current / std::sqrt(2.0) / (machine.winding.paths * conductor.size.area);
}

} // namespace mavlo
