#include "figure/weakening.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {
constexpr double good_enough = 5e-4;
} // namespace

Weakening::Weakening(std::vector<MagnetLine> lines, std::size_t elements)
    : m_lines(std::move(lines))
    , m_elements(elements) {}

bool Weakening::update(const std::vector<MagnetElement>& list) {
    auto next = std::make_shared<std::vector<double>>(m_elements, 1.0);
    std::vector<double> now, beyond;
    m_residual = 0;
    for (std::size_t k = 0; k < list.size(); ++k) {
        const double own = m_share ? (*m_share)[list[k].element] : 1;
        const MagnetLine& line = m_lines[list[k].substance];
        // Above zero: H is beyond what leaves this share, in units of the remanence.
        const double mu = line.permeability,
                     past = own - (list[k].lowest + mu * line.field_of(own)) / line.remanence,
                     bend = -mu * line.slope_of(own) / line.remanence;
        double slope = 0.5 + bend; // of `past` with the share, to begin with
        if (!m_before.empty() && std::abs(own - m_before[k]) > 1e-9)
            slope =
                std::clamp((past - m_beyond_before[k]) / (own - m_before[k]), 0.05 + bend / 2, 1.5 + 2 * bend);
        (*next)[list[k].element] = std::clamp(own - past / slope, 0.0, 1.0);
        // Short of the knee is wrong only where something was taken off.
        const double wrong = own <= 0 ? 0 : own < 1 ? std::abs(past) : past;
        m_residual = std::max(m_residual, wrong);
        now.push_back(own);
        beyond.push_back(past);
    }
    if (m_residual < good_enough) return true;
    m_share = std::move(next);
    m_before = std::move(now);
    m_beyond_before = std::move(beyond);
    return false;
}

} // namespace mavlo
