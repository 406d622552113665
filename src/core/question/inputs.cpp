#include "question/inputs.h"

#include "quantity/formula.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <limits>
#include <optional>

namespace mavlo {
namespace {

constexpr std::size_t most_values = 2000; ///< in one list

Problem input_problem(const QuestionInput& input, std::string sentence) {
    return {"--with " + input.key, std::move(sentence)};
}

Problems out_of_limits(const QuestionInput& input, double si, const std::string& text) {
    const Unit* unit = input.unit.empty() ? nullptr : find_unit(input.unit);
    const double number = unit ? to_unit(si, *unit) : si;
    if (number < input.low - 1e-9 * std::abs(input.low) || number > input.high + 1e-9 * std::abs(input.high))
        return {input_problem(input, fmt::format("{} lies outside {} to {}.", text, number_text(input.low),
                                                 with_unit(number_text(input.high), input.unit)))};
    if (input.whole && number != std::rint(number))
        return {input_problem(input, fmt::format("A whole number is wanted, not {}.", text))};
    return {};
}

Result<double> read_number_input(const QuestionInput& input, const std::string& text, const Values& values) {
    constexpr double open = std::numeric_limits<double>::quiet_NaN(); // left to the question
    if (is_formula(text)) {
        const auto path = trim(std::string_view(text).substr(1));
        return values.has(path) && !values.is_auto(path) ? values.number(path) : open;
    }
    if (trim(text) == "auto" && (input.auto_allowed || is_formula(input.standard))) return open;
    auto quantity = parse_quantity(text);
    if (!quantity) return input_problem(input, quantity.problems().front().sentence);
    const Unit* unit = input.unit.empty() ? nullptr : find_unit(input.unit);
    const Dimension wanted = unit ? unit->dimension : dimension::none;
    const bool percent = unit && trim(text).ends_with('%');
    if (percent && (input.percent_of.empty() || !values.has(input.percent_of)))
        return input_problem(input, fmt::format("\"{}\" is a share of nothing here; a value in {} is wanted.",
                                                text, input.unit));
    if (percent)
        quantity->si *= values.number(input.percent_of);
    else if (quantity->dimension.plain() && unit)
        quantity->si = from_unit(quantity->si, *unit); // a bare number has the input's own unit
    else if (quantity->dimension != wanted)
        return input_problem(input, fmt::format("\"{}\" is {}; {} is wanted here.", text,
                                                describe(quantity->dimension), describe(wanted)));
    if (auto problems = out_of_limits(input, quantity->si, text); !problems.empty()) return problems;
    return quantity->si;
}

/// Numbers of "from:to:step" or "a, b, c"; empty when the text is neither.
std::vector<double> list_numbers(std::string_view text, std::string_view& rest) {
    std::vector<double> numbers;
    char sign = 0;
    while (true) {
        const auto number = read_number(trim(text), rest);
        if (!number) return {};
        numbers.push_back(*number);
        rest = trim(rest);
        if (rest.empty() || (rest.front() != ':' && rest.front() != ',')) break;
        if (sign && rest.front() != sign) return {};
        sign = rest.front();
        text = rest.substr(1);
    }
    if (sign != ':') return numbers;
    if (numbers.size() != 3 || !(numbers[2] > 0) || numbers[1] < numbers[0]) return {};
    const double count = std::floor((numbers[1] - numbers[0]) / numbers[2] + 1e-9) + 1;
    if (count > double(most_values)) return {};
    std::vector<double> steps;
    for (int i = 0; i < int(count); ++i) steps.push_back(numbers[0] + i * numbers[2]);
    return steps;
}

Result<std::vector<double>> read_list(const QuestionInput& input, const std::string& text,
                                      const Values& values) {
    if (input.auto_allowed && trim(text) == "auto") return std::vector<double>{};
    std::string_view rest;
    std::vector<double> list = list_numbers(text, rest);
    if (list.empty() || list.size() > most_values ||
        (!input.any_order && !std::is_sorted(list.begin(), list.end())))
        return input_problem(input,
                             fmt::format("\"{}\" is no rising list; write it as from:to:step or a, b, c, with "
                                         "the unit behind it (at most {} values).",
                                         text, most_values));
    const Unit* own = input.unit.empty() ? nullptr : find_unit(input.unit);
    const bool percent = rest == "%" && !input.percent_of.empty();
    const Unit* unit = rest.empty() || percent ? own : find_unit(rest);
    if (!rest.empty() && !percent && (!unit || !own || unit->dimension != own->dimension))
        return input_problem(input,
                             fmt::format("\"{}\" is no unit for this list; {} is wanted{}.", rest, input.unit,
                                         input.percent_of.empty() ? "" : ", or % of " + input.percent_of));
    for (double& value : list) {
        value = percent ? value / 100 * values.number(input.percent_of)
                : unit  ? from_unit(value, *unit)
                        : value;
        if (auto problems = out_of_limits(input, value, text); !problems.empty()) return problems;
    }
    return list;
}

std::string input_unit(const QuestionInput& input) {
    return input.unit.empty() ? "" : " " + input.unit;
}

double in_unit(const QuestionInput& input, double si) {
    return input.unit.empty() ? si : to_unit(si, *find_unit(input.unit));
}

Problems read_one(const QuestionInput& input, const std::string& text, const Values& values, Inputs& inputs) {
    switch (input.kind) {
    case InputKind::Number: {
        const auto value = read_number_input(input, text, values);
        if (!value) return value.problems();
        inputs.set(input.key, *value);
        return {};
    }
    case InputKind::List: {
        const auto list = read_list(input, text, values);
        if (!list) return list.problems();
        inputs.set(input.key, *list);
        return {};
    }
    case InputKind::Word:
        inputs.set(input.key, std::string(trim(text)));
        return {};
    case InputKind::Choice: {
        const std::string word(trim(text));
        const auto choices = input.choices();
        if (std::find(choices.begin(), choices.end(), word) == choices.end())
            return {
                input_problem(input, fmt::format("\"{}\" is not one of: {}.", word, fmt::join(choices, ", ")))};
        inputs.set(input.key, word);
        return {};
    }
    }
    return {};
}

/// The step of a list that rises evenly; empty for others.
std::optional<double> even_step(const std::vector<double>& list) {
    if (list.size() < 3) return std::nullopt;
    const double step = (list.back() - list.front()) / double(list.size() - 1);
    for (std::size_t k = 0; k < list.size(); ++k)
        if (std::abs(list[k] - list.front() - double(k) * step) > 1e-9 * std::abs(list.back() - list.front()))
            return std::nullopt;
    return step > 0 ? std::optional(step) : std::nullopt;
}

} // namespace

QuestionInput list_input(const char* key, const char* label, const char* unit, const char* standard,
                         const char* help, double low, double high) {
    QuestionInput input{key, label, unit, standard, help, low, high};
    input.kind = InputKind::List;
    return input;
}

QuestionInput auto_list_input(const char* key, const char* label, const char* unit, const char* help,
                              double low, double high) {
    QuestionInput input = list_input(key, label, unit, "auto", help, low, high);
    input.auto_allowed = true;
    return input;
}

std::string Inputs::canonical_text() const {
    std::string text;
    for (const auto& [key, value] : m_numbers) text += fmt::format("{}={:.9g}\n", key, value);
    for (const auto& [key, list] : m_lists) text += fmt::format("{}={:.9g}\n", key, fmt::join(list, ","));
    for (const auto& [key, word] : m_words) text += fmt::format("{}={}\n", key, word);
    return text;
}

Result<Inputs> read_inputs(const std::string& question, const std::vector<QuestionInput>& wanted,
                           const std::map<std::string, std::string>& with, const Values& values) {
    Inputs inputs;
    Problems problems;
    for (const QuestionInput& input : wanted) {
        const auto own = with.find(input.key);
        const auto wrong = read_one(input, own == with.end() ? input.standard : own->second, values, inputs);
        problems.insert(problems.end(), wrong.begin(), wrong.end());
    }
    std::vector<std::string> names;
    for (const auto& i : wanted) names.push_back(i.key);
    for (const auto& [key, text] : with)
        if (std::find(names.begin(), names.end(), key) == names.end())
            problems.push_back(
                {"--with " + key, names.empty() ? fmt::format("The question {} has no inputs.", question)
                                                : fmt::format("The question {} has no such input; it has: {}.",
                                                              question, fmt::join(names, ", "))});
    if (!problems.empty()) return problems;
    return inputs;
}

std::string shown_input(const QuestionInput& input, const Inputs& inputs) {
    if (input.kind == InputKind::Choice || input.kind == InputKind::Word) return inputs.word(input.key);
    if (input.kind == InputKind::Number)
        return std::isnan(inputs.at(input.key))
                   ? "auto"
                   : number_text(in_unit(input, inputs.at(input.key)), 9) + input_unit(input);
    const auto& list = inputs.list(input.key);
    if (list.empty()) return "auto";
    if (const auto step = even_step(list))
        return fmt::format("{}:{}:{}{}", number_text(in_unit(input, list.front()), 12),
                           number_text(in_unit(input, list.back()), 12),
                           number_text(in_unit(input, list[0] + *step) - in_unit(input, list[0]), 12),
                           input_unit(input));
    std::vector<std::string> numbers;
    for (double si : list) numbers.push_back(number_text(in_unit(input, si), 12));
    return fmt::format("{}{}", fmt::join(numbers, ", "), input_unit(input));
}

} // namespace mavlo
