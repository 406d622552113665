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
    for (const SectorMesh* mesh : {&model.stator, &model.rotor})
        for (std::size_t i = 0; i < mesh->nodes.size(); ++i)
            values.push_back(
                mesh->unknown[i] < 0 ? 0 : mesh->sign[i] * solution.potential[std::size_t(mesh->unknown[i])]);
    return values;
}

std::vector<std::array<double, 3>> corner_flux_density(const FieldModel& model, const FieldSolution& solution) {
    std::vector<std::array<double, 3>> result;
    result.reserve(model.elements.size());
    constexpr double corners[3][2] = {{0, 0}, {1, 0}, {0, 1}};
    for (std::size_t index = 0; index < model.elements.size(); ++index) {
        const bool in_stator = index < model.stator_elements;
        const SectorMesh& mesh = in_stator ? model.stator : model.rotor;
        const auto& source = mesh.elements[in_stator ? index : index - model.stator_elements];
        const auto a = local_values(model.elements[index], solution.potential);
        std::array<Point, 6> nodes;
        for (std::size_t k = 0; k < 6; ++k) nodes[k] = mesh.nodes[std::size_t(source.node[k])];
        std::array<double, 3> b{};
        for (std::size_t c = 0; c < 3; ++c) {
            const ShapeAt shape = quadratic_shape(nodes, corners[c][0], corners[c][1]);
            double gx = 0, gy = 0;
            for (std::size_t k = 0; k < 6; ++k) gx += shape.gx[k] * a[k], gy += shape.gy[k] * a[k];
            b[c] = std::hypot(gx, gy);
        }
        result.push_back(b);
    }
    return result;
}

GapElement::Traces gap_traces(const FieldModel& model, const FieldSolution& solution) {
    return model.gap->traces(gather(model.gap->stator_unknowns(), solution.potential),
                             gather(model.gap->rotor_unknowns(), solution.potential), solution.angle);
}

IronLevels iron_levels(const FieldModel& model, const FieldSolution& solution) {
    const Machine& m = model.machine;
    const double slot_bottom = m.wound ? m.bore_radius + m.values.number("stator.slot.depth") : m.bore_radius;
    std::vector<Sampled> tooth, yoke, rotor;
    for (std::size_t index = 0; index < model.elements.size(); ++index) {
        const auto& e = model.elements[index];
        const Role role = model.part(e, index).role;
        if (role != Role::StatorIron && role != Role::RotorIron) continue;
        const auto a = local_values(e, solution.potential);
        for (int q = e.first; q < e.first + e.count; ++q) {
            const auto& p = model.points[std::size_t(q)];
            double gx = 0, gy = 0;
            for (std::size_t k = 0; k < 6; ++k) gx += p.gx[k] * a[k], gy += p.gy[k] * a[k];
            auto& list = role == Role::RotorIron ? rotor : norm(p.at) < slot_bottom ? tooth : yoke;
            list.push_back({std::hypot(gx, gy), p.weight});
        }
    }
    return {level(std::move(tooth)), level(std::move(yoke)), level(std::move(rotor))};
}

} // namespace mavlo
