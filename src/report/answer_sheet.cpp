#include "report/answer_sheet.h"

#include "question/axial_cut.h"
#include "question/input_words.h"
#include "question/question.h"
#include "question/reading_units.h"
#include "report/axial_cut_svg.h"
#include "report/plot_svg.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double noise = 1e-9;        ///< of the largest figure of its unit
constexpr std::size_t most_plots = 8; ///< beside the large one

/// "Asked with …. " — nothing where all stands as the question has it.
std::string inputs_of(const Answer& answer) {
    std::string out;
    for (const std::string& words : inputs_in_words(answer))
        out += (out.empty() ? "Asked with " : ", ") + words;
    return out.empty() ? out : out + ". ";
}

std::string effort_of(const Answer& answer) {
    const Effort& e = answer.effort;
    std::string out = fmt::format("{} quality", answer.quality);
    if (e.accuracy_aimed > 0)
        out += fmt::format(", mesh to {:.2g} % of the peak, estimated {:.2g} %", 100 * e.accuracy_aimed,
                           100 * e.accuracy_estimated);
    if (e.solves > 0)
        out += fmt::format("; {} fields of {} unknowns in {:.1f} s", e.solves, e.unknowns, e.seconds);
    if (!answer.has_errors()) out += "; errors of the figures not estimated";
    return out + ".";
}

/// The first picture large, others small until a page is full.
void add_plots(AnswerSheet& sheet, const Answer& answer) {
    const Answer shown = in_reading_units(answer);
    const auto add = [&](const std::string& title, const std::string& large, const auto& small) {
        if (large.empty()) return;
        if (sheet.picture.empty()) {
            sheet.caption = title;
            sheet.picture = large;
        } else if (sheet.more.size() < most_plots) {
            sheet.more.emplace_back(title, small());
        }
    };
    if (const auto cut = axial_cut(answer)) {
        const std::string svg = axial_cut_svg(*cut);
        add("Cut along the axis", svg, [&] { return svg; });
    }
    for (const Map& map : answer.maps)
        add(figure_words(map.name), map_svg(map, whole_page), [&] { return map_svg(map); });
    for (const CurveGroup& group : curve_groups(shown))
        add(group.title, plot_svg(shown, group, whole_page), [&] { return plot_svg(shown, group); });
}

} // namespace

Figure without_noise(Figure figure, const Answer& answer) {
    if (!figure.value) return figure;
    double largest = 0;
    for (const Figure& other : answer.figures)
        if (other.value && other.unit == figure.unit) largest = std::max(largest, std::abs(*other.value));
    if (std::abs(*figure.value) < noise * largest) figure.value = 0;
    return figure;
}

AnswerSheet answer_sheet(const Answer& answer) {
    const QuestionKind* kind = find_question(answer.question);
    AnswerSheet sheet;
    sheet.title = kind ? kind->title : answer.question;
    sheet.sentence = answer.sentence;
    sheet.note = inputs_of(answer) + effort_of(answer);
    for (const std::string& name : headline_figures(answer))
        for (const Figure& figure : answer.figures)
            if (figure.name == name) sheet.large.push_back(without_noise(figure, answer));
    for (FigureGroup group : figure_groups(answer)) {
        std::erase_if(group.figures, [](const Figure& figure) { return !figure.value; });
        for (Figure& figure : group.figures) figure = without_noise(figure, answer);
        if (!group.figures.empty()) sheet.rest.push_back(std::move(group));
    }
    add_plots(sheet, answer);
    return sheet;
}

} // namespace mavlo
