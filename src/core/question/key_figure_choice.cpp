#include "question/key_figure_choice.h"

#include "quantity/quantity.h"

#include <cctype>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace mavlo {

std::vector<std::string> word_list(const std::string& text) {
    std::vector<std::string> words;
    if (trim(text) == "auto") return words;
    std::size_t from = 0;
    while (from <= text.size()) {
        const std::size_t comma = std::min(text.find(',', from), text.size());
        if (const auto word = trim(std::string_view(text).substr(from, comma - from)); !word.empty())
            words.emplace_back(word);
        from = comma + 1;
    }
    return words;
}

QuestionInput word_input(const char* key, const char* label, const char* help) {
    QuestionInput input{key, label, "", "auto", help};
    input.kind = InputKind::Word;
    return input;
}

Result<std::vector<const KeyFigure*>> chosen_key_figures(const std::string& text, const Machine& machine) {
    std::vector<const KeyFigure*> chosen;
    const auto names = word_list(text);
    const Facts facts = machine.facts();
    for (const KeyFigure& figure : registry<KeyFigure>().all())
        if (names.empty() && (!figure.applies || figure.applies(facts))) chosen.push_back(&figure);
    for (const std::string& name : names) {
        const KeyFigure* figure = registry<KeyFigure>().find(name);
        if (!figure)
            return Problem{"--with figures", fmt::format("There is no key figure \"{}\"; there are: {}.", name,
                                                         fmt::join(registry<KeyFigure>().names(), ", "))};
        if (figure->applies && !figure->applies(facts))
            return Problem{"--with figures", fmt::format("{} says nothing of this machine.", name)};
        chosen.push_back(figure);
    }
    return chosen;
}

std::string si_unit(const KeyFigure& figure) {
    if (figure.unit == "N·m") return "N.m";
    if (figure.unit == "V rms") return "V";
    if (figure.unit == "Ω") return "Ohm";
    if (figure.unit == "°C") return "degC";
    if (figure.unit == "%" || figure.unit.empty()) return "1";
    return figure.unit;
}

std::string lower_first(std::string text) {
    // An abbreviation stays as it is.
    if (text.size() > 1 && !std::isupper(static_cast<unsigned char>(text[1])))
        text[0] = char(std::tolower(static_cast<unsigned char>(text[0])));
    return text;
}

} // namespace mavlo
