#include "study/expression.h"

#include "quantity/formula.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

const Figure* find_figure(const Answer& answer, const std::string& name) {
    for (const Figure& figure : answer.figures)
        if (figure.name == name || answer.question + "." + figure.name == name) return &figure;
    return nullptr;
}

} // namespace

Result<std::optional<double>> evaluate_expression(const std::string& text,
                                                  const std::vector<std::optional<Answer>>& answers,
                                                  const Values& values) {
    bool missing = false;
    const auto lookup = [&](const std::string& name) -> Result<Quantity> {
        for (const auto& answer : answers)
            if (const Figure* figure = answer ? find_figure(*answer, name) : nullptr) {
                missing = missing || !figure->value;
                return Quantity{figure->value.value_or(1)};
            }
        if (values.has(name)) return Quantity{values.number(name)};
        return Problem{name, fmt::format("There is no figure or parameter {}.", name)};
    };
    const auto value = evaluate_formula("= " + text, {}, lookup);
    if (missing) return std::optional<double>();
    if (!value) return Problem{text, value.problems().front().sentence};
    if (!std::isfinite(value->si)) return std::optional<double>();
    return std::optional(value->si);
}

} // namespace mavlo
