// Which dimension moves which figure, and by how much.

#include "question/drawing_step.h"
#include "question/figure_names.h"
#include "question/key_figure_choice.h"
#include "question/mesh_effort.h"
#include "question/question.h"
#include "question/sensitivity.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <mutex>
#include <optional>

namespace mavlo::question_what_matters {
namespace {

/// The mesh is paid for every dimension, and two of them are compared: one a step coarser than the quality's.
Quality mesh_quality(Quality quality) {
    return quality == Quality::Fine ? Quality::Normal : Quality::Draft;
}

/// Of the next quality's sizes, for slopes that are left in doubt.
constexpr double a_little_finer = 0.85;

constexpr int fields_a_design = 15;

constexpr const char* group = "Choosing";

/// The question whose figures are asked for; null: the key figures. One of choosing would ask many machines
/// for each.
Result<const QuestionKind*> question_of(const Inputs& inputs, const Machine& machine) {
    const auto words = word_list(inputs.word("of"));
    if (words.empty()) return static_cast<const QuestionKind*>(nullptr);
    const QuestionKind* kind = words.size() == 1 ? find_question(words.front()) : nullptr;
    if (!kind || kind->group == group) {
        std::vector<std::string> names;
        for (const QuestionKind& one : question_kinds())
            if (one.group != group) names.push_back(one.name);
        return Problem{"--with of",
                       fmt::format("There is no question \"{}\" with figures of one machine; there "
                                   "are: {}.",
                                   inputs.word("of"), fmt::join(names, ", "))};
    }
    if (auto problems = unmet_needs(*kind, machine); !problems.empty()) return problems;
    return kind;
}

int solves(const Machine& machine, const Inputs& inputs) {
    const auto wanted = word_list(inputs.word("dimensions"));
    // Without the design itself the dimensions can only be guessed from the drawing's marks.
    const int count = wanted.empty() ? int(machine.marks.size()) + 2 : int(wanted.size());
    int each = fields_a_design;
    if (const auto kind = question_of(inputs, machine); kind && *kind)
        if (const auto standard = question_inputs(**kind, {}, machine.values))
            each = (*kind)->solves(machine, *standard);
    return each * 2 * (1 + 2 * count);
}

/// A figure as it is told.
struct Told {
    std::string name, label, unit; ///< the unit in SI
    std::string shown;             ///< the unit of the sentence
    double factor = 1;             ///< to that
};

Result<std::vector<Told>> told_key_figures(const std::string& text, const Machine& machine) {
    const auto chosen = chosen_key_figures(text, machine);
    if (!chosen) return chosen.problems();
    std::vector<Told> out;
    for (const KeyFigure* figure : *chosen)
        out.push_back(
            {figure->name, lower_first(figure->label), si_unit(*figure), figure->unit, figure->factor});
    return out;
}

/// A question's own figures, at the standard of its inputs.
class FullFigures {
  public:
    static Result<FullFigures> of(const QuestionKind& kind, QuestionContext& c) {
        auto inputs = question_inputs(kind, {}, c.machine.values);
        if (!inputs) return inputs.problems();
        return FullFigures(kind, std::move(*inputs), c);
    }

    Result<Figures> operator()(const Machine& machine, const ModelOptions& mesh) const {
        Answer answer;
        const Watch watch{{}, m_context->watch.stop};
        QuestionContext inner{machine,
                              m_inputs,
                              mesh,
                              m_context->promise,
                              [this] { return m_context->sizing_of(mesh_quality(m_context->mesh.quality)); },
                              m_context->sizing_of,
                              1,
                              watch,
                              nullptr,
                              PointStore(),
                              answer,
                              m_context->ask,
                              m_context->other};
        if (auto problems = m_kind->run(inner); !problems.empty()) return problems;
        Figures out;
        const std::lock_guard lock(m_kept->mutex);
        m_kept->fields += answer.effort.solves;
        for (const Figure& figure : answer.figures)
            if (figure.value) out[figure.name] = *figure.value;
        if (m_kept->figures.empty()) m_kept->figures = answer.figures;
        return out;
    }

    int fields() const { return m_kept->fields; }

    /// Those named, all otherwise; known once figures were taken.
    Result<std::vector<Told>> told(const std::string& text) const {
        const auto wanted = word_list(text);
        std::vector<Told> out;
        std::vector<std::string> names;
        for (const Figure& figure : m_kept->figures) {
            names.push_back(figure.name);
            if (wanted.empty() || std::find(wanted.begin(), wanted.end(), figure.name) != wanted.end())
                out.push_back(
                    {figure.name, lower_first(figure_name(figure.name).label), figure.unit, figure.unit, 1});
        }
        for (const std::string& name : wanted)
            if (std::find(names.begin(), names.end(), name) == names.end())
                return Problem{"--with figures",
                               fmt::format("The question {} has no figure \"{}\"; it has: {}.", m_kind->name,
                                           name, fmt::join(names, ", "))};
        return out;
    }

  private:
    FullFigures(const QuestionKind& kind, Inputs inputs, QuestionContext& context)
        : m_kind(&kind)
        , m_inputs(std::move(inputs))
        , m_context(&context) {}

    struct Kept {
        std::mutex mutex;
        std::vector<Figure> figures; ///< of the first machine, which is the design itself
        int fields = 0;
    };
    const QuestionKind* m_kind;
    Inputs m_inputs;
    QuestionContext* m_context;
    std::shared_ptr<Kept> m_kept = std::make_shared<Kept>();
};

struct Row {
    const DimensionSlopes* of;
    Slope slope;
    double share; ///< of the figure, for a hundredth of the dimension
};

std::vector<Row> rows_of(const Sensitivity& found, const std::string& figure, double base) {
    std::vector<Row> rows;
    for (const DimensionSlopes& d : found.dimensions) {
        const auto slope = d.slopes.find(figure);
        if (slope == d.slopes.end()) continue;
        rows.push_back({&d, slope->second, base == 0 ? 0 : slope->second.value * d.dimension.value / base});
    }
    std::stable_sort(rows.begin(), rows.end(), [](const Row& a, const Row& b) {
        return std::abs(a.slope.value * a.of->dimension.value) >
               std::abs(b.slope.value * b.of->dimension.value);
    });
    return rows;
}

Curve labelled(std::string name, std::string unit, const std::vector<Row>& rows) {
    Curve curve{std::move(name), std::move(unit), "dimension", "1", {}, {}};
    for (std::size_t k = 0; k < rows.size(); ++k) {
        curve.x.push_back(double(k + 1));
        curve.labels.push_back(rows[k].of->dimension.parameter->path);
    }
    return curve;
}

void add_curves(const Told& figure, const std::vector<Row>& rows, Answer& answer) {
    Curve slope = labelled(figure.name, figure.unit + " per m, rad or 1", rows), error = slope,
          share = labelled(figure.name + "_share", "1", rows), doubt = share;
    error.name = figure.name + "_error";
    doubt.name = figure.name + "_share_error";
    for (const Row& row : rows) {
        const bool known = row.slope.value != 0;
        slope.y.push_back(row.slope.value);
        error.y.push_back(row.slope.error);
        share.y.push_back(row.share);
        doubt.y.push_back(known ? std::abs(row.share * row.slope.error / row.slope.value) : 0);
    }
    for (Curve* curve : {&slope, &error, &share, &doubt}) answer.curves.push_back(std::move(*curve));
}

std::string sentence_of(const Told& figure, const std::vector<Row>& rows) {
    if (rows.empty()) return "No dimension changes the figures asked for.";
    const Row& top = rows.front();
    const Parameter& p = *top.of->dimension.parameter;
    const DrawingStep step = drawing_step(p, top.of->dimension.value);
    return fmt::format("Most moves {} with {}: {:+.3g} {} for {} more.", figure.label, lower_first(p.label),
                       top.slope.value * step.si * figure.factor, figure.shown, step.words);
}

Problems run(QuestionContext& c) {
    const auto question = question_of(c.inputs, c.machine);
    if (!question) return question.problems();
    std::optional<FullFigures> full;
    Result<std::vector<Told>> told = std::vector<Told>{}; // of a question's figures known once they were taken
    if (*question) {
        auto figures = FullFigures::of(**question, c);
        if (!figures) return figures.problems();
        full = std::move(*figures);
    } else {
        told = told_key_figures(c.inputs.word("figures"), c.machine);
        if (!told) return told.problems();
    }
    const auto steps = dimension_steps(c.ask.design, c.machine, c.other, c.input("step"),
                                       word_list(c.inputs.word("dimensions")));
    if (!steps) return steps.problems();
    const auto sizes_of = [&](Quality quality, double factor) -> Result<MeshSizes> {
        auto sizing = c.sizing_of(quality);
        if (!sizing) return sizing.problems();
        return MeshSizes{std::move(*sizing), factor * size_factor(quality) * c.mesh.extra_factor};
    };
    const Quality quality = mesh_quality(c.mesh.quality);
    const auto sizes = sizes_of(quality, 1);
    if (!sizes) return sizes.problems();
    const auto finer = [&] {
        return sizes_of(quality == Quality::Draft ? Quality::Normal : Quality::Fine, a_little_finer);
    };
    const auto found = sensitivity_of(c.ask.design, c.other, *steps, *sizes, finer, c.threads, c.watch,
                                      full ? Gauge(*full) : Gauge());
    if (!found) return found.problems();
    if (full) told = full->told(c.inputs.word("figures"));
    if (!told) return told.problems();
    c.answer.effort.solves = full ? full->fields() : found->fields;
    count_mesh(c.answer.effort, *found->model);
    for (const Told& figure : *told) {
        const auto base = found->base.find(figure.name);
        if (base == found->base.end()) continue;
        c.answer.figures.push_back({figure.name, base->second, figure.unit});
        const auto rows = rows_of(*found, figure.name, base->second);
        add_curves(figure, rows, c.answer);
        if (c.answer.sentence.empty()) c.answer.sentence = sentence_of(figure, rows);
    }
    int remeshed = 0;
    std::string failed;
    for (const DimensionSlopes& d : found->dimensions) {
        remeshed += d.remeshed;
        if (!d.problems.empty())
            failed += fmt::format(" {} could not be changed: {}", d.dimension.parameter->path,
                                  d.problems.front().sentence);
    }
    c.answer.figures.push_back({"dimensions", double(found->dimensions.size()), "1"});
    c.answer.figures.push_back({"dimensions_meshed_anew", double(remeshed), "1"});
    c.answer.sentence += failed;
    return {};
}

const RegisterQuestion registered{
    {"what-matters",
     group,
     "What matters",
     "Which dimension moves which figure, by how much, and how far the mesh lets one tell.",
     {word_input("of", "Question",
                 "Whose figures, at the standard of its inputs (such as load); otherwise the "
                 "key figures."),
      word_input("figures", "Figures", "With commas between; all otherwise."),
      word_input("dimensions", "Dimensions", "Paths, with commas between; all otherwise."),
      {"step", "Step", "", "0.01", "Share by which each dimension is changed.", 1e-4, 0.2}},
     solves,
     run,
     900,
     {},
     true,
     true}};

} // namespace
} // namespace mavlo::question_what_matters
