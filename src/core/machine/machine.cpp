#include "machine/machine.h"

#include "machine/rotor_kind.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>
#include <numeric>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;

class Builder {
  public:
    Builder(const Values& values, const MaterialLibrary& own, MachineOptions options)
        : m_own(own)
        , m_options(options) {
        m.values = values;
    }

    Result<Machine> run() {
        main_dimensions();
        materials();
        winding();
        if (m_problems.empty()) shapes();
        if (!m_problems.empty()) return m_problems;
        return std::move(m);
    }

  private:
    void add(const Problems& problems) {
        m_problems.insert(m_problems.end(), problems.begin(), problems.end());
    }
    double number(const char* path) const { return m.values.number(path); }

    void main_dimensions() {
        m.slots = m.values.whole("stator.slots");
        m.poles = m.values.whole("rotor.poles");
        m.stack_length = number("machine.stack_length");
        m.outer_radius = number("stator.outer_diameter") / 2;
        m.bore_radius = number("stator.bore_diameter") / 2;
        m.gap = number("gap");
        m.stator_stacking = number("stator.stacking_factor");
        m.rotor_stacking = number("rotor.stacking_factor");
        m.rating = {number("rating.speed"), number("rating.current"), number("rating.advance")};
        m.wound = m.values.word("stator.slot.kind") != "none";
        if (m.outer_radius <= m.bore_radius)
            m_problems.push_back({"stator.outer_diameter",
                                  fmt::format("The stator's outer diameter is {} smaller than its bore.",
                                              millimetres(2 * (m.bore_radius - m.outer_radius)))});
        if (m.poles % 2)
            m_problems.push_back({"rotor.poles", fmt::format("{} poles: the number must be even.", m.poles)});
    }

    void material(const char* path, MaterialKind kind, Material& target) {
        auto found = find_material(m.values.word(path), kind, m_own);
        if (found)
            target = *found;
        else
            m_problems.push_back({path, found.problems().front().sentence});
    }

    void materials() {
        material("stator.steel", MaterialKind::Steel, m.stator_steel);
        material("rotor.steel", MaterialKind::Steel, m.rotor_steel);
        material("rotor.magnet.grade", MaterialKind::Magnet, m.magnet);
        material("winding.conductor.material", MaterialKind::Conductor, m.copper);
        m.remanence = m.magnet.magnet.remanence_at(number("rotor.magnet.temperature"));
        if (m.remanence < 0)
            m_problems.push_back(
                {"rotor.magnet.temperature",
                 "At this temperature the grade has no remanence left; lower it or take another grade."});
    }

    void winding() {
        m.turns = number("winding.turns");
        m.paths = m.values.whole("winding.paths");
        m.star = m.values.word("winding.connection") == "star";
        if (!m.wound || m.poles % 2) return;
        auto layout = propose_winding({m.slots, m.poles, m.values.whole("winding.phases"),
                                       m.values.whole("winding.layers"), m.values.whole("winding.span")});
        if (!layout) return add(layout.problems());
        m.winding = *layout;
        // Paths must be alike: they are cut from the repetitions of the layout round the machine.
        const int groups = winding_groups();
        if (groups % m.paths != 0)
            m_problems.push_back(
                {"winding.paths", fmt::format("{} parallel paths cannot be alike: the layout has {} equal "
                                              "groups of coils a phase; use a divisor of it.",
                                              m.paths, groups)});
    }

    /// Groups of coils in a phase that see the same voltage.
    int winding_groups() const {
        int groups = 1;
        for (int n = 1; n <= m.slots; ++n) {
            if (m.slots % n || m.poles % n) continue;
            const int sign = (m.poles / n) % 2 ? -1 : 1;
            if (sign < 0 && n % 2) continue;
            if (repeats_after(m.winding, m.slots / n, sign)) groups = n;
        }
        return groups;
    }

    void shapes() {
        m.sector = m_options.whole ? Sector{1, 1, m.slots, m.poles}
                                   : find_sector(m.slots, m.poles, m.wound ? &m.winding : nullptr);
        // A smooth stator has no pitch of its own: it is cut so finely that its mesh adds no order that
        // matters.
        const StatorFrame frame{m.bore_radius, m.outer_radius, m.wound ? m.slots : 8 * m.poles};
        if (!m.wound) m.sector.slots = frame.slots / m.sector.count;
        const SlotKind* slot = find_slot_kind(m.values.word("stator.slot.kind"));
        auto contour = slot->contour(frame, m.values);
        if (contour)
            m.stator = stator_cell(frame, *contour, m.winding.sharing);
        else
            add(contour.problems());
        const RotorKind* kind = find_rotor_kind(m.values.word("rotor.kind"));
        const RotorFrame rotor{m.rotor_radius(), m.poles};
        auto cell = kind->cell(rotor, m.values);
        if (cell)
            m.rotor = *cell;
        else
            add(cell.problems());
        if (m_problems.empty()) marks(frame, *slot, rotor, *kind);
    }

    void marks(const StatorFrame& frame, const SlotKind& slot, const RotorFrame& rotor, const RotorKind& kind) {
        using Kind = DimensionMark::Kind;
        auto diameter = [&](const char* path, double r) {
            m.marks.push_back({path, Kind::Diameter, {-r, 0}, {r, 0}, {r, 0}, {2, 0}});
        };
        diameter("stator.outer_diameter", m.outer_radius);
        diameter("stator.bore_diameter", m.bore_radius);
        const Point inner{m.rotor_radius(), 0};
        m.marks.push_back({"gap", Kind::Length, inner, {m.bore_radius, 0}, inner, {-1, 0}});
        for (auto& mark : slot.marks(frame, m.values)) m.marks.push_back(mark);
        for (auto& mark : kind.marks(rotor, m.values)) m.marks.push_back(mark);
    }

    const MaterialLibrary& m_own;
    MachineOptions m_options;
    Problems m_problems;
    Machine m;
};

} // namespace

double Sector::angle() const {
    return 2 * pi / count;
}

Sector find_sector(int slots, int poles, const WindingLayout* layout) {
    const int common = layout ? std::gcd(slots, poles) : poles;
    for (int count = common; count > 1; --count) {
        if (common % count) continue;
        const int sign = (poles / count) % 2 ? -1 : 1;
        if (sign < 0 && count % 2) continue;
        if (layout && !repeats_after(*layout, slots / count, sign)) continue;
        return {count, sign, layout ? slots / count : 0, poles / count};
    }
    return {1, 1, slots, poles};
}

Result<Machine> build_machine(const Design& design, const MaterialLibrary& own, MachineOptions options) {
    auto values = resolve(design);
    if (!values) return values.problems();
    return Builder(*values, own, options).run();
}

double slot_conductor_area(const Machine& machine) {
    const SlotKind* kind = find_slot_kind(machine.values.word("stator.slot.kind"));
    const StatorFrame frame{machine.bore_radius, machine.outer_radius, machine.slots};
    const auto contour = kind->contour(frame, machine.values);
    if (!contour || contour->steps.empty()) return 0;
    const auto& steps = contour->steps;
    std::vector<Point> polygon;
    Outline outline;
    for (std::size_t i = contour->conductor_from; i < steps.size(); ++i) {
        const int to = outline.add(steps[i].to);
        if (i == contour->conductor_from) {
            polygon.push_back(steps[i].to);
            continue;
        }
        const Edge edge{outline.add(steps[i - 1].to), to, steps[i].centre};
        for (int k = 1; k <= 64; ++k) polygon.push_back(point_on(outline, edge, k / 64.0));
    }
    const double start = norm(polygon.front()), from = 0, to = angle_of(polygon.front());
    for (int k = 0; k < 64; ++k)
        polygon.push_back(polar(start, from + (to - from) * k / 64.0)); // back along the arc
    double twice = 0;
    for (std::size_t i = 0; i < polygon.size(); ++i)
        twice += cross(polygon[i], polygon[(i + 1) % polygon.size()]);
    return std::abs(twice); // half slot doubled
}

Conductor machine_conductor(const Machine& machine) {
    ConductorInput in;
    const Values& v = machine.values;
    in.slot_area = slot_conductor_area(machine);
    in.layers = machine.winding.input.layers;
    in.turns = machine.turns;
    in.paths = machine.paths;
    in.coils_per_phase = machine.winding.coils_per_phase();
    in.strand_diameter = v.number("winding.conductor.diameter");
    in.strands = v.whole("winding.conductor.strands");
    in.fill_factor = v.number("winding.fill_factor");
    in.resistivity = machine.copper.resistivity_at(v.number("winding.temperature"));
    in.stack_length = machine.stack_length;
    const double depth = v.number("stator.slot.depth");
    const double pitch = 2 * pi * (machine.bore_radius + depth / 2) / machine.slots;
    // Around one tooth the two sides lie half a slot nearer to each other than the slots' centres.
    const double span = machine.winding.input.span;
    const double slot_width = in.slot_area / depth;
    in.coil_width =
        machine.winding.sharing == SlotSharing::SideBySide ? span * pitch - slot_width / 2 : span * pitch;
    in.overhang = v.number("winding.overhang");
    return size_conductor(in);
}

int cogging_periods_per_turn(const Machine& machine) {
    return std::lcm(machine.slots, machine.poles);
}

} // namespace mavlo
