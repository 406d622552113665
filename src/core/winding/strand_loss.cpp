#include "winding/strand_loss.h"

#include "material/bh_curve.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

/// J1(z)/J0(z) by its continued fraction (F.W.J. Olver et al., NIST Handbook, 10.10.1), from below.
Complex bessel_ratio(Complex z) {
    const int terms = 30 + int(2 * std::abs(z));
    Complex ratio = 0;
    for (int n = terms; n >= 1; --n) ratio = 1.0 / (2.0 * n / z - ratio);
    return ratio;
}

} // namespace

double skin_depth(double resistivity, double frequency, double mu_r) {
    assert(resistivity > 0 && frequency > 0 && mu_r > 0);
    return std::sqrt(resistivity / (pi * frequency * mu0 * mu_r));
}

double round_skin_factor(double x) {
    if (x < 0.05) return 1 + std::pow(x, 4) / 48;
    if (x > 30) return x / 2 + 0.25; // the asymptote
    const Complex z{x, -x};
    return (z / 2.0 / bessel_ratio(z)).real();
}

double round_proximity_factor(double x) {
    if (x < 0.02) return pi * std::pow(x, 4);
    if (x > 30) return 4 * pi * x; // the asymptote
    const Complex z{x, -x};
    // J2 = 2/z J1 - J0.
    return 4 * pi * x * x * (1.0 - 2.0 / z * bessel_ratio(z)).imag();
}

BarFactors bar_factors(double x) {
    if (x < 0.02) return {1 / x + 4 * x * x * x / 45, 1 / x - 7 * x * x * x / 90};
    if (x > 300) return {1, 0};
    const double below = std::cosh(2 * x) - std::cos(2 * x);
    return {(std::sinh(2 * x) + std::sin(2 * x)) / below,
            2 * (std::sinh(x) * std::cos(x) + std::cosh(x) * std::sin(x)) / below};
}

double SlotProfile::at(double d) const {
    if (depth.empty()) return 1;
    const auto next = std::upper_bound(depth.begin(), depth.end(), d);
    if (next == depth.begin()) return width.front();
    if (next == depth.end()) return width.back();
    const auto i = std::size_t(next - depth.begin());
    const double share = (d - depth[i - 1]) / (depth[i] - depth[i - 1]);
    return (1 - share) * width[i - 1] + share * width[i];
}

double SlotProfile::above(double d) const {
    double sum = 0;
    for (std::size_t i = 1; i < depth.size() && depth[i - 1] < d; ++i) {
        const double to = std::min(d, depth[i]), a = width[i - 1], b = at(to), h = to - depth[i - 1];
        // Of a width that goes linearly.
        sum += std::abs(b - a) < 1e-9 * a ? h / a : h * std::log(b / a) / (b - a);
    }
    return sum;
}

double StrandShape::area() const {
    return round ? pi / 4 * height * height : height * width;
}

SlotStrands::SlotStrands(std::vector<PlacedStrand> strands, SlotProfile slot, const StrandShape& shape)
    : m_strands(std::move(strands))
    , m_slot(std::move(slot))
    , m_shape(shape) {
    // From the bottom of the slot to its mouth.
    std::stable_sort(m_strands.begin(), m_strands.end(),
                     [](const PlacedStrand& a, const PlacedStrand& b) { return a.depth > b.depth; });
    m_fields.resize(m_strands.size());
    if (m_shape.round)
        find_round();
    else
        find_bars();
}

void SlotStrands::find_round() {
    // What lies deeper counts in full, what overlaps by the share of its height that is deeper than the middle.
    const double d = m_shape.height;
    std::vector<Complex> sum(m_strands.size() + 1, 0);
    for (std::size_t i = 0; i < m_strands.size(); ++i) sum[i + 1] = sum[i] + m_strands[i].share;
    std::size_t full = 0, reach = 0;
    for (std::size_t i = 0; i < m_strands.size(); ++i) {
        const double here = m_strands[i].depth;
        while (full < m_strands.size() && m_strands[full].depth >= here + d / 2) ++full;
        while (reach < m_strands.size() && m_strands[reach].depth > here - d / 2) ++reach;
        Complex below = sum[full];
        for (std::size_t k = full; k < reach; ++k)
            below += ((m_strands[k].depth - here) / d + 0.5) * m_strands[k].share;
        Field& f = m_fields[i];
        f.width = m_slot.at(here);
        f.low = f.high = below / f.width;
    }
    double crossing = 0, direct = 0;
    for (std::size_t i = 0; i < m_strands.size(); ++i) {
        const double own = std::norm(m_strands[i].share);
        if (own > 0) crossing += std::norm(m_fields[i].low) * m_shape.area();
        direct += own;
    }
    m_crossing = direct > 0 ? crossing / direct : 0;
}

void SlotStrands::find_bars() {
    Complex below = 0;
    for (std::size_t i = 0; i < m_strands.size();) {
        // A row: what lies within half a height.
        std::size_t end = i;
        Complex row = 0;
        while (end < m_strands.size() && m_strands[end].depth > m_strands[i].depth - m_shape.height / 2)
            row += m_strands[end++].share;
        const double width = m_slot.at(m_strands[i].depth);
        const int count = int(end - i);
        for (; i < end; ++i)
            m_fields[i] = {below / width, (below + row) / width, std::min(1.0, count * m_shape.width / width),
                           width, count};
        below += row;
    }
}

std::vector<double> SlotStrands::factors(double frequency) const {
    std::vector<double> out(m_strands.size(), 1);
    if (frequency <= 0 || m_shape.resistivity <= 0) return out;
    const double delta = skin_depth(m_shape.resistivity, frequency), x = m_shape.height / 2 / delta;
    const double skin = m_shape.round ? round_skin_factor(x) : 0,
                 proximity = m_shape.round ? round_proximity_factor(x) : 0;
    for (std::size_t i = 0; i < m_strands.size(); ++i) {
        const double own = std::norm(m_strands[i].share);
        const Field& f = m_fields[i];
        if (own == 0) continue;
        if (m_shape.round) {
            out[i] = skin + proximity * std::norm(f.low) * m_shape.area() / own;
            continue;
        }
        // Copper smeared over the width has rho/filled; a bar has its share of the row's loss.
        const double d = delta / std::sqrt(f.filled);
        const auto [a, b] = bar_factors(m_shape.height / d);
        const double loss =
            m_shape.resistivity / f.filled / d *
            ((std::norm(f.low) + std::norm(f.high)) * a - 2 * (f.low * std::conj(f.high)).real() * b) *
            f.width / f.in_row;
        out[i] = loss / (own * m_shape.resistivity / m_shape.area());
    }
    return out;
}

double SlotStrands::factor(double frequency) const {
    if (m_shape.round && frequency > 0 && m_shape.resistivity > 0 && !m_strands.empty()) {
        const double x = m_shape.height / 2 / skin_depth(m_shape.resistivity, frequency);
        return round_skin_factor(x) + round_proximity_factor(x) * m_crossing;
    }
    const std::vector<double> each = factors(frequency);
    double loss = 0, direct = 0;
    for (std::size_t i = 0; i < m_strands.size(); ++i) {
        const double own = std::norm(m_strands[i].share);
        loss += each[i] * own;
        direct += own;
    }
    return direct > 0 ? loss / direct : 1;
}

SlotStrands::Coupling SlotStrands::coupling(int side) const {
    Coupling c;
    int in_hand = 0;
    std::vector<double> above;
    for (const PlacedStrand& s : m_strands) {
        above.push_back(m_slot.above(s.depth));
        if (s.side != side) continue;
        in_hand = std::max(in_hand, s.strand + 1);
        c.turns = std::max(c.turns, s.turn + 1.0);
        c.share = s.share;
    }
    Eigen::MatrixXd own = Eigen::MatrixXd::Zero(in_hand, in_hand);
    Eigen::VectorXcd others = Eigen::VectorXcd::Zero(in_hand);
    // Leakage flux below a depth links no conductor above it: a pair links what lies above the upper one.
    for (std::size_t i = 0; i < m_strands.size(); ++i) {
        const PlacedStrand& s = m_strands[i];
        if (s.side != side) continue;
        for (std::size_t k = 0; k < m_strands.size(); ++k) {
            const PlacedStrand& t = m_strands[k];
            const double permeance = std::min(above[i], above[k]);
            if (t.side == side)
                own(s.strand, t.strand) += permeance;
            else
                others(s.strand) += permeance * t.share;
        }
    }
    c.own = modes_of(own);
    c.even = c.own.vectors.transpose() * Eigen::VectorXd::Ones(in_hand);
    c.others = c.own.vectors.transpose() * others;
    return c;
}

StrandSharing SlotStrands::sharing(const Coupling& c, double frequency, double length_ratio) const {
    const Eigen::Index in_hand = c.even.size();
    StrandSharing out{std::vector<Complex>(std::size_t(in_hand), 1.0), 1};
    if (in_hand < 2 || frequency <= 0) return out;
    // V = (R + j omega L) i, all of one voltage; what other coil sides add stands on the right. Currents sum to
    // the turn's: i = Z^-1 (v 1 - other), 1.i = I. All resistances being alike, the modes of L are those of Z.
    const Complex reactance(0, 2 * pi * frequency * mu0);
    const double resistance = c.turns * m_shape.resistivity * length_ratio / m_shape.area();
    const Eigen::ArrayXcd z = reactance * c.own.values.array().cast<Complex>() + resistance;
    const Eigen::ArrayXcd a = c.even.array().cast<Complex>() / z, b = reactance * c.others.array() / z;
    const Complex sum_a = (c.even.array() * a).sum(), sum_b = (c.even.array() * b).sum(),
                  v = (c.share * double(in_hand) + sum_b) / sum_a;
    const Eigen::VectorXcd i = c.own.vectors * ((v * a - b) / c.share).matrix();
    out.current.assign(i.begin(), i.end());
    out.loss_factor = i.squaredNorm() / double(in_hand);
    return out;
}

} // namespace mavlo
