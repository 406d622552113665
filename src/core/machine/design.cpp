#include "machine/design.h"

#include "circuit/netlist.h"
#include "machine/axial.h"
#include "machine/shape_outline.h"
#include "machine/tile_kind.h"
#include "quantity/constants.h"
#include "quantity/formula.h"
#include "quantity/quantity.h"
#include "winding/coil_table.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>
#include <numbers>
#include <set>
#include <stdexcept>

namespace mavlo {
namespace {

std::string shown(const Parameter& parameter, double number) {
    return parameter.unit.empty() ? number_text(number, 6) : number_text(number, 6) + " " + parameter.unit;
}

class Resolver {
  public:
    explicit Resolver(const Design& design)
        : m_design(design) {}

    Result<Values> run() {
        for (const auto& [path, text] : m_design.texts)
            if (!find_parameter(path)) m_problems.push_back(unknown(path));
        for (const char* path : {"machine.topology", "stator.slot.kind", "rotor.kind"})
            choose(*find_parameter(path)); // what else is used hangs on these
        if (!m_problems.empty()) return m_problems;
        if (auto problems = inside_out(); !problems.empty()) return problems;
        for (const Parameter* parameter : used_parameters(m_design)) {
            if (parameter->kind == ParameterKind::Choice)
                choose(*parameter);
            else if (parameter->kind == ParameterKind::MaterialName)
                m_values.set_word(parameter->path, m_design.text(parameter->path));
            else
                take_number(*parameter);
        }
        if (!m_problems.empty()) return m_problems;
        m_values.set_coils(m_design.coils);
        m_values.set_circuits(m_design.circuits);
        take_drawings();
        take_shapes();
        if (!m_problems.empty()) return m_problems;
        if (is_axial(m_values)) take_radius();
        if (is_linear(m_values))
            m_values = at_radius(std::move(m_values), m_values.number("machine.pole_pitch") *
                                                          m_values.whole("rotor.poles") / (2 * pi));
        return m_values;
    }

    /// An axial machine is drawn at its mean radius; its active width stands for a stack.
    void take_radius() {
        const AxialForm form = axial_form(m_values);
        m_values.set_number("machine.stack_length", form.length());
        m_values = at_radius(std::move(m_values), (form.inner + form.outer) / 2);
    }

    static Problem unknown(const std::string& path) {
        const auto near = similar_paths(path);
        return {path, near.empty() ? "There is no such parameter; docs/file-format.md lists them."
                                   : fmt::format("There is no such parameter; did you mean {}?", near.front())};
    }

  private:
    /// What follows from a stator turned inside out would only hide the cause.
    Problems inside_out() {
        if (is_linear(m_design)) return {};
        const bool axial = is_axial(m_design);
        const std::string far = axial ? "machine.outer_diameter" : "stator.outer_diameter",
                          near = axial ? "machine.inner_diameter" : "stator.bore_diameter";
        const auto outer = quantity(far), inner = quantity(near);
        if (!outer || !inner || outer->si > inner->si) return {};
        const std::string by = millimetres(inner->si - outer->si);
        return {{far, axial ? fmt::format("The outer diameter is {} smaller than the inner one.", by)
                            : fmt::format("The stator's outer diameter is {} smaller than its bore.", by)}};
    }

    void choose(const Parameter& parameter) {
        const auto choices = parameter.choices();
        const std::string word = m_design.text(parameter.path);
        if (std::find(choices.begin(), choices.end(), word) == choices.end())
            m_problems.push_back(
                {parameter.path, fmt::format("\"{}\" is not one of: {}.", word, fmt::join(choices, ", "))});
        m_values.set_word(parameter.path, word);
    }

    void take_number(const Parameter& parameter) {
        const auto value = quantity(parameter.path);
        if (!value) {
            m_problems.push_back({parameter.path, value.problems().front().sentence});
            return;
        }
        m_values.set_number(parameter.path, value->si);
        if (parameter.auto_allowed && trim(m_design.text(parameter.path)) == "auto")
            m_values.set_auto(parameter.path);
        else
            check_limits(parameter, value->si);
    }

    void check_limits(const Parameter& parameter, double si) {
        const double shown_number = parameter.unit.empty() ? si : to_unit(si, *find_unit(parameter.unit));
        if (parameter.kind == ParameterKind::Whole && shown_number != std::rint(shown_number)) {
            m_problems.push_back({parameter.path, fmt::format("A whole number is wanted, not {}.",
                                                              shown(parameter, shown_number))});
            return;
        }
        const double slack = 1e-9 * std::max(std::abs(parameter.low), std::abs(parameter.high));
        if (shown_number < parameter.low - slack)
            m_problems.push_back(
                {parameter.path, fmt::format("{} is less than the smallest possible {}.",
                                             shown(parameter, shown_number), shown(parameter, parameter.low))});
        else if (shown_number > parameter.high + slack)
            m_problems.push_back({parameter.path, fmt::format("{} is more than the largest possible {}.",
                                                              shown(parameter, shown_number),
                                                              shown(parameter, parameter.high))});
    }

    TextValue text_value() {
        return [this](const std::string& text, const Dimension& wanted) -> Result<double> {
            const auto read = read_text(text, wanted, {});
            if (!read) return read.problems();
            return read->si;
        };
    }

    void take_drawings() {
        std::vector<DrawnDimension> dimensions = m_design.dimensions;
        for (const auto& [side, drawing] : m_design.drawings) {
            const auto part = dimensioned(drawing, dimensions, side, text_value());
            if (part)
                m_values.set_drawing(side, *part);
            else
                m_problems.insert(m_problems.end(), part.problems().begin(), part.problems().end());
        }
        m_values.set_dimensions(std::move(dimensions));
    }

    void take_shapes() {
        const TextValue value = text_value();
        std::set<std::string> names;
        for (std::size_t i = 0; i < m_design.shapes.size(); ++i) {
            const FreeShape& shape = m_design.shapes[i];
            const std::string path = "drawings.shapes." + shape.name;
            if (!names.insert(shape.name).second)
                m_problems.push_back({path, fmt::format("There are two shapes named “{}”.", shape.name)});
            auto outline = outline_of(shape, value);
            if (!outline) {
                m_problems.insert(m_problems.end(), outline.problems().begin(), outline.problems().end());
                continue;
            }
            name_material(*outline, shape, i);
            m_values.add_shape(std::move(*outline));
        }
    }

    void name_material(ShapeOutline& outline, const FreeShape& shape, std::size_t number) {
        if (shape.use == Use::Air && shape.material.empty()) return;
        const std::string usual = shape.side + (shape.use == Use::Iron ? ".steel" : ".magnet.grade");
        if (!shape.material.empty()) {
            outline.material_path = shape_material_path(number);
            m_values.set_word(outline.material_path, shape.material);
        } else if (m_values.has_word(usual)) {
            outline.material_path = usual;
        } else {
            m_problems.push_back(
                {"drawings.shapes." + shape.name,
                 fmt::format("“{}” is a magnet of no grade, and the {} has none of its own; name one.",
                             shape.name, shape.side)});
        }
    }

    /// The value of a path, following formulas; a path that is being evaluated already closes a circle.
    Result<Quantity> quantity(const std::string& path) {
        const Parameter* parameter = find_parameter(path, m_design);
        const bool derived = !parameter && is_derived(path);
        if (!parameter && !derived)
            return Problem{{}, fmt::format("The formula names \"{}\". {}", path, unknown(path).sentence)};
        if (parameter && parameter->is_word())
            return Problem{{}, fmt::format("\"{}\" is a word and cannot stand in a formula.", path)};
        if (const auto known = m_done.find(path); known != m_done.end()) return known->second;
        if (std::find(m_open.begin(), m_open.end(), path) != m_open.end())
            return Problem{
                {}, fmt::format("The formulas go round in a circle: {} → {}.", fmt::join(m_open, " → "), path)};
        m_open.push_back(path);
        Result<Quantity> value = derived ? derive(path) : read(*parameter, m_design.text(path));
        m_open.pop_back();
        m_done.emplace(path, value);
        return value;
    }

    static bool is_derived(const std::string& path) {
        const auto& list = derived_quantities();
        return std::any_of(list.begin(), list.end(), [&](const DerivedQuantity& q) { return q.path == path; });
    }

    /// See derived_quantities().
    Result<Quantity> derive(const std::string& path) {
        const bool outer = m_design.text("machine.topology") == "outer-rotor", axial = is_axial(m_design),
                   linear = is_linear(m_design), flat = axial || linear, between = has_stator_between(m_design);
        const auto formula = [&](const std::string& text, const Dimension& wanted) {
            return evaluate_formula(text, wanted, [this](const std::string& p) { return quantity(p); });
        };
        if (path == "gap_diameter")
            return formula(linear  ? "= machine.pole_pitch * rotor.poles / pi"
                           : axial ? "= (machine.outer_diameter + machine.inner_diameter) / 2"
                           : outer ? "= stator.outer_diameter"
                                   : "= stator.bore_diameter",
                           dimension::length);
        if (path == "machine.active_width")
            return axial ? formula("= (machine.outer_diameter - machine.inner_diameter) / 2", dimension::length)
                         : Result<Quantity>(Problem{{}, "Only axial machines have an active ring."});
        if (path == "pole_pitch") return formula("= pi * gap_diameter / rotor.poles", dimension::length);
        if (path == "slot_pitch") return formula("= pi * gap_diameter / stator.slots", dimension::length);
        if (path == "slot_angle") return formula("= 360 deg / stator.slots", dimension::angle);
        if (path == "bar_pitch") return formula("= pi * gap_diameter / rotor.bars", dimension::length);
        if (path == "bar_angle") return formula("= 360 deg / rotor.bars", dimension::angle);
        if (path == "pole_angle") return formula("= 360 deg / rotor.poles", dimension::angle);
        if (path == "stator_thickness")
            return formula(between ? "= stator.thickness / 2"
                           : flat  ? "= stator.thickness"
                                   : "= (stator.outer_diameter - stator.bore_diameter) / 2",
                           dimension::length);
        if (flat) return formula("= rotor.back_iron", dimension::length);
        return formula(outer ? "= (rotor.outer_diameter - stator.outer_diameter) / 2 - gap"
                             : "= (stator.bore_diameter - rotor.shaft_diameter) / 2 - gap",
                       dimension::length);
    }

    Result<Quantity> read(const Parameter& parameter, const std::string& text) {
        if (parameter.auto_allowed && trim(text) == "auto") return Quantity{0, parameter.dimension()};
        return read_text(text, parameter.dimension(), parameter.unit);
    }

    /// `unit`: the one that a bare number is told to take; empty: none is usual.
    Result<Quantity> read_text(const std::string& text, const Dimension& wanted, const std::string& unit) {
        if (is_formula(text))
            return evaluate_formula(text, wanted, [this](const std::string& p) { return quantity(p); });
        auto value = parse_quantity(text);
        if (!value || value->dimension == wanted) return value;
        if (value->dimension.plain() && !unit.empty())
            return Problem{{},
                           fmt::format("\"{}\" has no unit; write \"{} {}\".", trim(text), trim(text), unit)};
        return Problem{{},
                       fmt::format("\"{}\" is {}; {} is wanted here.", trim(text), describe(value->dimension),
                                   describe(wanted))};
    }

    const Design& m_design;
    Values m_values;
    Problems m_problems;
    std::map<std::string, Result<Quantity>> m_done;
    std::vector<std::string> m_open;
};

} // namespace

std::string Design::text(const std::string& path) const {
    if (const auto own = texts.find(path); own != texts.end()) return own->second;
    const Parameter* parameter = find_parameter(path, *this);
    return parameter ? parameter->standard : std::string{};
}

namespace {
template <typename Map>
const auto& at_path(const Map& map, std::string_view path) {
    const auto found = map.find(path);
    if (found == map.end())
        throw std::logic_error(fmt::format("{} is no parameter that this design uses", path));
    return found->second;
}
} // namespace

double Values::number(std::string_view path) const {
    return at_path(m_numbers, path);
}
int Values::whole(std::string_view path) const {
    return int(std::lround(number(path)));
}
const std::string& Values::word(std::string_view path) const {
    return at_path(m_words, path);
}
bool Values::is_auto(std::string_view path) const {
    return m_auto.contains(path);
}
bool Values::has(std::string_view path) const {
    return m_numbers.contains(path);
}
const DrawnPart* Values::drawing(const std::string& side) const {
    const auto found = m_drawings.find(side);
    return found == m_drawings.end() ? nullptr : &found->second;
}
bool Values::has_word(std::string_view path) const {
    return m_words.contains(path);
}
void Values::set_auto(const std::string& path) {
    m_auto.insert(path);
}

Result<Values> resolve(const Design& design) {
    return Resolver(design).run();
}

bool is_used(const Design& design, const std::string& path) {
    const auto used = used_parameters(design);
    return std::any_of(used.begin(), used.end(), [&](const Parameter* p) { return p->path == path; });
}

namespace {
/// Texts that only repeat a kind's standard make room for the next kind's own.
void forget_standards(Design& design) {
    for (const TileKind* kind : chosen_kinds(design))
        for (const Parameter& p : kind ? kind->parameters : std::vector<Parameter>{})
            if (const auto own = design.texts.find(p.path);
                own != design.texts.end() && own->second == p.standard)
                design.texts.erase(own);
}
} // namespace

namespace {

/// A table of coils; "auto": the proposed winding again.
Result<Design> with_coils(Design design, const std::string& text) {
    design.coils.clear();
    if (trim(text) == "auto") return design;
    const auto values = resolve(design);
    auto coils =
        coils_from_table(text, values && values->has("winding.phases") ? values->whole("winding.phases") : 3);
    if (!coils) return coils.problems();
    design.coils = std::move(*coils);
    return design;
}

/// A netlist, which must be readable; "none" takes the circuit away.
Result<Design> with_circuit(Design design, const std::string& name, const std::string& text) {
    if (trim(text) == "none") {
        design.circuits.erase(name);
        return design;
    }
    if (name.empty()) return Problem{"circuits", "A circuit needs a name: circuits.NAME."};
    if (const auto network = read_netlist(text); !network) return network.problems();
    design.circuits[name] = text;
    return design;
}

} // namespace

Result<Design> with_text(Design design, const std::string& path, const std::string& text, bool bare_unit) {
    if (path == "coils") return with_coils(std::move(design), text);
    if (path.starts_with("circuits.")) return with_circuit(std::move(design), path.substr(9), text);
    const Parameter* parameter = find_parameter(path, design);
    if (!parameter) return Resolver::unknown(path);
    std::string entry(trim(text));
    if (entry.empty()) return Problem{path, "A value is missing."};
    if (parameter->kind == ParameterKind::Quantity && !is_formula(entry) && entry != "auto") {
        const auto value = parse_quantity(entry);
        if (!value) return Problem{path, value.problems().front().sentence};
        if (bare_unit) entry = with_unit(entry, parameter->unit);
    }
    if (path == "stator.slot.kind" || path == "rotor.kind") forget_standards(design);
    design.texts[path] = entry;
    return design;
}

std::string text_for(const Parameter& parameter, double si, int digits) {
    if (parameter.unit.empty()) return number_text(si, digits);
    return number_text(to_unit(si, *find_unit(parameter.unit)), digits) + " " + parameter.unit;
}

std::vector<MaterialPlace> materials_named(const Design& design) {
    std::vector<MaterialPlace> places;
    for (const Parameter* parameter : used_parameters(design))
        if (parameter->kind == ParameterKind::MaterialName && !is_air(design.text(parameter->path)))
            places.push_back({parameter->path, design.text(parameter->path)});
    for (const FreeShape& shape : design.shapes)
        if (!shape.material.empty()) places.push_back({"drawings.shapes." + shape.name, shape.material});
    return places;
}

void rename_material(Design& design, const std::string& from, const std::string& to) {
    for (const Parameter* parameter : used_parameters(design))
        if (parameter->kind == ParameterKind::MaterialName && design.text(parameter->path) == from)
            design.texts[parameter->path] = to;
    for (FreeShape& shape : design.shapes)
        if (shape.material == from) shape.material = to;
}

namespace {

/// By its numbers, so that a formula and its value are the same.
std::string canonical_text(const ShapeOutline& shape, const Values& values) {
    std::string text = fmt::format("{} on {} {} {} {:.12g} {}:", to_string(shape.use), shape.side,
                                   shape.mirrored ? "mirrored" : "once",
                                   shape.material_path.empty() ? "" : values.word(shape.material_path),
                                   shape.direction, shape.pieces.size());
    for (const Piece& p : shape.pieces) text += fmt::format(" {:.12g},{:.12g},{:.12g}", p.a.x, p.a.y, p.bulge);
    return text + '\n';
}

} // namespace

std::string canonical_text(const Design& design) {
    std::string text;
    for (const Coil& c : design.coils)
        text += fmt::format("coil {} {} {}.{} {}.{} {:.12g}\n", c.phase, c.sign, c.go.slot, c.go.layer,
                            c.back.slot, c.back.layer, c.turns);
    for (const auto& [name, netlist] : design.circuits) {
        std::string line = netlist;
        std::replace(line.begin(), line.end(), '\n', '|');
        text += fmt::format("circuit {}: {}\n", name, line);
    }
    const auto values = resolve(design);
    for (const Parameter* parameter : used_parameters(design)) {
        text += parameter->path + "=";
        text += values && !parameter->is_word() ? fmt::format("{:.12g}", values->number(parameter->path))
                                                : design.text(parameter->path);
        text += '\n';
    }
    for (const auto& [side, kind] : {std::pair{"rotor", "rotor.kind"}, {"stator", "stator.slot.kind"}})
        if (const auto drawn = design.drawings.find(side);
            drawn != design.drawings.end() && design.text(kind) == "drawn")
            text += fmt::format("{} drawn: {}\n", side,
                                canonical_text(values ? *values->drawing(side) : drawn->second));
    if (values)
        for (const ShapeOutline& shape : values->shapes()) text += canonical_text(shape, *values);
    else
        for (const FreeShape& shape : design.shapes) text += to_json(shape).dump() + '\n';
    return text;
}

} // namespace mavlo
