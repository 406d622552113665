// A machine from the values of its parameters, step by step, with all that is wrong.

#include "machine/axial.h"
#include "machine/machine.h"
#include "machine/rotors/cage.h"
#include "machine/rotors/pole_shift.h"
#include "machine/shaped_tile.h"
#include "machine/slot_space.h"
#include "machine/slots/slot_form.h"
#include "machine/tile_kind.h"
#include "quantity/constants.h"
#include "winding/balance.h"
#include "winding/coil_table.h"
#include "winding/proposal.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace mavlo {
namespace {

bool is_outer(const Values& v) {
    return v.word("machine.topology") == "outer-rotor";
}

class Builder {
  public:
    Builder(const Values& values, const MaterialLibrary& own, MachineOptions options)
        : m_own(own)
        , m_options(options) {
        m.values = values;
    }

    Result<Machine> run() {
        main_dimensions();
        if (m_problems.empty()) winding();
        if (m_problems.empty()) shapes();
        if (m_problems.empty()) materials();
        if (m_problems.empty()) rings();
        if (m_problems.empty() && m.wound()) slot();
        if (m_problems.empty() && m.wound()) room();
        if (!m_problems.empty()) return m_problems;
        return std::move(m);
    }

    /// Of a machine that is built, at another radius.
    static std::vector<Body> at(const Machine& machine, double radius) {
        const MaterialLibrary none;
        Builder builder(machine.values, none, {});
        builder.m.winding = machine.winding;
        return builder.bodies(at_radius(machine.values, radius));
    }

  private:
    void add(const Problems& problems) {
        m_problems.insert(m_problems.end(), problems.begin(), problems.end());
    }
    void say(const char* path, std::string sentence) { m_problems.push_back({path, std::move(sentence)}); }
    double number(const char* path) const { return m.values.number(path); }

    void main_dimensions() {
        const Values& v = m.values;
        m.slots = v.whole("stator.slots");
        m.poles = v.whole("rotor.poles");
        m.stack_length = m.section.depth = number("machine.stack_length");
        if (is_flat(v)) m.section.depth *= axial_form(v).halves;
        m.gap = number("gap");
        m.friction_torque = number("machine.friction_torque");
        if (v.has("rotor.pole_depth")) m.pole_depth = number("rotor.pole_depth");
        if (!is_flat(v)) m.skew = {skew("rotor"), skew("stator")};
        m.rating = {.speed = number("rating.speed"),
                    .current = number("rating.current"),
                    .advance = number("rating.advance"),
                    .max_current = number("rating.max_current"),
                    .dc_voltage = number("rating.dc_voltage"),
                    .max_speed = number("rating.max_speed")};
        if (v.has("rating.turn_on")) {
            m.rating.turn_on = number("rating.turn_on");
            m.rating.turn_off = number("rating.turn_off");
        }
        if (!v.is_auto("rating.torque")) m.rating.torque = number("rating.torque");
        if (m.poles % 2) say("rotor.poles", fmt::format("{} poles: the number must be even.", m.poles));
        kinds();
        if (is_linear(v)) rate_a_straight_one();
        if (is_flat(v)) return add(flat_problems(v));
        const double outer = number("stator.outer_diameter") / 2, bore = number("stator.bore_diameter") / 2;
        if (is_outer(v)) {
            if (const double rest = number("rotor.outer_diameter") / 2 - outer - m.gap; rest < 1e-5)
                say("rotor.outer_diameter",
                    fmt::format("The rotor's outside lies {} inside the gap; make it larger.",
                                millimetres(1e-5 - rest)));
            return;
        }
        const double rotor = bore - m.gap, shaft = number("rotor.shaft_diameter") / 2;
        if (rotor <= 0)
            say("gap", fmt::format("The gap leaves no room for a rotor: the bore's radius is {} too small.",
                                   millimetres(-rotor)));
        else if (shaft > rotor - 1e-5)
            say("rotor.shaft_diameter", fmt::format("The shaft is {} thicker than the rotor.",
                                                    millimetres(2 * (shaft - rotor + 1e-5))));
    }

    /// Its speeds and forces act on what would be the mean radius of a disc as long round as it is.
    void rate_a_straight_one() {
        const double r = section_radius(m.values);
        for (double* speed : {&m.rating.speed, &m.rating.max_speed}) *speed /= r;
        m.friction_torque *= r;
        if (m.rating.torque) *m.rating.torque *= r;
    }

    /// Whether those that are chosen can be drawn on the section's chart.
    void kinds() {
        const bool flat = is_flat(m.values);
        const Chart chart{flat ? section_radius(m.values) : 0};
        for (const Side side : {Side::Stator, Side::Rotor}) {
            const TileKind* kind = find_kind(side, m.values.word(kind_path(side)));
            if (kind->serves(chart)) continue;
            std::vector<std::string> others;
            for (const TileKind& other : registry<TileKind>().all())
                if (other.side == side && other.serves(chart)) others.push_back(other.name);
            say(kind_path(side),
                fmt::format("\"{}\" is not drawn for {} machines so far; they take one of: {}.", kind->name,
                            !flat                ? "round"
                            : is_axial(m.values) ? "axial"
                                                 : "linear",
                            fmt::join(others, ", ")));
        }
    }

    Skew skew(const std::string& side) const {
        const std::string path = side + ".skew.";
        const std::string& form = m.values.word(path + "form");
        Skew out{m.values.number(path + "angle"), SkewForm::Continuous, 1};
        if (form == "vee") out.form = SkewForm::Vee;
        if (form == "steps") {
            out.form = SkewForm::Steps;
            out.steps = m.values.whole(path + "steps");
        }
        return out;
    }

    void winding() {
        const Values& v = m.values;
        if (v.word("stator.slot.kind") == "none") return;
        MachineWinding& w = m.winding;
        const int phases = v.whole("winding.phases");
        WindingInput input{m.slots, m.poles, phases, v.whole("winding.layers"), v.whole("winding.span")};
        input.form = winding_form(v.word("winding.form"));
        if (v.has("winding.set_shift") && !v.is_auto("winding.set_shift"))
            input.set_shift = number("winding.set_shift");
        if (input.form == WindingForm::Pole) input.alternate = v.word("winding.polarity") == "alternate";
        if (v.has("winding.layer_shift")) input.layer_shift = v.whole("winding.layer_shift");
        auto layout = v.coils().empty() ? propose_winding(input) : layout_by_hand(v.coils(), input);
        if (!layout) return add(layout.problems());
        w.layout = *layout;
        if (v.coils().empty())
            for (Coil& coil : w.layout.coils) coil.turns = number("winding.turns");
        share_slots();
        w.phases = phases;
        w.paths = v.whole("winding.paths");
        const std::string& connection = v.word("winding.connection");
        w.connection = w.layout.switched()     ? Connection::Open
                       : connection == "star"  ? Connection::Star
                       : connection == "delta" ? Connection::Delta
                                               : Connection::Open;
        w.temperature = number("winding.temperature");
        w.overhang = number("winding.overhang");
        w.end_length = number("winding.end_length");
        conductor();
        if (w.layout.by_hand) return; // its paths are judged, not refused
        // Paths must be alike.
        for (int k = 0; k < w.phases; ++k)
            if (!parallel_paths(w.layout, k, w.paths).alike) {
                say("winding.paths", fmt::format("{} parallel paths cannot be alike; with this layout {} can.",
                                                 w.paths, fmt::join(possible_paths(w.layout), ", ")));
                return;
            }
    }

    void share_slots() {
        WindingLayout& layout = m.winding.layout;
        const std::string& asked = m.values.word("winding.sharing");
        if (layout.input.layers == 2 && asked != "auto")
            layout.sharing = asked == "stacked" ? SlotSharing::Stacked : SlotSharing::SideBySide;
        if (m.values.word("stator.slot.kind") != "drawn") return;
        // Where a drawing has one region a slot, or two on either side of its axis, coil sides share it so.
        const DrawnPart* part = m.values.drawing("stator");
        if (layout.sharing == SlotSharing::Stacked && part && part->mirrored && part->conductors() == 1)
            layout.sharing = SlotSharing::SideBySide;
        if (part && layout.input.layers > 2)
            say("winding.layers",
                "A drawn slot holds one or two layers; take a slot from dimensions for more.");
    }

    void conductor() {
        const Values& v = m.values;
        ConductorInput& c = m.winding.conductor;
        const std::string& shape = v.word("winding.conductor.shape");
        c.shape = shape == "rectangular" ? ConductorShape::Rectangular
                  : shape == "litz"      ? ConductorShape::Litz
                  : shape == "foil"      ? ConductorShape::Foil
                                         : ConductorShape::Round;
        const auto given = [&](const char* path) { return v.has(path) ? number(path) : 0; };
        c.diameter = given("winding.conductor.diameter");
        c.width = given("winding.conductor.width");
        c.height = given("winding.conductor.height");
        c.strands = v.whole("winding.conductor.strands");
        c.grade = v.whole("winding.conductor.grade");
        c.fill_factor = v.has("winding.fill_factor") ? number("winding.fill_factor") : 0.4;
        m.winding.separator = number("winding.separator");
    }

    double pole_shift() const { return m.values.has("rotor.pole_shift") ? number("rotor.pole_shift") : 0; }

    std::optional<Body> body(const Values& values, Side side, const char* kind_path, const TileFrame& frame,
                             bool turns) {
        const TileKind* kind = find_kind(side, values.word(kind_path));
        auto tile = kind->tile(frame, values);
        if (!tile) {
            add(tile.problems());
            return std::nullopt;
        }
        if (is_flat(values)) {
            const AxialForm form = axial_form(values);
            tile->mirror = turns ? form.mirrored_rotor : form.mirrored_stator;
        }
        if (!m.values.shapes().empty()) {
            tile = with_shapes(std::move(*tile), m.values.shapes(), turns ? "rotor" : "stator");
            if (!tile) {
                add(tile.problems());
                return std::nullopt;
            }
        }
        if (const double shift = turns ? pole_shift() : 0; shift != 0) {
            if (!tile->mirrored) {
                say("rotor.pole_shift", "Poles can be shifted only where each is its own mirror image.");
                return std::nullopt;
            }
            auto pair = shifted_pair(*tile, shift);
            if (!pair) {
                add(pair.problems());
                return std::nullopt;
            }
            return Body{*pair, frame.pitches / 2, false, turns};
        }
        Body body{m_options.unmirrored ? unmirrored(*tile) : *tile, frame.pitches, false, turns};
        body.alternates = turns && std::any_of(body.tile.regions.begin(), body.tile.regions.end(),
                                               [](const Region& r) { return r.magnet.has_value(); });
        return body;
    }

    TileFrame stator_place(const Values& values) const {
        return stator_frame(values, m.winding.layout.sharing, m.winding.layout.input.layers);
    }

    /// Rotor and stator by these values, inside out; empty where they do not fit.
    std::vector<Body> bodies(const Values& values) {
        auto stator = body(values, Side::Stator, "stator.slot.kind", stator_place(values), false);
        auto rotor = body(values, Side::Rotor, "rotor.kind", rotor_frame(values), true);
        if (!stator || !rotor) return {};
        if (stator->tile.outside() ? rotor->tile.gap_radius >= stator->tile.gap_radius
                                   : stator->tile.gap_radius >= rotor->tile.gap_radius) {
            say("gap", "The faces leave no gap between them.");
            return {};
        }
        return is_outer(values) ? std::vector{*stator, *rotor} : std::vector{*rotor, *stator};
    }

    /// The flat section at a radius, on one side of the middle or on the other.
    bool add_slice(Values values, const RadialSlice& slice, bool second) {
        Section section = m.section;
        const bool unequal = other_gap(values) != number("gap");
        section.share = unequal ? slice.share / 2 : slice.share;
        section.coils = has_coils_at(values, slice.radius);
        section.second = second;
        if (second) values.set_number("gap", other_gap(values));
        const std::size_t before = m_problems.size();
        section.bodies = bodies(at_radius(std::move(values), slice.radius));
        for (std::size_t k = before; k < m_problems.size(); ++k)
            m_problems[k].sentence =
                fmt::format("At the radius of {}: {}", millimetres(slice.radius), m_problems[k].sentence);
        if (section.bodies.empty()) return false;
        m.slices.push_back(std::move(section));
        return !unequal || second || add_slice(m.values, slice, true);
    }

    /// The flat sections at their radii.
    void slices() {
        const AxialForm form = axial_form(m.values);
        for (const RadialSlice& slice : radial_slices(m.values))
            if (!add_slice(m.values, slice, false)) return;
        // A lone slice in the middle is the section that is drawn.
        if (m.slices.size() == 1) {
            m.section = std::move(m.slices.front());
            m.slices.clear();
        }
        m.winding.in_section = form.mirrored_stator ? 0.5 : 1; // half of each turn on either side of the plane
        m.winding.stators = form.mirrored_stator ? 1 : form.halves;
        if (is_linear(m.values)) return; // its coils' sides are as long as the stack, their ends alike
        m.winding.end_spread = form.length() / (form.outer + form.inner);
        m.winding.side_length = coil_side_length(m.values);
    }

    void shapes() {
        m.section.bodies = bodies(m.values);
        if (m.section.bodies.empty()) return;
        const Body *stator = &m.section.stator(), *rotor = &m.section.rotor();
        const Pitches pitches{m.wound() ? m.slots : 0, rotor->pitches,
                              rotor->alternates   ? Pitches::Repeat::Alternating
                              : pole_shift() != 0 ? Pitches::Repeat::Alike
                                                  : Pitches::Repeat::Either,
                              m.poles};
        m.symmetry = find_symmetry(pitches, m.wound() ? &m.winding.layout : nullptr, m_options.whole,
                                   stator->tile.mirrored && rotor->tile.mirrored);
        const int count = m.symmetry.sector.count;
        for (const Body& b : m.section.bodies) m.symmetry.sector.pitches.push_back(b.pitches / count);
        if (is_flat(m.values)) slices();
        marks(stator_place(m.values), rotor_frame(m.values));
    }

    /// What a region of this use may be of. Shapes of air may be filled with whatever is not magnetic, a
    /// kind's own rooms, wedges among them, with anything but magnets.
    std::vector<MaterialKind> material_kinds(Use use, const std::string& path) const {
        switch (use) {
        case Use::Magnet:
            return {MaterialKind::Magnet};
        case Use::Conductor:
            return {MaterialKind::Conductor};
        case Use::Solid:
            return {MaterialKind::Steel, MaterialKind::Conductor};
        case Use::Air:
            if (!path.starts_with("shapes."))
                return {MaterialKind::Insulator, MaterialKind::Conductor, MaterialKind::Steel};
            return {MaterialKind::Insulator, MaterialKind::Conductor};
        default:
            return {MaterialKind::Steel};
        }
    }

    void materials() {
        materials_of(m.section);
        for (Section& slice : m.slices) materials_of(slice);
        open_outside();
        if (!m.wound()) return;
        if (const Substance* copper = m.substance("winding.conductor.material"))
            m.winding.conductor_material = copper->material;
    }

    void materials_of(Section& section) {
        for (Body& body : section.bodies)
            for (Region& region : body.tile.regions) {
                if (region.use == Use::Air &&
                    (region.material.empty() || is_air(m.values.word(region.material))))
                    continue;
                const std::string path = region.material.empty() ? "rotor.shaft_resistivity" : region.material;
                const auto known = std::find_if(m.substances.begin(), m.substances.end(),
                                                [&](const Substance& s) { return s.path == path; });
                region.substance = int(known - m.substances.begin());
                if (known == m.substances.end()) m.substances.push_back(substance(path, region.use));
            }
    }

    void rings() {
        const Substance* bars = m.substance("rotor.bar.material");
        if (!bars) return;
        const auto material =
            find_material(m.values.word("rotor.ring.material"), {MaterialKind::Conductor}, m_own);
        if (!material) return say("rotor.ring.material", material.problems().front().sentence);
        const double resistivity = material->resistivity_at(bars->temperature);
        if (resistivity <= 0)
            return say("rotor.ring.material",
                       fmt::format("The resistivity of \"{}\" is not known; give it.", material->name));
        if (!m.skew.none())
            return say("rotor.skew.angle",
                       "A skewed cage is not computed yet: its bars would join all slices of the stack.");
        const auto found = end_ring_of(rotor_frame(m.values), m.values, bars->resistivity, resistivity);
        if (!found) return add(found.problems());
        m.rings = *found;
    }

    /// Steel that saturates lets the field out.
    void open_outside() {
        Body& outer = m.section.bodies.back();
        if (outer.tile.chart.is_flat()) return; // a disc's iron is taken to hold its flux
        const std::string& word = m.values.word(outer.turns ? "rotor.outer_boundary" : "stator.outer_boundary");
        outer.tile.open = word == "open" ||
                          (word == "auto" && std::any_of(outer.tile.regions.begin(), outer.tile.regions.end(),
                                                         [this](const Region& r) { return can_saturate(r); }));
    }
    bool can_saturate(const Region& region) const {
        return region.use == Use::Iron && region.substance >= 0 &&
               !m.substances[std::size_t(region.substance)].material.curve.is_linear();
    }

    Substance substance(const std::string& path, Use use) {
        Substance s;
        s.path = path;
        if (path == "rotor.shaft_resistivity") {
            s.resistivity = m.values.number(path);
            return s;
        }
        auto found = find_material(m.values.word(path), material_kinds(use, path), m_own);
        if (!found) {
            m_problems.push_back({path, found.problems().front().sentence});
            return s;
        }
        s.material = *found;
        if (path.starts_with("shapes.")) {
            of_shape(path, use, s);
            return s;
        }
        if (use == Use::Air) return s;
        const std::string owner = path.substr(0, path.rfind('.'));
        if (use == Use::Iron) {
            steel(owner, s, true);
        } else if (use == Use::Solid) {
            conducting(owner, s);
        } else if (use == Use::Conductor) {
            s.temperature = m.winding.temperature;
            s.resistivity = s.material.resistivity_at(s.temperature);
        } else {
            magnet(owner, s);
        }
        return s;
    }

    void conducting(const std::string& owner, Substance& s) {
        const std::string resistivity = owner + ".resistivity", warm = owner + ".temperature";
        if (m.values.has(warm)) s.temperature = m.values.number(warm);
        const bool given = m.values.has(resistivity) && !m.values.is_auto(resistivity);
        s.resistivity = given ? m.values.number(resistivity) : s.material.resistivity_at(s.temperature);
        if (s.resistivity <= 0)
            m_problems.push_back(
                {m.values.has(resistivity) ? resistivity : s.path,
                 fmt::format("The resistivity of \"{}\" is not known; give it.", s.material.name)});
    }

    /// `own`: the side's own steel, not one that a drawn shape names.
    void steel(const std::string& side, Substance& s, bool own) {
        const bool said = m.values.word(side + ".solid") == "yes";
        s.solid = said || s.material.solid;
        s.stacking = s.solid ? 1 : m.values.number(side + ".stacking_factor");
        s.building = m.values.number(side + ".building_factor");
        s.temperature = m.values.number(side + ".steel_temperature");
        s.material.curve = s.material.curve_at(s.temperature);
        if (s.solid) massive(side + ".resistivity", s, own && said);
    }

    /// `here`: the resistivity may be given at this path.
    void massive(const std::string& path, Substance& s, bool here) {
        const bool given = here && !m.values.is_auto(path);
        s.resistivity = given ? m.values.number(path) : s.material.resistivity_at(s.temperature);
        if (s.resistivity <= 0)
            m_problems.push_back(
                {here ? path : s.path,
                 fmt::format("The resistivity of the massive steel \"{}\" is not known; give it.",
                             s.material.name)});
    }

    /// A material that a drawn shape names for itself: sheets as its side's, magnets as warm as its side's own.
    void of_shape(const std::string& path, Use use, Substance& s) {
        const auto& shapes = m.values.shapes();
        const auto shape = std::find_if(shapes.begin(), shapes.end(),
                                        [&](const ShapeOutline& o) { return o.material_path == path; });
        if (use == Use::Iron) return steel(shape->side, s, false);
        if (use == Use::Air) return;
        const std::string warm = shape->side + ".magnet.temperature";
        if (m.values.has(warm)) s.temperature = m.values.number(warm);
        s.resistivity = s.material.resistivity_at(s.temperature);
        s.length = m.stack_length;
    }

    void magnet(const std::string& owner, Substance& s) {
        const Values& v = m.values;
        s.temperature = v.number(owner + ".temperature");
        s.resistivity = s.material.resistivity_at(s.temperature);
        s.length = m.stack_length / v.whole(owner + ".segments");
        if (v.has(owner + ".thickness")) s.thickness = v.number(owner + ".thickness");
        if (is_flat(v) && axial_form(v).magnets_alone) s.thickness /= 2; // half of it is drawn
        if (v.has(owner + ".clearance") && v.number(owner + ".clearance") > 0) {
            const std::string& faces = v.word(owner + ".clearance_faces");
            const double air = (faces == "both" ? 2 : faces == "back" ? 1 : 0) * v.number(owner + ".clearance");
            s.filling = s.thickness / (s.thickness + air);
        }
        if (s.own_remanence() < 0)
            m_problems.push_back(
                {owner + ".temperature",
                 "At this temperature the grade has no remanence left; lower it or take another grade."});
    }

    void slot() {
        const TileFrame frame = stator_frame(m.values, m.winding.layout.sharing, m.winding.layout.input.layers);
        if (m.values.word("stator.slot.kind") == "drawn") return drawn_slot(frame);
        if (!has_contour(m.values)) return open_slot();
        const auto contour = contour_of(frame, m.values);
        if (!contour) return add(contour.problems());
        // A kind need not have a liner or a tip.
        const auto own = [&](const char* path) { return m.values.has(path) ? m.values.number(path) : 0; };
        const SlotArea area = slot_area(frame.chart, *contour, own("stator.slot.liner"));
        if (area.conductors <= 0.02 * area.whole)
            return say("stator.slot.liner", "The liner leaves no room for conductors; make it thinner.");
        m.winding.slot_area = area.conductors;
        m.winding.slot_bottom = contour->steps.back().to.x;
        m.winding.conductor_depth = frame.depth_of(contour->steps.back().to) - own("stator.slot.tip_depth");
    }

    /// Coil sides that no slot's contour bounds: as they are drawn.
    void open_slot() {
        const Tile& tile = m.section.stator().tile;
        double low = 1e300, high = 0;
        for (const PackingSpace& space : slot_spaces(m)) {
            m.winding.slot_area += std::abs(area(space.polygon));
            for (Point p : space.polygon) {
                const double depth = std::abs(tile.chart.height(p) - tile.gap_radius);
                low = std::min(low, depth);
                high = std::max(high, depth);
            }
        }
        m.winding.slot_bottom = tile.gap_radius + (tile.outside() ? high : -high);
        m.winding.conductor_depth = std::max(0.0, high - low);
        if (m.winding.slot_area <= 0) say("stator.slot.kind", "The coil sides have no room.");
    }

    /// What the slots leave the conductors.
    void room() {
        MachineWinding& w = m.winding;
        if (m.values.has("stator.slot.liner")) w.liner = m.values.number("stator.slot.liner");
        w.conductor.slot_area = w.slot_area;
        w.conductor.turns_in_slot = w.most_turns_in_slot();
        w.conductor.coil_height = w.conductor_depth;
        w.conductor.free_area = free_area(slot_spaces(m));
    }

    /// What the drawing gives the conductors.
    void drawn_slot(const TileFrame& frame) {
        const DrawnSlot slot = drawn_slot_of(*m.values.drawing("stator"));
        if (slot.area <= 0)
            return say("stator.slot.kind",
                       "The drawing names no conductors; say which of its regions they are.");
        m.winding.slot_area = slot.area;
        m.winding.slot_bottom = frame.radius(slot.to);
        m.winding.conductor_depth = slot.to - slot.from;
    }

    void marks(const TileFrame& stator, const TileFrame& rotor) {
        using Kind = DimensionMark::Kind;
        auto diameter = [&](const char* path, double r) {
            m.marks.push_back({path, Kind::Diameter, {-r, 0}, {r, 0}, {r, 0}, {2, 0}});
        };
        if (!is_flat(m.values)) {
            diameter("stator.outer_diameter", number("stator.outer_diameter") / 2);
            diameter("stator.bore_diameter", number("stator.bore_diameter") / 2);
        } else if (m.values.has("stator.thickness")) {
            // Where the middle plane cuts the core the mark goes to it, and half of the thickness is seen.
            const Point back{stator.far_radius, 0};
            const double share = axial_form(m.values).stator_between ? 2 : 1;
            m.marks.push_back({"stator.thickness",
                               Kind::Length,
                               {stator.gap_radius, 0},
                               back,
                               back,
                               {share * stator.dir(), 0}});
        }
        const Point face{rotor.gap_radius, 0};
        m.marks.push_back({"gap", Kind::Length, face, {stator.gap_radius, 0}, face, {rotor.dir(), 0}});
        const TileKind* slot = find_kind(Side::Stator, m.values.word("stator.slot.kind"));
        const TileKind* pole = find_kind(Side::Rotor, m.values.word("rotor.kind"));
        for (auto& mark : slot->marks(stator, m.values)) m.marks.push_back(mark);
        const double turn = -pole_shift() / 2; // of the first pole, which carries them
        for (auto& mark : pole->marks(rotor, m.values)) {
            for (Point* p : {&mark.a, &mark.b, &mark.handle, &mark.gradient}) *p = rotated(*p, turn);
            m.marks.push_back(mark);
        }
        if (is_flat(m.values)) roll_marks();
    }

    /// Marks of a flat section stand on the drawing that is rolled up.
    void roll_marks() {
        const Chart& chart = m.section.chart();
        for (DimensionMark& mark : m.marks) {
            const double angle = chart.angle(mark.handle), stretched = chart.flat / mark.handle.x;
            mark.gradient = rotated({mark.gradient.x, mark.gradient.y * stretched}, angle);
            for (Point* p : {&mark.a, &mark.b, &mark.handle}) *p = chart.rolled(*p);
        }
    }

    const MaterialLibrary& m_own;
    MachineOptions m_options;
    Problems m_problems;
    Machine m;
};

} // namespace

std::vector<Body> bodies_at(const Machine& machine, double radius) {
    return Builder::at(machine, radius);
}

Result<Machine> build_machine(const Values& values, const MaterialLibrary& own, MachineOptions options) {
    return Builder(values, own, options).run();
}

} // namespace mavlo
