#include "machine/design.h"

#include "machine/rotor_kind.h"
#include "machine/slot_kind.h"
#include "quantity/formula.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

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
        for (const Parameter& parameter : parameters()) {
            if (parameter.kind == ParameterKind::Choice)
                choose(parameter);
            else if (parameter.kind == ParameterKind::MaterialName)
                m_values.set_word(parameter.path, m_design.text(parameter.path));
        }
        for (const Parameter& parameter : parameters()) take_number(parameter);
        if (!m_problems.empty()) return m_problems;
        return m_values;
    }

    static Problem unknown(const std::string& path) {
        const auto near = similar_paths(path);
        return {path, near.empty() ? "There is no such parameter; docs/file-format.md lists them."
                                   : fmt::format("There is no such parameter; did you mean {}?", near.front())};
    }

  private:
    void choose(const Parameter& parameter) {
        const auto choices = parameter.choices();
        const std::string word = m_design.text(parameter.path);
        if (std::find(choices.begin(), choices.end(), word) == choices.end())
            m_problems.push_back(
                {parameter.path, fmt::format("\"{}\" is not one of: {}.", word, fmt::join(choices, ", "))});
        m_values.set_word(parameter.path, word);
    }

    static bool numeric(const Parameter& parameter) {
        return parameter.kind != ParameterKind::Choice && parameter.kind != ParameterKind::MaterialName;
    }

    void take_number(const Parameter& parameter) {
        if (!numeric(parameter)) return;
        const auto value = quantity(parameter.path);
        const bool used = is_used(m_design, parameter.path);
        if (!value) {
            if (used) m_problems.push_back({parameter.path, value.problems().front().sentence});
            return;
        }
        m_values.set_number(parameter.path, value->si);
        if (!used || trim(m_design.text(parameter.path)) == "auto") return;
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

    /// The value of a path, following formulas; a path that is being evaluated already closes a circle.
    Result<Quantity> quantity(const std::string& path) {
        const Parameter* parameter = find_parameter(path);
        if (!parameter)
            return Problem{{}, fmt::format("The formula names \"{}\". {}", path, unknown(path).sentence)};
        if (!numeric(*parameter))
            return Problem{{}, fmt::format("\"{}\" is a word and cannot stand in a formula.", path)};
        if (const auto known = m_done.find(path); known != m_done.end()) return known->second;
        if (std::find(m_open.begin(), m_open.end(), path) != m_open.end())
            return Problem{
                {}, fmt::format("The formulas go round in a circle: {} → {}.", fmt::join(m_open, " → "), path)};
        const std::string text = m_design.text(path);
        m_open.push_back(path);
        Result<Quantity> value = read(*parameter, text);
        m_open.pop_back();
        m_done.emplace(path, value);
        return value;
    }

    Result<Quantity> read(const Parameter& parameter, const std::string& text) {
        if (is_formula(text))
            return evaluate_formula(text, parameter.dimension(),
                                    [this](const std::string& p) { return quantity(p); });
        if (parameter.auto_allowed && trim(text) == "auto") return Quantity{0, parameter.dimension()};
        auto value = parse_quantity(text);
        if (value && value->dimension != parameter.dimension()) {
            if (value->dimension.plain())
                return Problem{{},
                               fmt::format("\"{}\" has no unit; write \"{} {}\".", trim(text), trim(text),
                                           parameter.unit)};
            return Problem{{},
                           fmt::format("\"{}\" is {}; {} is wanted here.", trim(text),
                                       describe(value->dimension), describe(parameter.dimension()))};
        }
        return value;
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
    const Parameter* parameter = find_parameter(path);
    return parameter ? parameter->standard : std::string{};
}

double Values::number(std::string_view path) const {
    const auto found = m_numbers.find(path);
    return found == m_numbers.end() ? 0 : found->second;
}
int Values::whole(std::string_view path) const {
    return int(std::lround(number(path)));
}
const std::string& Values::word(std::string_view path) const {
    static const std::string none;
    const auto found = m_words.find(path);
    return found == m_words.end() ? none : found->second;
}
bool Values::is_auto(std::string_view path) const {
    return number(path) == 0;
}

Result<Values> resolve(const Design& design) {
    return Resolver(design).run();
}

bool is_used(const Design& design, const std::string& path) {
    if (path.starts_with("stator.slot.") && path != "stator.slot.kind") {
        const SlotKind* kind = find_slot_kind(design.text("stator.slot.kind"));
        return !kind || std::find(kind->paths.begin(), kind->paths.end(), path) != kind->paths.end();
    }
    if (path.starts_with("rotor.magnet.") || path.starts_with("rotor.pocket.") ||
        path == "rotor.shaft_diameter") {
        const RotorKind* kind = find_rotor_kind(design.text("rotor.kind"));
        return !kind || std::find(kind->paths.begin(), kind->paths.end(), path) != kind->paths.end();
    }
    if (path == "winding.fill_factor") return trim(design.text("winding.conductor.diameter")) == "auto";
    return true;
}

Result<Design> with_text(Design design, const std::string& path, const std::string& text, bool bare_unit) {
    const Parameter* parameter = find_parameter(path);
    if (!parameter) return Resolver::unknown(path);
    std::string entry(trim(text));
    if (entry.empty()) return Problem{path, "A value is missing."};
    if (parameter->kind == ParameterKind::Quantity && !is_formula(entry) && entry != "auto") {
        auto value = parse_quantity(entry);
        if (value && value->dimension.plain() && bare_unit && !parameter->unit.empty())
            entry += " " + parameter->unit;
        else if (!value)
            return Problem{path, value.problems().front().sentence};
    }
    design.texts[path] = entry;
    return design;
}

std::string text_for(const Parameter& parameter, double si, int digits) {
    if (parameter.unit.empty()) return number_text(si, digits);
    return number_text(to_unit(si, *find_unit(parameter.unit)), digits) + " " + parameter.unit;
}

std::string canonical_text(const Design& design) {
    std::string text;
    const auto values = resolve(design);
    for (const Parameter& parameter : parameters()) {
        if (!is_used(design, parameter.path)) continue;
        const bool word =
            parameter.kind == ParameterKind::Choice || parameter.kind == ParameterKind::MaterialName;
        text += parameter.path + "=";
        text += values && !word ? fmt::format("{:.12g}", values->number(parameter.path))
                                : design.text(parameter.path);
        text += '\n';
    }
    return text;
}

} // namespace mavlo
