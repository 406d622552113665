#include "quantity/formula.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <muParser.h>
#include <numbers>

namespace mavlo {
namespace {

constexpr std::string_view functions[] = {"sin", "cos", "tan", "asin", "acos", "atan", "sqrt",
                                          "abs", "min", "max", "exp",  "ln",   "rint", "pi"};

bool is_function(std::string_view name) {
    return std::find(std::begin(functions), std::end(functions), name) != std::end(functions);
}

bool name_start(char c) {
    return std::isalpha(static_cast<unsigned char>(c)) || c == '_';
}
bool name_part(char c) {
    return std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '.';
}

/// The expression with every path and every number with a unit replaced by a plain variable name.
struct Parsed {
    std::string expression;
    std::vector<std::string> paths;  // variable p0, p1, …
    std::vector<Quantity> constants; // variable q0, q1, …
    std::string complaint;           // set when the text cannot be split into names and numbers
};

std::string_view body(std::string_view text) {
    text = trim(text);
    if (!text.empty() && text.front() == '=') text.remove_prefix(1);
    return trim(text);
}

std::string_view read_unit(std::string_view rest) {
    std::string_view best;
    for (const Unit& unit : units()) {
        if (!rest.starts_with(unit.name) || unit.name.size() <= best.size()) continue;
        const bool ends = rest.size() == unit.name.size() || !name_part(rest[unit.name.size()]);
        if (ends && unit.name != "%") best = unit.name;
    }
    return best;
}

void take_number(std::string_view text, std::size_t& at, Parsed& parsed) {
    std::string_view rest;
    const auto number = read_number(text.substr(at), rest);
    if (!number) {
        parsed.complaint = fmt::format("\"{}\" is not a number.", text.substr(at, 12));
        at = text.size();
        return;
    }
    const std::string_view name = read_unit(rest);
    const Unit* unit = find_unit(name);
    parsed.expression += fmt::format(" q{} ", parsed.constants.size());
    parsed.constants.push_back(unit ? Quantity{from_unit(*number, *unit), unit->dimension}
                                    : Quantity{*number, {}});
    at = text.size() - rest.size() + name.size();
}

void take_name(std::string_view text, std::size_t& at, Parsed& parsed) {
    std::size_t end = at;
    while (end < text.size() && name_part(text[end])) ++end;
    const std::string name(text.substr(at, end - at));
    at = end;
    if (is_function(name)) {
        parsed.expression += name == "pi" ? "_pi" : name;
        return;
    }
    auto found = std::find(parsed.paths.begin(), parsed.paths.end(), name);
    if (found == parsed.paths.end()) found = parsed.paths.insert(parsed.paths.end(), name);
    parsed.expression += fmt::format(" p{} ", found - parsed.paths.begin());
}

Parsed split(std::string_view text) {
    Parsed parsed;
    for (std::size_t at = 0; at < text.size();) {
        const char c = text[at];
        if (std::isdigit(static_cast<unsigned char>(c)) || c == '.') {
            take_number(text, at, parsed);
        } else if (name_start(c)) {
            take_name(text, at, parsed);
        } else if (std::string_view("+-*/^(), \t").find(c) != std::string_view::npos) {
            parsed.expression += c;
            ++at;
        } else {
            parsed.complaint = fmt::format("The sign \"{}\" has no meaning in a formula.", c);
            return parsed;
        }
    }
    return parsed;
}

using Scales = std::array<double, 6>;

double scale_of(const Dimension& dimension, const Scales& scales) {
    double factor = 1;
    for (std::size_t i = 0; i < 6; ++i) factor *= std::pow(scales[i], dimension.exponent[i]);
    return factor;
}

/// A formula ready to be evaluated again and again: setting muParser up costs far more than evaluating.
class Evaluator {
  public:
    Evaluator(const Parsed& parsed, const std::vector<Quantity>& paths) {
        m_values.resize(paths.size() + parsed.constants.size());
        define('p', paths);
        define('q', parsed.constants);
        m_parser.DefineFun("sin", [](double x) { return std::sin(x / angle_scale); });
        m_parser.DefineFun("cos", [](double x) { return std::cos(x / angle_scale); });
        m_parser.DefineFun("tan", [](double x) { return std::tan(x / angle_scale); });
        m_parser.DefineFun("asin", [](double x) { return std::asin(x) * angle_scale; });
        m_parser.DefineFun("acos", [](double x) { return std::acos(x) * angle_scale; });
        m_parser.DefineFun("atan", [](double x) { return std::atan(x) * angle_scale; });
        m_parser.SetExpr(parsed.expression);
    }

    double operator()(const Scales& scales) {
        for (std::size_t i = 0; i < m_quantities.size(); ++i)
            m_values[i] = m_quantities[i].si * scale_of(m_quantities[i].dimension, scales);
        angle_scale = scales[5];
        return m_parser.Eval();
    }

  private:
    void define(char letter, const std::vector<Quantity>& list) {
        for (std::size_t i = 0; i < list.size(); ++i) {
            m_parser.DefineVar(fmt::format("{}{}", letter, i), &m_values[m_quantities.size()]);
            m_quantities.push_back(list[i]);
        }
    }

    // The angle's own scale is divided out again inside the circular functions, so that they see radians.
    static thread_local double angle_scale;
    mu::Parser m_parser;
    std::vector<Quantity> m_quantities;
    std::vector<double> m_values;
};

thread_local double Evaluator::angle_scale = 1;

bool near(double a, double b) {
    return std::abs(a - b) <= 1e-9 * (std::abs(a) + std::abs(b)) + 1e-300;
}

/// The dimension found by scaling each base unit; nothing when no power law fits.
std::optional<Dimension> find_dimension(Evaluator& evaluate, double value) {
    Dimension found;
    for (std::size_t i = 0; i < 6; ++i) {
        Scales twice{1, 1, 1, 1, 1, 1}, thrice = twice;
        twice[i] = 2;
        thrice[i] = 3;
        const double power = std::log2(evaluate(twice) / value);
        const double whole = std::rint(power);
        if (!std::isfinite(power) || std::abs(power - whole) > 1e-9 || std::abs(whole) > 20)
            return std::nullopt;
        if (!near(evaluate(thrice), value * std::pow(3, whole))) return std::nullopt;
        found.exponent[i] = static_cast<std::int8_t>(whole);
    }
    return found;
}

} // namespace

bool is_formula(std::string_view text) {
    text = trim(text);
    return !text.empty() && text.front() == '=';
}

std::vector<std::string> formula_paths(std::string_view text) {
    return split(body(text)).paths;
}

Result<Quantity> evaluate_formula(std::string_view text, const Dimension& wanted, const PathLookup& lookup) {
    const Parsed parsed = split(body(text));
    if (!parsed.complaint.empty()) return Problem{{}, parsed.complaint};
    if (trim(parsed.expression).empty())
        return Problem{{}, "The formula is empty; write e.g. \"= gap + 0.5 mm\"."};
    std::vector<Quantity> paths;
    for (const std::string& path : parsed.paths) {
        auto value = lookup(path);
        if (!value) return value.problems();
        paths.push_back(*value);
    }
    try {
        Evaluator evaluate(parsed, paths);
        const double value = evaluate({1, 1, 1, 1, 1, 1});
        if (!std::isfinite(value))
            return Problem{
                {}, "The formula has no finite value (a division by zero or a root of a negative number)."};
        if (value == 0) return Quantity{0, wanted}; // zero has every dimension
        const auto found = find_dimension(evaluate, value);
        if (!found)
            return Problem{
                {},
                "The formula adds or compares quantities of different kinds; give bare numbers their unit."};
        if (*found != wanted)
            return Problem{
                {},
                fmt::format("The formula gives {} where {} is wanted.", describe(*found), describe(wanted))};
        return Quantity{value, wanted};
    } catch (const mu::Parser::exception_type& error) {
        return Problem{{},
                       fmt::format("The formula cannot be read near position {}: check its brackets and signs.",
                                   error.GetPos() + 1)};
    }
}

} // namespace mavlo
