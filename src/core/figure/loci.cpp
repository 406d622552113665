#include "figure/loci.h"

#include "figure/unfolding.h"

#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

SideLoci unfold(const std::vector<ElementField>& fields, const Unfolding& side, double stretch) {
    const std::size_t each = side.each();
    const int stretches = side.stretches();
    const auto rows = Eigen::Index(fields.size()) * stretches, columns = Eigen::Index(side.elements);
    SideLoci to{side.first, stretch * stretches, Eigen::MatrixXd(rows, columns), Eigen::MatrixXd(rows, columns),
                Eigen::MatrixXd(rows, columns)};
    for (int k = 0; k < stretches; ++k)
        for (int p = 0; p < side.pitches; ++p) {
            const Unfolding::Source from = side.source(p, k);
            const double c = from.cosine, d = from.sine;
            for (std::size_t i = 0; i < fields.size(); ++i) {
                const auto row = Eigen::Index(std::size_t(k) * fields.size() + i);
                const ElementField& f = fields[i];
                for (std::size_t e = 0; e < each; ++e) {
                    const std::size_t source = side.first + std::size_t(from.pitch) * each + e;
                    const auto column = Eigen::Index(std::size_t(p) * each + e);
                    to.bx(row, column) = c * f.bx[source] - d * f.by[source];
                    to.by(row, column) = d * f.bx[source] + c * f.by[source];
                    to.a(row, column) = from.sign * f.a[source];
                }
            }
        }
    return to;
}

} // namespace

ElementMean element_mean(const FieldModel& model, const FieldModel::ElementData& e,
                         const std::vector<double>& potential) {
    const auto values = local_values(e, potential);
    double area = 0, x = 0, y = 0, a = 0;
    for (int q = e.first; q < e.first + e.count; ++q) {
        const auto& p = model.points[std::size_t(q)];
        area += p.weight;
        for (std::size_t k = 0; k < 6; ++k) {
            x += p.weight * p.gx[k] * values[k];
            y += p.weight * p.gy[k] * values[k];
            a += p.weight * p.n[k] * values[k];
        }
    }
    return {y / area, -x / area, a / area}; // B = rot (A e_z)
}

ElementField element_field(const FieldModel& model, const FieldSolution& solution) {
    ElementField out;
    const std::size_t n = model.elements.size();
    out.bx.resize(n);
    out.by.resize(n);
    out.a.resize(n);
    for (std::size_t i = 0; i < n; ++i) {
        const ElementMean mean = element_mean(model, model.elements[i], solution.potential);
        out.bx[i] = mean.bx;
        out.by[i] = mean.by;
        out.a[i] = mean.a;
    }
    return out;
}

Loci make_loci(const MachineModel& model, const std::vector<ElementField>& fields,
               const std::optional<PeriodPart>& part) {
    const double stretch = part ? 1.0 / part->parts : 1;
    return {unfold(fields, stator_unfolding(model, part), stretch),
            unfold(fields, rotor_unfolding(model, part), stretch)};
}

Eigen::MatrixXd differentiation(int n) {
    Eigen::MatrixXd d = Eigen::MatrixXd::Zero(n, n);
    const double step = 2 * std::numbers::pi / n;
    for (int i = 0; i < n; ++i)
        for (int j = 0; j < n; ++j) {
            if (i == j) continue;
            const double half = (i - j) * step / 2, sign = (i - j) % 2 ? -0.5 : 0.5;
            d(i, j) = n % 2 ? sign / std::sin(half) : sign / std::tan(half);
        }
    return d;
}

} // namespace mavlo
