#include "figure/loci.h"

#include "field/quadrature.h"
#include "figure/unfolding.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace mavlo {
namespace {

/// Columns of steel, of means and of solid points that some elements have.
struct Columns {
    Eigen::Index steel = 0, mean = 0, solid = 0;
};

void count(const FieldModel& model, std::size_t element, Columns& columns) {
    const auto& e = model.elements[element];
    const Part& part = model.part(e);
    if (part.use == Use::Iron) columns.steel += e.count;
    if (has_mean(part)) ++columns.mean;
    if (has_solid_points(part)) columns.solid += e.count;
}

/// One row a field that was solved; every pitch has its own steel.
SideLoci solved(const FieldModel& model, const std::vector<std::vector<double>>& potentials,
                const Unfolding& side) {
    std::vector<int> own(std::size_t(side.pitches));
    std::iota(own.begin(), own.end(), 0);
    SideLoci to = empty_loci(model, side.elements, own, 1, Eigen::Index(potentials.size()));
    Columns at;
    for (std::size_t element : to.elements) {
        const auto& e = model.elements[element];
        const Part& part = model.part(e);
        const bool steel = part.use == Use::Iron, mean = has_mean(part), solid = has_solid_points(part);
        if (!steel && !mean && !solid) continue;
        for (Eigen::Index row = 0; row < to.samples(); ++row) {
            const auto values = local_values(e, potentials[std::size_t(row)]);
            if (mean) {
                const Point b = element_mean(model, e, values);
                to.mean_bx(row, at.mean) = b.x;
                to.mean_by(row, at.mean) = b.y;
            }
            for (int q = 0; q < e.count; ++q) {
                const auto& point = model.points[std::size_t(e.first) + std::size_t(q)];
                if (solid)
                    to.solid_a(row, at.solid + q) =
                        std::inner_product(values.begin(), values.end(), point.n.begin(), 0.0);
                if (!steel) continue;
                const Point slope = gradient(point, values);
                to.steel_bx(row, at.steel + q) = slope.y; // B = rot (A e_z)
                to.steel_by(row, at.steel + q) = -slope.x;
            }
        }
        count(model, element, at);
    }
    return to;
}

/// What the pitches see in turn, from what each sees in the part that was solved.
SideLoci unfolded(const FieldModel& model, const SideLoci& from, const Unfolding& side, double stretch) {
    const int stretches = side.stretches();
    const Eigen::Index rows = from.samples();
    SideLoci to = empty_loci(model, side.elements, side.twins(), stretch * stretches, rows * stretches);
    for (int k = 0; k < stretches; ++k)
        for (int p = 0, first_twins = 0; p < side.pitches; ++p) {
            const Unfolding::Source source = side.source(p, k);
            const auto put = [&](Eigen::MatrixXd& out, int place, double c, const Eigen::MatrixXd& x, double d,
                                 const Eigen::MatrixXd& y) {
                const Eigen::Index each = x.cols() / side.pitches, at = source.pitch * each;
                out.block(k * rows, place * each, rows, each) =
                    c * x.middleCols(at, each) + d * y.middleCols(at, each);
            };
            const double c = source.cosine, d = source.sine;
            put(to.mean_bx, p, c, from.mean_bx, -d, from.mean_by);
            put(to.mean_by, p, c, from.mean_by, d, from.mean_bx);
            put(to.solid_a, p, source.sign, from.solid_a, 0, from.solid_a);
            if (to.twin[std::size_t(p)] != p) continue;
            put(to.steel_bx, first_twins, c, from.steel_bx, -d, from.steel_by);
            put(to.steel_by, first_twins, c, from.steel_by, d, from.steel_bx);
            ++first_twins;
        }
    return to;
}

} // namespace

Point element_mean(const FieldModel& model, const FieldModel::ElementData& e,
                   const std::array<double, 6>& values) {
    double area = 0;
    Point slope{0, 0};
    for (int q = e.first; q < e.first + e.count; ++q) {
        const auto& p = model.points[std::size_t(q)];
        area += p.weight;
        slope = slope + p.weight * gradient(p, values);
    }
    return {slope.y / area, -slope.x / area};
}

bool has_mean(const Part& part) {
    return part.use == Use::Magnet || part.use == Use::Conductor;
}

bool has_solid_points(const Part& part) {
    return part.use == Use::Magnet || part.use == Use::Solid;
}

SideLoci empty_loci(const FieldModel& model, std::vector<std::size_t> elements, std::vector<int> twin,
                    double period, Eigen::Index samples) {
    SideLoci loci{std::move(elements), period, std::move(twin), {}, {}, {}, {}, {}};
    Columns all;
    for (std::size_t i : loci.elements) count(model, i, all);
    const auto pitches = Eigen::Index(loci.twin.size());
    Eigen::Index distinct = 0;
    for (Eigen::Index p = 0; p < pitches; ++p) distinct += loci.twin[std::size_t(p)] == p;
    loci.mean_bx = loci.mean_by = Eigen::MatrixXd::Zero(samples, all.mean);
    loci.steel_bx = loci.steel_by =
        Eigen::MatrixXd::Zero(samples, pitches > 0 ? all.steel / pitches * distinct : 0);
    loci.solid_a = Eigen::MatrixXd::Zero(samples, all.solid);
    return loci;
}

Loci make_loci(const MachineModel& model, const std::vector<std::vector<double>>& potentials,
               const std::optional<PeriodPart>& part) {
    const double stretch = part ? 1.0 / part->parts : 1;
    const auto of = [&](const Unfolding& side) {
        return unfolded(model, solved(model, potentials, side), side, stretch);
    };
    return {of(stator_unfolding(model, part)), of(rotor_unfolding(model, part))};
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
