#include "question/sensitivity.h"

#include "mesh/section_tiles.h"
#include "question/accuracy.h"

#include <algorithm>
#include <atomic>
#include <cassert>
#include <cmath>
#include <fmt/format.h>
#include <mutex>

namespace mavlo {
namespace {

constexpr double coarser = 1.4;          ///< element sizes of the mesh that tells the error
constexpr double longest_step = 0.25e-3; ///< m, of lengths in the section
/// A slope is in doubt when its error is this share of it and it is one of so many largest of its figure.
constexpr double doubtful = 0.08;
constexpr std::size_t ranked = 10;

bool is_length_or_angle(const Parameter& p) {
    return p.kind == ParameterKind::Quantity &&
           (p.dimension() == dimension::length || p.dimension() == dimension::angle);
}

bool is_dimension(const Parameter& p) {
    return (is_length_or_angle(p) || p.kind == ParameterKind::Number) && !p.path.starts_with("rating.");
}

bool same_shape(const Machine& a, const Machine& b) {
    return a.section == b.section && a.stack_length == b.stack_length;
}

double step_of(const Parameter& p, double value, double share) {
    const double step = std::abs(value) * share;
    const bool short_one = p.dimension() == dimension::length && p.path != "machine.stack_length";
    return short_one ? std::min(step, longest_step * share / 0.01) : step;
}

std::optional<DimensionStep> dimension_step(const Design& design, const Machine& machine,
                                            const MachineMaker& make, const Parameter& p, double share) {
    const double value = machine.values.number(p.path);
    DimensionStep out{&p, value, step_of(p, value, share), false, false};
    bool changes = false;
    for (const double sense : {1.0, -1.0}) {
        const auto moved = make(at_value(design, p, value + sense * out.step));
        if (!moved) continue;
        (sense > 0 ? out.up : out.down) = true;
        changes = changes || !same_shape(*moved, machine);
    }
    if (!changes) return std::nullopt;
    return out;
}

} // namespace

Design at_value(Design design, const Parameter& parameter, double value) {
    design.texts[parameter.path] = text_for(parameter, value, 14);
    return design;
}

Result<std::vector<DimensionStep>> dimension_steps(const Design& design, const Machine& machine,
                                                   const MachineMaker& make, double share,
                                                   const std::vector<std::string>& wanted) {
    std::vector<DimensionStep> steps;
    const auto used = used_parameters(design);
    for (const std::string& path : wanted) {
        const auto found =
            std::find_if(used.begin(), used.end(), [&](const Parameter* p) { return p->path == path; });
        const auto refuse = [&](const char* why) {
            return Problem{"--with dimensions", fmt::format("{} {}", path, why)};
        };
        if (found == used.end()) return refuse("is no parameter that this design uses.");
        if (!is_dimension(**found)) return refuse("is no dimension.");
        if (!machine.values.has(path) || machine.values.is_auto(path) || machine.values.number(path) == 0)
            return refuse("has no value here from which it could be changed.");
        const auto step = dimension_step(design, machine, make, **found, share);
        if (!step) return refuse("changes nothing of the section, or cannot be changed either way.");
        steps.push_back(*step);
    }
    if (!wanted.empty()) return steps;
    for (const Parameter* p : used) {
        if (!is_dimension(*p) || !machine.values.has(p->path) || machine.values.is_auto(p->path) ||
            machine.values.number(p->path) == 0)
            continue;
        if (const auto step = dimension_step(design, machine, make, *p, share)) steps.push_back(*step);
    }
    return steps;
}

namespace {
/// Of all sections, in the order of the model's meshes.
std::vector<const Body*> solved_bodies(const Machine& machine) {
    std::vector<const Body*> bodies;
    for (const Section& section : machine.solved())
        for (const Body& body : section.bodies) bodies.push_back(&body);
    return bodies;
}
} // namespace

Result<MovingModel> MovingModel::of(const Machine& machine, const ModelOptions& options, int threads,
                                    const Watch& watch) {
    MovingModel out;
    out.m_options = options;
    auto movers = std::make_shared<std::vector<MeshMover>>();
    const auto meshes = tile_meshes(machine.solved(), size_factor(options.quality) * options.extra_factor);
    if (!meshes) return meshes.problems();
    const std::vector<const Body*> bodies = solved_bodies(machine);
    for (std::size_t k = 0; k < bodies.size(); ++k) movers->emplace_back(bodies[k]->tile, (*meshes)[k]);
    out.m_movers = movers;
    out.m_own = options;
    out.m_own.tile_meshes = std::make_shared<const std::vector<TileMesh>>(*meshes);
    const auto model = prepare_field(machine, out.m_own);
    if (!model) return model.problems();
    out.m_model = *model;
    auto figures = quick_figures(*model, threads, watch, {nullptr, &out.m_fields});
    if (!figures) return figures.problems();
    out.m_base = std::move(*figures);
    return out;
}

ModelOptions MovingModel::mesh_of(const Machine& machine) const {
    auto meshes = std::make_shared<std::vector<TileMesh>>();
    const std::vector<const Body*> bodies = solved_bodies(machine);
    if (bodies.size() != m_movers->size()) return m_options;
    for (std::size_t k = 0; k < m_movers->size(); ++k) {
        auto moved = (*m_movers)[k].moved(bodies[k]->tile);
        if (!moved) return m_options;
        meshes->push_back(std::move(*moved));
    }
    ModelOptions with = m_options;
    with.tile_meshes = meshes;
    return with;
}

Result<QuickFigures> MovingModel::figures(const Machine& machine, const Watch& watch, bool& remeshed) const {
    const ModelOptions mesh = mesh_of(machine);
    QuickStart start;
    if (mesh.tile_meshes)
        start.from = &m_fields;
    else
        remeshed = true;
    const auto model = prepare_field(machine, mesh);
    if (!model) return model.problems();
    return quick_figures(*model, 1, watch, start);
}

namespace {

/// A mesh that moves, and the figures told on it.
struct Gauged {
    MovingModel model;
    const Gauge& gauge;
    Figures base;

    static Result<Gauged> of(const Machine& machine, const ModelOptions& options, const Gauge& gauge,
                             int threads, const Watch& watch) {
        auto model = MovingModel::of(machine, options, threads, watch);
        if (!model) return model.problems();
        Gauged out{std::move(*model), gauge, {}};
        if (!gauge) {
            out.base = out.model.base().values;
            return out;
        }
        auto base = gauge(machine, out.model.mesh());
        if (!base) return base.problems();
        out.base = std::move(*base);
        return out;
    }

    Result<Figures> figures(const Machine& machine, const Watch& watch, bool& remeshed) const {
        if (gauge) {
            const ModelOptions mesh = model.mesh_of(machine);
            remeshed = remeshed || !mesh.tile_meshes;
            return gauge(machine, mesh);
        }
        auto quick = model.figures(machine, watch, remeshed);
        if (!quick) return quick.problems();
        return std::move(quick->values);
    }
};

/// Slopes on one mesh, and half the change of slope over the step for one that bends.
class Differences {
  public:
    Differences(const Design& design, const MachineMaker& make, const Gauged& gauged, const Watch& watch)
        : m_design(design)
        , m_make(make)
        , m_gauged(gauged)
        , m_watch(watch) {}

    Result<std::map<std::string, Slope, std::less<>>> slopes(const DimensionStep& d, bool& remeshed) const {
        const auto at = [&](double steps) -> Result<Figures> {
            const auto machine = m_make(at_value(m_design, *d.parameter, d.value + steps * d.step));
            if (!machine) return machine.problems();
            return m_gauged.figures(*machine, m_watch, remeshed);
        };
        const bool central = d.up && d.down;
        const double sense = d.up ? 1 : -1;
        const auto near = at(sense), far = at(central ? -1 : 2 * sense);
        if (!near) return near.problems();
        if (!far && central) return far.problems();
        std::map<std::string, Slope, std::less<>> out;
        for (const auto& [name, base] : m_gauged.base) {
            if (!near->contains(name) || (far && !far->contains(name))) continue;
            const double n = near->at(name), first = (n - base) / (sense * d.step);
            if (!far) {
                out[name] = {first, std::abs(first)};
                continue;
            }
            const double f = far->at(name);
            out[name] = central ? Slope{(n - f) / (2 * d.step), 0}
                                : Slope{(4 * n - 3 * base - f) / (2 * sense * d.step),
                                        std::abs(n - base - (f - n)) / d.step};
        }
        return out;
    }

  private:
    const Design& m_design;
    const MachineMaker& m_make;
    const Gauged& m_gauged;
    const Watch& m_watch;
};

/// Flux densities that a share of the steel exceeds lie at corners, where a finer mesh tells little more.
bool may_be_refined(const std::string& figure) {
    return !figure.ends_with("_flux_density");
}

/// Which dimensions have a slope in doubt.
std::vector<std::size_t> in_doubt(const Sensitivity& found) {
    std::vector<bool> doubt(found.dimensions.size(), false);
    for (const auto& [figure, base] : found.base) {
        if (!may_be_refined(figure)) continue;
        std::vector<std::pair<double, std::size_t>> order; // by what a share of the dimension does
        for (std::size_t k = 0; k < found.dimensions.size(); ++k) {
            const DimensionSlopes& d = found.dimensions[k];
            const auto slope = d.slopes.find(figure);
            if (slope != d.slopes.end() && slope->second.value != 0)
                order.emplace_back(-std::abs(slope->second.value * d.dimension.value), k);
        }
        std::sort(order.begin(), order.end());
        if (order.size() > ranked) order.resize(ranked);
        for (const auto& [size, k] : order) {
            const Slope& slope = found.dimensions[k].slopes.at(figure);
            // What is nothing but rounding needs no digits.
            if (-size > 1e-6 * std::max(-order.front().first, std::abs(base)) &&
                slope.error > doubtful * std::abs(slope.value))
                doubt[k] = true;
        }
    }
    std::vector<std::size_t> which;
    for (std::size_t k = 0; k < doubt.size(); ++k)
        if (doubt[k]) which.push_back(k);
    return which;
}

/// The slopes of a finer mesh in place of a coarser one's, whose sizes are `ratio` times as large. Corners
/// leave errors that fall with the square of the sizes at the least, so that the finer mesh's is below the
/// difference over (ratio^2 - 1).
void take_finer(DimensionSlopes& to, std::map<std::string, Slope, std::less<>> slopes, double ratio) {
    assert(ratio > 1);
    const double left = 1 / (ratio * ratio - 1);
    for (auto& [name, slope] : slopes) {
        if (const auto before = to.slopes.find(name); before != to.slopes.end())
            slope.error += left * std::abs(slope.value - before->second.value);
        to.slopes[name] = slope;
    }
}

} // namespace

Result<Sensitivity> sensitivity_of(const Design& design, const MachineMaker& make,
                                   const std::vector<DimensionStep>& steps, const MeshSizes& sizes,
                                   const std::function<Result<MeshSizes>()>& finer, int threads,
                                   const Watch& watch, const Gauge& gauge) {
    const auto plain = make(design);
    if (!plain) return plain.problems();
    const Machine machine = sized(*plain, sizes.sizing);
    const Watch within{{}, watch.stop};
    // Fields are solved tightly on whatever mesh: small differences shall be the shape's.
    ModelOptions options{Quality::Normal, sizes.factor};
    const auto fine = Gauged::of(machine, options, gauge, threads, within);
    if (!fine) return fine.problems();
    options.extra_factor *= coarser;
    const auto coarse = Gauged::of(machine, options, gauge, threads, within);
    if (!coarse) return coarse.problems();
    Sensitivity out;
    out.base = fine->base;
    out.model = fine->model.model();
    out.fields = fine->model.base().solves * 2 * (1 + 2 * int(steps.size()));
    out.dimensions.resize(steps.size());
    int total = int(steps.size());
    std::atomic<int> done = 0;
    std::mutex order;
    const auto each = [&](std::size_t count, const auto& act) {
        on_threads(int(count), threads, [&](int k) {
            if (watch.stop.stop_requested()) return;
            act(std::size_t(k));
            const std::lock_guard lock(order);
            if (watch.progress) watch.progress(++done, total);
        });
    };
    each(steps.size(), [&](std::size_t k) {
        DimensionSlopes& slopes = out.dimensions[k];
        slopes.dimension = steps[k];
        slopes.one_sided = !(slopes.dimension.up && slopes.dimension.down);
        auto found = Differences(design, make, *fine, within).slopes(slopes.dimension, slopes.remeshed);
        bool also = false;
        const auto check = Differences(design, make, *coarse, within).slopes(slopes.dimension, also);
        slopes.problems = !found ? found.problems() : !check ? check.problems() : Problems{};
        if (!slopes.problems.empty()) return;
        for (auto& [name, slope] : *found)
            if (const auto other = check->find(name); other != check->end())
                slope.error += std::abs(other->second.value - slope.value);
        slopes.slopes = std::move(*found);
    });
    const std::vector<std::size_t> again = in_doubt(out);
    if (watch.stop.stop_requested()) return stopped();
    if (again.empty()) return out;
    total += int(again.size());
    const auto better = finer();
    if (!better) return better.problems();
    options.extra_factor = better->factor;
    const auto finest = Gauged::of(sized(*plain, better->sizing), options, gauge, threads, within);
    if (!finest) return finest.problems();
    out.fields += finest->model.base().solves * (1 + 2 * int(again.size()));
    each(again.size(), [&](std::size_t k) {
        DimensionSlopes& slopes = out.dimensions[again[k]];
        bool remeshed = false;
        auto found = Differences(design, make, *finest, within).slopes(slopes.dimension, remeshed);
        if (found && !remeshed) take_finer(slopes, std::move(*found), sizes.factor / better->factor);
    });
    if (watch.stop.stop_requested()) return stopped();
    return out;
}

} // namespace mavlo
