// Which dimension moves which figure, and by how much.

#include "question/drawing_step.h"
#include "question/key_figure_choice.h"
#include "question/mesh_effort.h"
#include "question/question.h"
#include "question/sensitivity.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

/// The mesh is paid for every dimension, and two of them are compared: one a step coarser than the quality's.
Quality mesh_quality(Quality quality) {
    return quality == Quality::Fine ? Quality::Normal : Quality::Draft;
}

constexpr int fields_a_design = 15;

int solves(const Machine& machine, const Inputs& inputs) {
    const auto wanted = word_list(inputs.word("dimensions"));
    // Without the design itself the dimensions can only be guessed from the drawing's marks.
    const int count = wanted.empty() ? int(machine.marks.size()) + 2 : int(wanted.size());
    return fields_a_design * 2 * (1 + 2 * count);
}

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

void add_curves(const KeyFigure& figure, const std::vector<Row>& rows, Answer& answer) {
    const std::string unit = si_unit(figure);
    Curve slope = labelled(figure.name, unit + " per m, rad or 1", rows), error = slope,
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

std::string sentence_of(const KeyFigure& figure, const std::vector<Row>& rows) {
    if (rows.empty()) return "No dimension changes the figures asked for.";
    const Row& top = rows.front();
    const Parameter& p = *top.of->dimension.parameter;
    const DrawingStep step = drawing_step(p, top.of->dimension.value);
    return fmt::format("Most moves {} with {}: {:+.3g} {} for {} more.", lower_first(figure.label), p.path,
                       top.slope.value * step.si * figure.factor, figure.unit, step.words);
}

Problems run(QuestionContext& c) {
    const auto chosen = chosen_key_figures(c.inputs.word("figures"), c.machine);
    if (!chosen) return chosen.problems();
    const auto steps = dimension_steps(c.ask.design, c.machine, c.other, c.input("step"),
                                       word_list(c.inputs.word("dimensions")));
    if (!steps) return steps.problems();
    const Quality quality = mesh_quality(c.mesh.quality);
    const auto sizing = c.sizing_of(quality);
    if (!sizing) return sizing.problems();
    const auto found = sensitivity_of(c.ask.design, c.other, *steps, *sizing,
                                      size_factor(quality) * c.mesh.extra_factor, c.threads, c.watch);
    if (!found) return found.problems();
    c.answer.effort.solves = found->fields;
    count_mesh(c.answer.effort, *found->model);
    for (const KeyFigure* figure : *chosen) {
        const auto base = found->base.find(figure->name);
        if (base == found->base.end()) continue;
        c.answer.figures.push_back({figure->name, base->second, si_unit(*figure)});
        const auto rows = rows_of(*found, figure->name, base->second);
        add_curves(*figure, rows, c.answer);
        if (c.answer.sentence.empty()) c.answer.sentence = sentence_of(*figure, rows);
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
     "Choosing",
     "What matters",
     "Which dimension moves which figure, by how much, and how far the mesh lets one tell.",
     {word_input("figures", "Figures", "Key figures, with commas between; all otherwise."),
      word_input("dimensions", "Dimensions", "Paths, with commas between; all otherwise."),
      {"step", "Step", "", "0.01", "Share by which each dimension is changed.", 1e-4, 0.2}},
     solves,
     run,
     900,
     {}}};

} // namespace
} // namespace mavlo
