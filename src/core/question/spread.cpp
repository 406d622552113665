#include "question/spread.h"

#include "quantity/dense.h"
#include "quantity/latin_hypercube.h"
#include "quantity/quantity.h"
#include "question/key_figure_choice.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <mutex>
#include <numbers>

namespace mavlo {
namespace {

constexpr const char* remanence = "remanence";
constexpr double usual_remanence = 0.02, usual_angle = 0.1 * std::numbers::pi / 180;

/// ISO 2768-1:1989, table 1, class f (fine): permissible deviations of linear dimensions, m.
double fine_deviation(double length) {
    struct Step {
        double up_to, deviation;
    };
    constexpr Step steps[] = {
        {6e-3, 0.05e-3}, {30e-3, 0.1e-3}, {120e-3, 0.15e-3}, {400e-3, 0.2e-3}, {1, 0.3e-3}};
    for (const Step& step : steps)
        if (std::abs(length) <= step.up_to) return step.deviation;
    return 0.5e-3;
}

Result<std::vector<Spread>> usual_spreads(const Design& design, const Machine& machine,
                                          const MachineMaker& make) {
    const auto steps = dimension_steps(design, machine, make, 0.01, {});
    if (!steps) return steps.problems();
    std::vector<Spread> out;
    for (const DimensionStep& step : *steps) {
        const Parameter& p = *step.parameter;
        const bool length = p.dimension() == dimension::length;
        if (!length && p.dimension() != dimension::angle) continue;
        // A hundredth of a small dimension at least fits the drawing; a tenth is the most it may be off.
        const double width = length ? std::min(fine_deviation(step.value), 0.1 * step.value) : usual_angle;
        out.push_back({p.path, &p, width});
    }
    if (machine.magnet()) out.push_back({remanence, nullptr, usual_remanence});
    return out;
}

/// Inverse of the normal distribution by bisection of erfc, exact to rounding.
double normal_quantile(double share) {
    double low = -9, high = 9;
    for (int k = 0; k < 60; ++k) {
        const double middle = (low + high) / 2;
        (std::erfc(-middle / std::numbers::sqrt2) / 2 < share ? low : high) = middle;
    }
    return (low + high) / 2;
}

void scale_remanence(Machine& machine, double factor) {
    for (Substance& s : machine.substances)
        if (s.material.kind == MaterialKind::Magnet) s.material.magnet.remanence *= factor;
}

/// On the sheet a dimension stands as a number with a tolerance of its own: that another stands behind its
/// standard value is a habit of drawing. What the design's own formulas say is meant, and goes along.
Design with_numbers(Design design, const Machine& nominal) {
    const Design texts = design;
    for (const Parameter* p : used_parameters(texts)) {
        const bool drawn = p->dimension() == dimension::length || p->dimension() == dimension::angle;
        if (drawn && !p->is_word() && !texts.texts.count(p->path) && texts.text(p->path).starts_with('=') &&
            nominal.values.has(p->path))
            design = at_value(std::move(design), *p, nominal.values.number(p->path));
    }
    return design;
}

Result<Machine> made(const Design& design, const Machine& nominal, const MachineMaker& make,
                     const std::vector<Spread>& spreads, const std::vector<double>& draws) {
    Design changed = design;
    double factor = 1;
    for (std::size_t k = 0; k < spreads.size(); ++k) {
        const double off = draws[k] * spreads[k].half_width / 3;
        if (spreads[k].parameter)
            changed = at_value(std::move(changed), *spreads[k].parameter,
                               nominal.values.number(spreads[k].name) + off);
        else
            factor += off;
    }
    auto machine = make(changed);
    if (machine) scale_remanence(*machine, factor);
    return machine;
}

/// A length, an angle or a number of the parameter's own kind; "%" for the remanence.
Result<double> half_width(const std::string& text, const Parameter* parameter) {
    const Problem wrong{"--with spread", fmt::format("\"{}\" is no tolerance here.", text)};
    if (!parameter) {
        std::string_view rest;
        const auto number = read_number(text, rest);
        if (!number || *number < 0) return wrong;
        return trim(rest) == "%" ? *number / 100 : *number;
    }
    const auto quantity = parse_quantity(with_unit(text, parameter->unit));
    if (!quantity || quantity->dimension != parameter->dimension() || quantity->si < 0) return wrong;
    return quantity->si;
}

} // namespace

std::vector<std::vector<double>> normal_draws(std::size_t dimensions, int count, unsigned seed) {
    auto rows = latin_hypercube(dimensions, count, seed);
    for (auto& row : rows)
        for (double& share : row) share = normal_quantile(std::max(share, 1e-12));
    return rows;
}

Result<std::vector<Spread>> read_spreads(const std::string& text, const Design& design, const Machine& machine,
                                         const MachineMaker& make) {
    const auto words = word_list(text);
    if (words.empty()) return usual_spreads(design, machine, make);
    std::vector<Spread> out;
    for (const std::string& word : words) {
        const auto equals = word.find('=');
        const std::string name(trim(word.substr(0, equals)));
        if (equals == std::string::npos)
            return Problem{"--with spread", fmt::format("\"{}\" is no PATH=HALF-WIDTH.", word)};
        const auto used = used_parameters(design);
        const auto found =
            std::find_if(used.begin(), used.end(), [&](const Parameter* p) { return p->path == name; });
        if (name != remanence && (found == used.end() || (*found)->is_word() || !machine.values.has(name)))
            return Problem{"--with spread", fmt::format("{} is no dimension of this design.", name)};
        const Parameter* parameter = name == remanence ? nullptr : *found;
        const auto width = half_width(std::string(trim(word.substr(equals + 1))), parameter);
        if (!width) return width.problems();
        out.push_back({name, parameter, *width});
    }
    return out;
}

Result<std::vector<FigureLimit>> read_limits(const std::string& text, const Machine& machine) {
    std::vector<FigureLimit> out;
    for (const std::string& word : word_list(text)) {
        auto bound = read_bound(word);
        if (!bound)
            return Problem{"--with limits",
                           fmt::format("\"{}\" is no limit; write FIGURE<=NUMBER or FIGURE>=NUMBER.", word)};
        const auto figure = chosen_key_figures(bound->expression, machine);
        if (!figure) return Problem{"--with limits", figure.problems().front().sentence};
        if (!bound->unit.empty() && bound->unit != si_unit(*figure->front()))
            return Problem{"--with limits",
                           fmt::format("\"{}\": limits are in {}.", word, si_unit(*figure->front()))};
        out.push_back({figure->front(), std::move(*bound)});
    }
    return out;
}

Result<MadeMachines> make_machines(const Design& design, const MachineMaker& make,
                                   const std::vector<Spread>& spreads, int count, unsigned seed,
                                   const ModelOptions& mesh, int threads, const Watch& watch) {
    const auto nominal = make(design);
    if (!nominal) return nominal.problems();
    const Watch within{{}, watch.stop};
    const auto model = MovingModel::of(*nominal, mesh, threads, within);
    if (!model) return model.problems();
    MadeMachines out;
    out.nominal = model->base().values;
    out.model = model->model();
    out.fields = model->base().solves * (1 + count);
    const Design drawn = with_numbers(design, *nominal);
    const auto draws = normal_draws(spreads.size(), count, seed);
    for (const auto& row : draws) out.machines.push_back({row, {}});
    int done = 0;
    std::mutex mutex; // guards the count and the first problem of a field
    Problems problems;
    on_threads(count, threads, [&](int k) {
        if (watch.stop.stop_requested()) return;
        MadeMachine& one = out.machines[std::size_t(k)];
        bool remeshed = false;
        if (const auto machine = made(drawn, *nominal, make, spreads, one.draws)) {
            auto figures = model->figures(*machine, within, remeshed);
            const std::lock_guard lock(mutex);
            if (figures)
                one.figures = std::move(figures->values);
            else
                problems = figures.problems();
        }
        const std::lock_guard lock(mutex);
        if (watch.progress) watch.progress(++done, count);
    });
    if (watch.stop.stop_requested()) return stopped();
    if (!problems.empty()) return problems;
    return out;
}

std::vector<double> causes_of(const std::vector<std::vector<double>>& draws,
                              const std::vector<double>& values) {
    const auto n = Eigen::Index(values.size()), d = Eigen::Index(draws.empty() ? 0 : draws.front().size());
    std::vector<double> shares(std::size_t(d), 0.0);
    if (d == 0 || n < 2) return shares;
    Eigen::MatrixXd x(n, d);
    Eigen::VectorXd y(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        y(i) = values[std::size_t(i)];
        for (Eigen::Index k = 0; k < d; ++k) x(i, k) = draws[std::size_t(i)][std::size_t(k)];
    }
    y.array() -= y.mean();
    x.rowwise() -= x.colwise().mean().eval();
    const double variance = y.squaredNorm();
    if (!(variance > 0)) return shares;
    const Eigen::VectorXd slope = least_squares(x, y);
    for (Eigen::Index k = 0; k < d; ++k)
        shares[std::size_t(k)] = slope(k) * slope(k) * x.col(k).squaredNorm() / variance;
    return shares;
}

} // namespace mavlo
