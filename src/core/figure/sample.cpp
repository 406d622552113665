#include "figure/sample.h"

#include "field/quadrature.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace mavlo {
namespace {

struct Sampled {
    double b, weight;
};

/// Exceeded by 2 % of the area, between samples by straight lines over the area, so that it has a slope; not a
/// number where there is no iron.
double level(std::vector<Sampled> samples) {
    if (samples.empty()) return std::numeric_limits<double>::quiet_NaN();
    std::sort(samples.begin(), samples.end(), [](const Sampled& a, const Sampled& b) { return a.b > b.b; });
    double area = 0;
    for (const auto& s : samples) area += s.weight;
    const double wanted = 0.02 * area;
    double middle = samples.front().weight / 2; // of the area down to the middle of a sample
    for (std::size_t k = 1; k < samples.size(); ++k) {
        const double before = middle;
        middle += (samples[k - 1].weight + samples[k].weight) / 2;
        if (middle < wanted) continue;
        const double share = std::clamp((wanted - before) / (middle - before), 0.0, 1.0);
        return samples[k - 1].b + share * (samples[k].b - samples[k - 1].b);
    }
    return samples.back().b;
}

constexpr int rows = 4; ///< of equal small triangles that an element is cut into

/// Middles of the small triangles, in shares of the element's second and third corner.
const std::array<std::array<double, 2>, rows * rows>& middles() {
    static const auto all = [] {
        std::array<std::array<double, 2>, rows * rows> out{};
        std::size_t k = 0;
        for (int i = 0; i < rows; ++i)
            for (int j = 0; j < rows - i; ++j) {
                out[k++] = {(i + 1.0 / 3) / rows, (j + 1.0 / 3) / rows};
                if (j + 1 < rows - i) out[k++] = {(i + 2.0 / 3) / rows, (j + 2.0 / 3) / rows};
            }
        return out;
    }();
    return all;
}

} // namespace

std::vector<double> nodal_potential(const FieldModel& model, const FieldSolution& solution) {
    std::vector<double> values;
    for (const BodyMesh& mesh : model.meshes)
        for (std::size_t i = 0; i < mesh.nodes.size(); ++i)
            values.push_back(
                mesh.unknown[i] < 0 ? 0 : mesh.sign[i] * solution.potential[std::size_t(mesh.unknown[i])]);
    return values;
}

std::vector<std::array<Point, 3>> corner_flux_density(const FieldModel& model, const FieldSolution& solution) {
    std::vector<std::array<Point, 3>> result;
    result.reserve(model.elements.size());
    constexpr double corners[3][2] = {{0, 0}, {1, 0}, {0, 1}};
    std::size_t index = 0;
    for (const BodyMesh& mesh : model.meshes)
        for (const auto& source : mesh.elements) {
            const auto a = local_values(model.elements[index++], solution.potential);
            std::array<Point, 6> nodes;
            for (std::size_t k = 0; k < 6; ++k) nodes[k] = mesh.nodes[std::size_t(source.node[k])];
            std::array<Point, 3> b{};
            for (std::size_t c = 0; c < 3; ++c) {
                const Point g = gradient(quadratic_shape(nodes, corners[c][0], corners[c][1]), a);
                b[c] = {g.y, -g.x};
            }
            result.push_back(b);
        }
    return result;
}

GapElement::Traces gap_traces(const FieldModel& model, const FieldSolution& solution, std::size_t section) {
    const GapElement& gap = model.gap(section);
    return gap.traces(gather(gap.outer_unknowns(), solution.potential),
                      gather(gap.inner_unknowns(), solution.potential), model.turns(solution.angle));
}

IronLevels iron_levels(const MachineModel& model, const FieldSolution& solution) {
    const Machine& m = model.machine;
    // Over the chart's own height, which is another in every section of a stack of flat ones.
    const double gap = m.stator_radius() - m.section.chart().flat,
                 slot_depth = m.wound() ? std::abs(m.winding.slot_bottom - m.stator_radius()) : 0;
    const auto flux_density = corner_flux_density(model, solution);
    std::vector<Sampled> tooth, yoke, rotor;
    std::size_t index = 0;
    for (const BodyMesh& mesh : model.meshes)
        for (const auto& source : mesh.elements) {
            const std::size_t element = index++;
            const Part& part = model.part(model.elements[element]);
            if (part.use != Use::Iron) continue;
            const Chart& chart = model.chart(part);
            const double weight = model.area(model.elements[element]) / (rows * rows);
            const auto& b = flux_density[element];
            std::array<Point, 3> corner;
            for (std::size_t c = 0; c < 3; ++c) corner[c] = mesh.nodes[std::size_t(source.node[c])];
            const auto between = [](const std::array<Point, 3>& of, const std::array<double, 2>& at) {
                return (1 - at[0] - at[1]) * of[0] + at[0] * of[1] + at[1] * of[2];
            };
            for (const auto& at : middles()) {
                const double height = chart.height(between(corner, at)) - chart.flat;
                auto& list = model.is_rotor(part.body)             ? rotor
                             : std::abs(height - gap) < slot_depth ? tooth
                                                                   : yoke;
                list.push_back({norm(between(b, at)), weight});
            }
        }
    return {level(std::move(tooth)), level(std::move(yoke)), level(std::move(rotor))};
}

} // namespace mavlo
