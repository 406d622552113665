#include "figure/strands_in_time.h"

#include "figure/loci.h"
#include "quantity/constants.h"
#include "quantity/straight_wave.h"

#include <cmath>

namespace mavlo {

StrandsInTime::StrandsInTime(const MachineModel& model, double omega)
    : m_model(&model)
    , m_omega(omega)
    , m_weights(strand_weights(model)) {
    const Unfolding side = stator_unfolding(model, {});
    for (std::size_t i : side.elements)
        if (m_weights && model.part(model.elements[i]).use == Use::Conductor) m_elements.push_back(i);
    m_waves = Eigen::MatrixXcd::Zero(2 * Eigen::Index(m_elements.size()), orders);
}

Eigen::VectorXd StrandsInTime::flux_densities(const FieldSolution& field) const {
    const auto n = Eigen::Index(m_elements.size());
    Eigen::VectorXd out(2 * n);
    for (Eigen::Index k = 0; k < n; ++k) {
        const auto& e = m_model->elements[m_elements[std::size_t(k)]];
        const Point b = element_mean(*m_model, e, local_values(e, field.potential)),
                    radius = outwards(*m_model, e);
        out[k] = dot(b, radius);
        out[n + k] = cross(radius, b);
    }
    return out;
}

void StrandsInTime::add(double dt, const FieldSolution& field) {
    if (m_elements.empty()) return;
    Eigen::VectorXd here = flux_densities(field);
    if (m_begun && dt > 0) {
        const double from = m_omega * m_time, to = from + m_omega * dt;
        for (int n = 1; n <= orders; ++n) {
            const auto [first, last] = straight_wave(n * from, n * to, dt);
            m_waves.col(n - 1) += first * m_before + last * here;
        }
        m_time += dt;
    }
    m_before = std::move(here);
    m_begun = true;
}

/// Of a pitch over the whole period, each wave times its order: the radial ones above the tangential ones.
Eigen::MatrixXcd StrandsInTime::waves_of(int pitch, const Unfolding& side) const {
    const Eigen::Index all = m_waves.rows() / 2, each = all / side.pitches;
    const int stretches = side.stretches();
    Eigen::MatrixXcd waves = Eigen::MatrixXcd::Zero(2 * each, orders);
    for (int k = 0; k < stretches; ++k) {
        const Unfolding::Source source = side.source(pitch, k);
        Eigen::VectorXcd turn(orders);
        for (int n = 1; n <= orders; ++n)
            turn[n - 1] = source.sign * n * std::polar(2 / (m_time * stretches), -n * m_omega * m_time * k);
        const Eigen::Index from = source.pitch * each;
        waves.topRows(each) += m_waves.middleRows(from, each) * turn.asDiagonal();
        waves.bottomRows(each) += m_waves.middleRows(all + from, each) * turn.asDiagonal();
    }
    return waves;
}

std::optional<double> StrandsInTime::at_1hz(const std::optional<PeriodPart>& part) const {
    if (!m_weights) return std::nullopt;
    if (m_elements.empty() || m_time <= 0) return 0;
    const Unfolding side = stator_unfolding(*m_model, part);
    double sum = 0;
    for (int p = 0; p < side.pitches; ++p) {
        const Eigen::MatrixXcd waves = waves_of(p, side);
        const Eigen::Index each = waves.rows() / 2;
        for (Eigen::Index k = 0; k < each; ++k)
            sum += m_model->area(m_model->elements[m_elements[std::size_t(p * each + k)]]) *
                   (m_weights->radial * waves.row(k).squaredNorm() +
                    m_weights->tangential * waves.row(each + k).squaredNorm());
    }
    return m_model->depth * m_model->sector.count * 2 * pi * pi * sum; // (2 pi n)^2/2 of each
}

} // namespace mavlo
