#include "figure/sample.h"

#include "field/quadrature.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

struct Sampled {
    double b, weight;
};

double level(std::vector<Sampled> samples) {
    if (samples.empty()) return 0;
    std::sort(samples.begin(), samples.end(), [](const Sampled& a, const Sampled& b) { return a.b > b.b; });
    double area = 0, seen = 0;
    for (const auto& s : samples) area += s.weight;
    for (const auto& s : samples) {
        seen += s.weight;
        if (seen >= 0.02 * area) return s.b;
    }
    return samples.back().b;
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

GapElement::Traces gap_traces(const FieldModel& model, const FieldSolution& solution) {
    return model.gap->traces(gather(model.gap->outer_unknowns(), solution.potential),
                             gather(model.gap->inner_unknowns(), solution.potential),
                             model.turns(solution.angle));
}

IronLevels iron_levels(const MachineModel& model, const FieldSolution& solution) {
    const Machine& m = model.machine;
    const double gap = m.stator_radius(), slot_depth = m.wound() ? std::abs(m.winding.slot_bottom - gap) : 0;
    std::vector<Sampled> tooth, yoke, rotor;
    for (const auto& e : model.elements) {
        const Part& part = model.part(e);
        if (part.use != Use::Iron) continue;
        const auto a = local_values(e, solution.potential);
        for (int q = e.first; q < e.first + e.count; ++q) {
            const auto& p = model.points[std::size_t(q)];
            auto& list = model.is_rotor(part.body)                 ? rotor
                         : std::abs(norm(p.at) - gap) < slot_depth ? tooth
                                                                   : yoke;
            list.push_back({norm(gradient(p, a)), p.weight});
        }
    }
    return {level(std::move(tooth)), level(std::move(yoke)), level(std::move(rotor))};
}

} // namespace mavlo
