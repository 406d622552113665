// How the key figures of many machines made to tolerances are spread, and what spreads them most.

#include "quantity/quantity.h"
#include "question/key_figure_choice.h"
#include "question/mesh_effort.h"
#include "question/question.h"
#include "question/spread.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_tolerances {
namespace {

int solves(const Machine&, const Inputs& inputs) {
    return 15 * (1 + int(inputs.at("machines")));
}

/// The value below which a share of them lies, by straight lines between the sorted ones.
double quantile(const std::vector<double>& sorted, double share) {
    const double place = share * double(sorted.size() - 1);
    const auto below = std::size_t(place);
    const std::size_t above = std::min(below + 1, sorted.size() - 1);
    return sorted[below] + (place - double(below)) * (sorted[above] - sorted[below]);
}

struct Column {
    const KeyFigure* figure;
    double nominal;
    std::vector<double> values;
};

void add_figures(const Column& column, Answer& answer) {
    std::vector<double> sorted = column.values;
    std::sort(sorted.begin(), sorted.end());
    const auto n = double(sorted.size());
    double mean = 0, square = 0;
    for (double v : sorted) mean += v / n;
    for (double v : sorted) square += (v - mean) * (v - mean) / (n - 1);
    const std::string &name = column.figure->name, unit = si_unit(*column.figure);
    answer.figures.push_back({name, column.nominal, unit});
    answer.figures.push_back({name + "_mean", mean, unit});
    answer.figures.push_back({name + "_deviation", std::sqrt(square), unit});
    answer.figures.push_back({name + "_low", quantile(sorted, 0.05), unit});
    answer.figures.push_back({name + "_high", quantile(sorted, 0.95), unit});
    Curve shares{name + "_distribution", "1", name, unit, sorted, {}};
    for (std::size_t k = 0; k < sorted.size(); ++k) shares.y.push_back((double(k) + 0.5) / n);
    answer.curves.push_back(std::move(shares));
}

void add_causes(const Column& column, const std::vector<Spread>& spreads,
                const std::vector<std::vector<double>>& draws, Answer& answer) {
    const auto causes = causes_of(draws, column.values);
    std::vector<std::size_t> order(spreads.size());
    for (std::size_t k = 0; k < order.size(); ++k) order[k] = k;
    std::stable_sort(order.begin(), order.end(), [&](auto a, auto b) { return causes[a] > causes[b]; });
    Curve curve{column.figure->name + "_causes", "1", "dimension", "1", {}, {}};
    for (std::size_t k = 0; k < order.size(); ++k) {
        curve.x.push_back(double(k + 1));
        curve.y.push_back(causes[order[k]]);
        curve.labels.push_back(spreads[order[k]].name);
    }
    answer.curves.push_back(std::move(curve));
}

Problems run(QuestionContext& c) {
    const auto chosen = chosen_key_figures(c.inputs.word("figures"), c.machine);
    if (!chosen) return chosen.problems();
    const auto spreads = read_spreads(c.inputs.word("spread"), c.ask.design, c.machine, c.other);
    if (!spreads) return spreads.problems();
    const auto limits = read_limits(c.inputs.word("limits"), c.machine);
    if (!limits) return limits.problems();
    ModelOptions mesh = quick_mesh();
    mesh.extra_factor *= c.mesh.extra_factor;
    const auto made = make_machines(c.ask.design, c.other, *spreads, int(c.input("machines")),
                                    unsigned(c.input("seed")), mesh, c.threads, c.watch);
    if (!made) return made.problems();
    c.answer.effort.solves = made->fields;
    count_mesh(c.answer.effort, *made->model);
    for (const KeyFigure* figure : *chosen) {
        const auto nominal = made->nominal.find(figure->name);
        if (nominal == made->nominal.end()) continue;
        Column column{figure, nominal->second, {}};
        std::vector<std::vector<double>> draws;
        for (const MadeMachine& m : made->machines)
            if (const auto value = m.figures.find(figure->name); value != m.figures.end()) {
                column.values.push_back(value->second);
                draws.push_back(m.draws);
            }
        if (column.values.size() < 2) continue;
        add_figures(column, c.answer);
        add_causes(column, *spreads, draws, c.answer);
    }
    const auto kept = [&](const MadeMachine& m) {
        return std::all_of(limits->begin(), limits->end(), [&](const FigureLimit& limit) {
            const auto value = m.figures.find(limit.figure->name);
            return value != m.figures.end() && limit.keeps(value->second);
        });
    };
    const auto within = std::count_if(made->machines.begin(), made->machines.end(), kept);
    const double share = double(within) / double(made->machines.size());
    const auto failed = std::count_if(made->machines.begin(), made->machines.end(),
                                      [](const MadeMachine& m) { return m.figures.empty(); });
    c.answer.figures.push_back(
        {"share_within_limits", limits->empty() ? std::nullopt : std::optional(share), "1"});
    c.answer.figures.push_back({"machines", double(made->machines.size()), "1"});
    c.answer.figures.push_back({"machines_not_buildable", double(failed), "1"});
    c.answer.sentence =
        limits->empty()
            ? fmt::format("{} machines, {} dimensions and properties within their tolerances.",
                          made->machines.size(), spreads->size())
            : fmt::format("{:.1f} % of {} machines keep the limits.", 100 * share, made->machines.size());
    return {};
}

const RegisterQuestion registered{
    {"tolerances",
     "Choosing",
     "Tolerances",
     "How figures are spread over machines made to tolerances, how many keep limits, and what spreads them.",
     {word_input("spread", "Tolerances",
                 "PATH=HALF-WIDTH with commas between, and remanence=2 %; auto: lengths by ISO 2768-1 fine, "
                 "angles 0.1 deg, remanence 2 %."),
      word_input("limits", "Limits", "FIGURE<=NUMBER or >= with commas between; auto: none."),
      word_input("figures", "Figures", "Key figures, with commas between; all otherwise."),
      {"machines", "Machines", "", "100", "How many are drawn by lot.", 10, 10000, true},
      {"seed", "Seed", "", "1", "Another one draws others.", 0, 1e9, true}},
     solves,
     run,
     910,
     {},
     true,
     true}};

} // namespace
} // namespace mavlo::question_tolerances
