#include "field/corrections.h"

#include <cmath>

namespace mavlo {
namespace {

void add(std::vector<double>& to, double factor, const std::vector<double>& from) {
    for (std::size_t i = 0; i < to.size(); ++i) to[i] += factor * from[i];
}

} // namespace

double inner(const std::vector<double>& a, const std::vector<double>& b) {
    double sum[4] = {}; // four chains of additions side by side
    const std::size_t whole = a.size() / 4 * 4;
    for (std::size_t i = 0; i < whole; i += 4)
        for (std::size_t k = 0; k < 4; ++k) sum[k] += a[i + k] * b[i + k];
    for (std::size_t i = whole; i < a.size(); ++i) sum[0] += a[i] * b[i];
    return sum[0] + sum[1] + sum[2] + sum[3];
}

void Corrections::learn(std::vector<double> step, std::vector<double> drop) {
    const double curvature = inner(step, drop);
    if (!(curvature > 0)) return;
    if (m_pairs.size() == most) m_pairs.pop_front();
    m_pairs.push_back({std::move(step), std::move(drop), curvature});
}

void Corrections::before(std::vector<double>& residual) {
    for (auto pair = m_pairs.rbegin(); pair != m_pairs.rend(); ++pair) {
        pair->weight = inner(pair->step, residual) / pair->curvature;
        add(residual, -pair->weight, pair->drop);
    }
}

void Corrections::after(std::vector<double>& direction) const {
    for (const Pair& pair : m_pairs)
        add(direction, pair.weight - inner(pair.drop, direction) / pair.curvature, pair.step);
}

} // namespace mavlo
