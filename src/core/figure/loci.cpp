#include "figure/loci.h"

#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

/// Index of a pitch among `count` in the sector, and how often the sector was left on the way.
struct Wrapped {
    int index, sectors;
};

Wrapped wrapped(int pitch, int count) {
    const int sectors = pitch >= 0 ? pitch / count : -((count - 1 - pitch) / count);
    return {pitch - sectors * count, sectors};
}

/// How the field of one side goes on from one solved stretch to the next.
struct Going {
    std::size_t first, elements;
    int pitches;  ///< alike pitches in the sector
    double pitch; ///< their angle
    int shift;    ///< of the pattern, in pitches, each stretch
    int sign;     ///< of the pattern, each stretch
    int sector_sign;

    double sign_after(int stretches, int sectors) const {
        return (sign < 0 && stretches % 2 ? -1 : 1) * (sector_sign < 0 && sectors % 2 ? -1 : 1);
    }
    /// Stretches until every element is back at its own pitch with its own sign.
    int stretches() const {
        for (int k = 1;; ++k)
            if ((k * shift) % pitches == 0 && sign_after(k, k * shift / pitches) > 0) return k;
    }
};

SideLoci unfold(const std::vector<ElementField>& fields, const Going& side, double stretch) {
    const std::size_t each = side.elements / std::size_t(side.pitches);
    const int stretches = side.stretches();
    const auto rows = Eigen::Index(fields.size()) * stretches, columns = Eigen::Index(side.elements);
    SideLoci to{side.first, stretch * stretches, Eigen::MatrixXd(rows, columns), Eigen::MatrixXd(rows, columns),
                Eigen::MatrixXd(rows, columns)};
    for (int k = 0; k < stretches; ++k)
        for (int p = 0; p < side.pitches; ++p) {
            const auto [from, sectors] = wrapped(p - k * side.shift, side.pitches);
            const double s = side.sign_after(k, sectors), angle = (p - from) * side.pitch;
            const double c = s * std::cos(angle), d = s * std::sin(angle);
            for (std::size_t i = 0; i < fields.size(); ++i) {
                const auto row = Eigen::Index(std::size_t(k) * fields.size() + i);
                const ElementField& f = fields[i];
                for (std::size_t e = 0; e < each; ++e) {
                    const std::size_t source = side.first + std::size_t(from) * each + e;
                    const auto column = Eigen::Index(std::size_t(p) * each + e);
                    to.bx(row, column) = c * f.bx[source] - d * f.by[source];
                    to.by(row, column) = d * f.bx[source] + c * f.by[source];
                    to.a(row, column) = s * f.a[source];
                }
            }
        }
    return to;
}

} // namespace

ElementField element_field(const FieldModel& model, const FieldSolution& solution) {
    ElementField out;
    const std::size_t n = model.elements.size();
    out.bx.resize(n);
    out.by.resize(n);
    out.a.resize(n);
    for (std::size_t i = 0; i < n; ++i) {
        const auto& e = model.elements[i];
        const auto values = local_values(e, solution.potential);
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
        out.bx[i] = y / area; // B = rot (A e_z)
        out.by[i] = -x / area;
        out.a[i] = a / area;
    }
    return out;
}

Loci make_loci(const MachineModel& model, const std::vector<ElementField>& fields,
               const std::optional<PeriodPart>& part) {
    const Machine& m = model.machine;
    const auto side = [&](const Body& body, int shift, int sign) {
        const int number = int(&body - m.section.bodies.data());
        const std::size_t first = model.first_element[std::size_t(number)],
                          end = model.first_element[std::size_t(number) + 1];
        return unfold(fields,
                      {first, end - first, m.sector().pitches[std::size_t(number)], body.tile.pitch, shift,
                       sign, m.sector().sign},
                      part ? 1.0 / part->parts : 1);
    };
    // After a whole period the pattern in the stator is the same; each pole stands where the next but one was.
    const int pair = -2 * m.section.rotor().pitches / m.poles;
    return {side(m.section.stator(), part ? part->slots : 0, part ? part->sign : 1),
            side(m.section.rotor(), part ? part->tiles : pair, part ? part->sign : 1)};
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
