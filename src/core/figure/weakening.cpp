#include "figure/weakening.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {
constexpr double good_enough = 5e-4;
} // namespace

Weakening::Weakening(double remanence, double knee, double permeability, std::size_t elements)
    : m_remanence(remanence)
    , m_mu(permeability)
    , m_h_knee((remanence - knee) / permeability)
    , m_elements(elements) {}

bool Weakening::update(const std::vector<MagnetElement>& list) {
    auto next = std::make_shared<std::vector<double>>(m_elements, 1.0);
    std::vector<double> now, beyond;
    m_residual = 0;
    for (std::size_t k = 0; k < list.size(); ++k) {
        const double own = m_share ? (*m_share)[list[k].element] : 1;
        // Above zero: H is beyond the knee, in units of the remanence.
        const double past = (own * m_remanence - list[k].lowest - m_mu * m_h_knee) / m_remanence;
        double slope = 0.5; // of `past` with the share, to begin with
        if (!m_before.empty() && std::abs(own - m_before[k]) > 1e-9)
            slope = std::clamp((past - m_beyond_before[k]) / (own - m_before[k]), 0.05, 1.5);
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
