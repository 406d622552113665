#include "field/harmonic_steel.h"

#include "field/quadrature.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// Instants in half a period; the other half is its mirror. Of the field strength's harmonics the eleventh and
/// on are not told from the fundamental.
constexpr int instants = 6;

struct Instant {
    double cosine, sine, cosine2, sine2; ///< of omega t, and of twice that
};

const std::array<Instant, instants>& half_period() {
    static const std::array<Instant, instants> list = [] {
        std::array<Instant, instants> l{};
        for (int k = 0; k < instants; ++k) {
            const double t = pi * (k + 0.5) / instants;
            l[std::size_t(k)] = {std::cos(t), std::sin(t), std::cos(2 * t), std::sin(2 * t)};
        }
        return l;
    }();
    return list;
}

using Local = std::array<double, 6>;

/// Adds (fx, fy) . grad N of every node.
void add_to_nodes(const FieldModel::ElementData& e, const FieldModel::Point6& p, double fx, double fy,
                  std::vector<double>& to) {
    for (std::size_t a = 0; a < 6; ++a)
        if (e.unknown[a] >= 0) to[std::size_t(e.unknown[a])] += e.sign[a] * (fx * p.gx[a] + fy * p.gy[a]);
}

} // namespace

HarmonicSteel::HarmonicSteel(const FieldModel& model)
    : m_model(model) {
    std::size_t points = 0;
    for (int index : model.nonlinear) points += std::size_t(model.elements[std::size_t(index)].count);
    m_answers.resize(points);
    find_pattern();
}

void HarmonicSteel::find_pattern() {
    std::vector<std::pair<int, int>> all; // column, row
    for (int j = 0; j < m_model.unknowns(); ++j) all.emplace_back(j, j);
    const auto each_entry = [&](const auto& act) {
        for (int index : m_model.nonlinear) {
            const auto& e = m_model.elements[std::size_t(index)];
            std::size_t k = 0;
            for (std::size_t a = 0; a < 6; ++a)
                for (std::size_t b = 0; b <= a; ++b, ++k)
                    act(e.entry[k] >= 0, std::minmax({e.unknown[a], e.unknown[b]}));
        }
    };
    each_entry([&](bool is, std::pair<int, int> place) {
        if (is) all.push_back(place);
    });
    std::sort(all.begin(), all.end());
    all.erase(std::unique(all.begin(), all.end()), all.end());
    m_pattern.size = m_model.unknowns();
    m_pattern.column.assign(std::size_t(m_pattern.size) + 1, 0);
    for (const auto& [column, row] : all) {
        m_pattern.row.push_back(row);
        ++m_pattern.column[std::size_t(column) + 1];
    }
    for (std::size_t j = 0; j < std::size_t(m_pattern.size); ++j)
        m_pattern.column[j + 1] += m_pattern.column[j];
    each_entry([&](bool is, std::pair<int, int> place) {
        m_place.push_back(is ? m_pattern.position(place.second, place.first) : -1);
    });
}

/// Many products are made with one field.
void HarmonicSteel::assemble_conjugate() const {
    m_real.assign(m_pattern.row.size(), 0.0);
    m_imaginary.assign(m_pattern.row.size(), 0.0);
    const FieldModel::ElementData* element = nullptr;
    const int* place = m_place.data() - 21;
    each_point([&](const FieldModel::ElementData& e, const FieldModel::Point6& p, std::size_t q) {
        if (element != &e) {
            element = &e;
            place += 21;
        }
        const auto& c = m_answers[q].e;
        std::size_t k = 0;
        for (std::size_t a = 0; a < 6; ++a)
            for (std::size_t b = 0; b <= a; ++b, ++k) {
                if (place[k] < 0) continue;
                const double xx = p.gx[a] * p.gx[b], yy = p.gy[a] * p.gy[b],
                             xy = p.gx[a] * p.gy[b] + p.gy[a] * p.gx[b];
                m_real[std::size_t(place[k])] += e.entry_sign[k] * (c[0][0] * xx + c[1][0] * xy + c[2][0] * yy);
                m_imaginary[std::size_t(place[k])] +=
                    e.entry_sign[k] * (c[0][1] * xx + c[1][1] * xy + c[2][1] * yy);
            }
    });
    m_is_assembled = true;
}

/// act(element, point, place in m_answers) over the steel.
template <typename Act>
void HarmonicSteel::each_point(const Act& act) const {
    std::size_t k = 0;
    for (int index : m_model.nonlinear) {
        const auto& e = m_model.elements[std::size_t(index)];
        for (int q = e.first; q < e.first + e.count; ++q, ++k) act(e, m_model.points[std::size_t(q)], k);
    }
}

void HarmonicSteel::set(const PhasorPotential& potential) {
    const FieldModel::ElementData* element = nullptr;
    Local re{}, im{};
    each_point([&](const FieldModel::ElementData& e, const FieldModel::Point6& p, std::size_t k) {
        if (element != &e) {
            element = &e;
            re = local_values(e, potential.re);
            im = local_values(e, potential.im);
        }
        const Point gr = gradient(p, re), gi = gradient(p, im);
        const BhCurve& curve = m_model.laws[std::size_t(e.law)];
        Answer out{};
        const double share = p.weight / instants;
        for (const Instant& at : half_period()) {
            const double x = gr.x * at.cosine - gi.x * at.sine, y = gr.y * at.cosine - gi.y * at.sine,
                         square = x * x + y * y, b = std::sqrt(square);
            const auto value = curve.at(b);
            const double nu = share * (b > 1e-9 ? value.h / b : value.dh_db),
                         extra = b > 1e-9 ? (share * value.dh_db - nu) / square : 0;
            out.hx[0] += 2 * nu * x * at.cosine;
            out.hx[1] -= 2 * nu * x * at.sine;
            out.hy[0] += 2 * nu * y * at.cosine;
            out.hy[1] -= 2 * nu * y * at.sine;
            const double d[3] = {nu + extra * x * x, extra * x * y, nu + extra * y * y};
            for (int i = 0; i < 3; ++i) {
                out.d[i] += d[i];
                out.e[i][0] += d[i] * at.cosine2;
                out.e[i][1] -= d[i] * at.sine2;
            }
        }
        m_answers[k] = out;
    });
    m_is_assembled = false;
}

void HarmonicSteel::add_forces(PhasorPotential& to) const {
    each_point([&](const FieldModel::ElementData& e, const FieldModel::Point6& p, std::size_t k) {
        const Answer& a = m_answers[k];
        add_to_nodes(e, p, a.hx[0], a.hy[0], to.re);
        add_to_nodes(e, p, a.hx[1], a.hy[1], to.im);
    });
}

void HarmonicSteel::add_stiffness(std::vector<double>& values) const {
    each_point([&](const FieldModel::ElementData& e, const FieldModel::Point6& p, std::size_t q) {
        const auto& d = m_answers[q].d;
        std::size_t k = 0;
        for (std::size_t a = 0; a < 6; ++a) {
            const double fx = d[0] * p.gx[a] + d[1] * p.gy[a], fy = d[1] * p.gx[a] + d[2] * p.gy[a];
            for (std::size_t b = 0; b <= a; ++b, ++k)
                if (e.entry[k] >= 0)
                    values[std::size_t(e.entry[k])] += e.entry_sign[k] * (fx * p.gx[b] + fy * p.gy[b]);
        }
    });
}

void HarmonicSteel::add_conjugate_product(const PhasorPotential& x, PhasorPotential& to) const {
    if (!m_is_assembled) assemble_conjugate();
    // (c0 + j c1) (r - j i)
    const std::size_t n = x.re.size();
    std::vector<double> real_r(n), real_i(n), imaginary_r(n), imaginary_i(n);
    multiply(m_pattern, m_real, x.re, x.im, real_r, real_i);
    multiply(m_pattern, m_imaginary, x.re, x.im, imaginary_r, imaginary_i);
    for (std::size_t k = 0; k < n; ++k) {
        to.re[k] += real_r[k] + imaginary_i[k];
        to.im[k] += imaginary_r[k] - real_i[k];
    }
}

} // namespace mavlo
