#include "machine/data_sheet.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>
#include <sstream>

namespace mavlo {
namespace {

constexpr double tolerance = 2e-3; ///< of a value given twice

const std::pair<const char*, const char*> synonyms[] = {
    {"number of slots", "stator.slots"},
    {"slot number", "stator.slots"},
    {"number of poles", "rotor.poles"},
    {"poles", "rotor.poles"},
    {"pole number", "rotor.poles"},
    {"air gap length", "gap"},
    {"airgap", "gap"},
    {"gap length", "gap"},
    {"stack length", "machine.stack_length"},
    {"core length", "machine.stack_length"},
    {"lamination length", "machine.stack_length"},
    {"axial length", "machine.stack_length"},
    {"stator od", "stator.outer_diameter"},
    {"stator outer diameter", "stator.outer_diameter"},
    {"stator outside diameter", "stator.outer_diameter"},
    {"stator id", "stator.bore_diameter"},
    {"stator inner diameter", "stator.bore_diameter"},
    {"stator inside diameter", "stator.bore_diameter"},
    {"bore", "stator.bore_diameter"},
    {"shaft diameter", "rotor.shaft_diameter"},
    {"rotor inner diameter", "rotor.shaft_diameter"},
    {"rotor outer yoke diameter", "rotor.outer_diameter"},
    {"slot depth", "stator.slot.depth"},
    {"total slot depth", "stator.slot.depth"},
    {"slot height", "stator.slot.depth"},
    {"tooth width", "stator.slot.tooth_width"},
    {"slot width", "stator.slot.width"},
    {"slot opening", "stator.slot.opening"},
    {"slot opening width", "stator.slot.opening"},
    {"tooth tip height", "stator.slot.tip_depth"},
    {"tooth tip thickness", "stator.slot.tip_depth"},
    {"tip height", "stator.slot.tip_depth"},
    {"magnet thickness", "rotor.magnet.thickness"},
    {"magnet height", "rotor.magnet.thickness"},
    {"magnet width", "rotor.magnet.width"},
    {"turns per coil", "winding.turns"},
    {"turns", "winding.turns"},
    {"parallel paths", "winding.paths"},
    {"coil pitch", "winding.span"},
    {"coil span", "winding.span"},
    {"rated speed", "rating.speed"},
    {"speed", "rating.speed"},
    {"peak current", "rating.current"},
    {"rated current peak", "rating.current"},
    {"dc bus voltage", "rating.dc_voltage"},
    {"dc voltage", "rating.dc_voltage"},
    {"dc link voltage", "rating.dc_voltage"},
    {"steel", "stator.steel"},
    {"stator lamination", "stator.steel"},
    {"magnet material", "rotor.magnet.grade"},
    {"magnet grade", "rotor.magnet.grade"},
};

/// What every machine's sheet should say.
constexpr const char* main_dimensions[] = {"stator.outer_diameter",
                                           "stator.bore_diameter",
                                           "gap",
                                           "machine.stack_length",
                                           "stator.slots",
                                           "rotor.poles",
                                           "stator.slot.depth",
                                           "stator.slot.tooth_width",
                                           "stator.slot.width",
                                           "stator.slot.opening",
                                           "rotor.shaft_diameter",
                                           "rotor.outer_diameter",
                                           "rotor.magnet.thickness",
                                           "rotor.magnet.arc",
                                           "rotor.magnet.width",
                                           "rotor.magnet.grade",
                                           "winding.turns",
                                           "stator.steel"};

/// Words in lower case, without signs.
std::string plain(const std::string& text) {
    std::string out;
    for (char c : text) {
        const auto u = static_cast<unsigned char>(c);
        if (std::isalnum(u) || u >= 0x80)
            out += char(std::tolower(u));
        else if (!out.empty() && out.back() != ' ')
            out += ' ';
    }
    return std::string(trim(out));
}

/// What a label means: a parameter or an equivalent.
struct Meaning {
    const Parameter* parameter = nullptr;
    const Equivalent* equivalent = nullptr;
    explicit operator bool() const { return parameter || equivalent; }
};

class Reader {
  public:
    explicit Reader(const Design& design) {
        m_sheet.design = design;
        if (const auto values = resolve(design)) m_equivalents = equivalents_of(*values);
    }

    DataSheet run(const std::vector<SheetLine>& lines) {
        for (const SheetLine& line : lines) m_sheet.readings.push_back({line, {}, {}, {}});
        // What chooses kinds comes first, plain dimensions next, equivalents last: they need the others.
        for (SheetReading& r : m_sheet.readings) note_meaning(r);
        for (int pass = 0; pass < 3; ++pass)
            for (std::size_t i = 0; i < m_sheet.readings.size(); ++i)
                if (m_meanings[i] && pass_of(m_meanings[i]) == pass) take(m_sheet.readings[i], m_meanings[i]);
        compare();
        for (const char* path : main_dimensions)
            if (is_used(m_sheet.design, path) && !m_given.contains(path))
                m_sheet.missing.push_back(find_parameter(path, m_sheet.design)->label);
        return std::move(m_sheet);
    }

  private:
    static int pass_of(const Meaning& m) {
        return m.equivalent ? 2 : m.parameter->kind == ParameterKind::Choice ? 0 : 1;
    }

    void note_meaning(SheetReading& reading) {
        const Meaning meaning = meaning_of(plain(reading.line.label), reading.line.label);
        m_meanings.push_back(meaning);
        if (meaning.parameter) {
            reading.path = meaning.parameter->path;
            reading.label = meaning.parameter->label;
        } else if (meaning.equivalent) {
            reading.path = meaning.equivalent->path;
            reading.label = meaning.equivalent->label;
        } else {
            reading.words = "Not understood; give it the name of a dimension.";
        }
    }

    Meaning meaning_of(const std::string& words, const std::string& given) const {
        if (const Parameter* p = find_parameter(std::string(trim(given)), m_sheet.design)) return {p, nullptr};
        const auto used = [&](const char* path) -> const Parameter* {
            return is_used(m_sheet.design, path) ? find_parameter(path, m_sheet.design) : nullptr;
        };
        for (const auto& [name, path] : synonyms)
            if (words == name)
                if (const Parameter* p = used(path)) return {p, nullptr};
        for (const Equivalent* e : m_equivalents)
            if (words == plain(e->label) || std::find(e->also.begin(), e->also.end(), words) != e->also.end())
                return {nullptr, e};
        for (const Parameter* p : used_parameters(m_sheet.design))
            if (words == plain(p->label) || words == plain(p->page + " " + p->label)) return {p, nullptr};
        return {};
    }

    void take(SheetReading& reading, const Meaning& meaning) {
        if (meaning.equivalent && m_given.contains(meaning.equivalent->path)) {
            m_compared.emplace_back(&reading, meaning.equivalent); // given by itself too
            return;
        }
        auto design = meaning.parameter
                          ? with_text(m_sheet.design, meaning.parameter->path, reading.line.value, true)
                          : with_equivalent(m_sheet.design, *meaning.equivalent, reading.line.value);
        if (design && meaning.parameter) design = resolved(*design, meaning.parameter->path);
        if (!design) {
            reading.words = design.problems().front().sentence;
            return;
        }
        if (meaning.parameter && m_given.contains(reading.path) &&
            m_sheet.design.text(reading.path) != design->text(reading.path))
            m_sheet.contradictions.push_back(fmt::format("“{}” is given twice: {} and {}.", reading.label,
                                                         m_sheet.design.text(reading.path),
                                                         design->text(reading.path)));
        m_sheet.design = std::move(*design);
        m_given.insert(reading.path);
    }

    /// Fails with this path's own problem; others may still be mended by later lines.
    static Result<Design> resolved(const Design& design, const std::string& path) {
        const auto values = resolve(design);
        if (!values)
            for (const Problem& p : values.problems())
                if (p.path == path) return p;
        return design;
    }

    void compare() {
        const auto values = resolve(m_sheet.design);
        if (!values) return;
        for (const auto& [reading, equivalent] : m_compared) {
            const double own = value_of(*equivalent, *values).value_or(NAN);
            const auto given = quantity_of(*equivalent, reading->line.value);
            if (!given || std::isnan(own)) continue;
            if (std::abs(given->si - own) <= tolerance * std::abs(own)) {
                reading->words = "Agrees with what was given already.";
                continue;
            }
            const auto shown = [&](double si) {
                return equivalent->unit.empty()
                           ? number_text(si, 5)
                           : number_text(to_unit(si, *find_unit(equivalent->unit)), 5) + " " + equivalent->unit;
            };
            const Parameter* parameter = find_parameter(equivalent->path, m_sheet.design);
            reading->words = fmt::format("Contradicts “{}”.", parameter->label);
            m_sheet.contradictions.push_back(fmt::format("“{}” is given as {}, and with “{}” = {} it is {}.",
                                                         equivalent->label, shown(given->si), parameter->label,
                                                         m_sheet.design.text(equivalent->path), shown(own)));
        }
    }

    DataSheet m_sheet;
    std::vector<Meaning> m_meanings;
    std::vector<const Equivalent*> m_equivalents; ///< of the design that it starts from
    std::set<std::string> m_given;                ///< paths, by themselves or by an equivalent
    std::vector<std::pair<SheetReading*, const Equivalent*>> m_compared;
};

} // namespace

std::vector<SheetLine> sheet_lines(const std::string& text) {
    std::vector<SheetLine> lines;
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);) {
        if (trim(line).empty()) continue;
        std::size_t cut = line.find_first_of("\t;");
        if (cut == std::string::npos) cut = line.find(": ");
        std::size_t value = cut == std::string::npos ? cut : line.find_first_not_of("\t; :", cut);
        if (cut == std::string::npos) { // before the last number that stands by itself
            for (std::size_t i = line.size(); i-- > 1;)
                if ((std::isdigit(static_cast<unsigned char>(line[i])) || line[i] == '-' || line[i] == '.') &&
                    (line[i - 1] == ' ' || line[i - 1] == '=')) {
                    cut = value = i;
                    break;
                }
        }
        if (cut == std::string::npos || value == std::string::npos) {
            lines.push_back({std::string(trim(line)), {}});
            continue;
        }
        std::string rest(trim(std::string_view(line).substr(value)));
        std::replace(rest.begin(), rest.end(), '\t', ' '); // a unit in a column of its own
        // A decimal comma.
        if (const auto comma = rest.find(','); comma != std::string::npos &&
                                               rest.find('.') == std::string::npos && comma > 0 &&
                                               std::isdigit(static_cast<unsigned char>(rest[comma - 1])))
            rest[comma] = '.';
        std::string label(trim(std::string_view(line).substr(0, cut)));
        while (!label.empty() && (label.back() == '=' || label.back() == ':' || label.back() == ' '))
            label.pop_back();
        lines.push_back({label, rest});
    }
    return lines;
}

DataSheet read_data_sheet(const Design& design, const std::vector<SheetLine>& lines) {
    return Reader(design).run(lines);
}

} // namespace mavlo
