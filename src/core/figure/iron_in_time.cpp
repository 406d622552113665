#include "figure/iron_in_time.h"

#include "figure/hysteresis.h"
#include "figure/sheet_skin.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// One component between instants.
struct Component {
    Eigen::ArrayXd change; ///< T, of each step
    Eigen::VectorXd value;
    double reach() const { return value.maxCoeff() - value.minCoeff(); }
};

Component along(const Eigen::ArrayXd& x, const Eigen::ArrayXd& y, double cosine, double sine) {
    Component c;
    c.value = cosine * x + sine * y;
    c.change = c.value.tail(c.value.size() - 1) - c.value.head(c.value.size() - 1);
    return c;
}

double power_law(const IronLossLaw& law, const Component& c, const Eigen::ArrayXd& steps, double period) {
    const double peak = c.reach() / 2;
    if (peak < 1e-9) return 0;
    const Eigen::ArrayXd share = (c.change.abs() / steps / (2 * pi * peak)).pow(law.alpha);
    return law.hysteresis_per_cycle(peak) * (share * steps).sum() / period / mean_cosine_power(law.alpha);
}

} // namespace

IronInTime::IronInTime(const MachineModel& model)
    : m_model(&model)
    , m_loses(model.elements.size(), 0)
    , m_place(std::size_t(model.unknowns()), -1) {
    for (const Substance& s : model.substances) m_laws.push_back(s.core_law());
    for (std::size_t i = 0; i < model.elements.size(); ++i) {
        const auto& e = model.elements[i];
        const Part& part = model.part(e);
        if (part.use != Use::Iron || part.substance < 0 || !m_laws[std::size_t(part.substance)].known())
            continue;
        m_loses[i] = 1;
        for (int unknown : e.unknown) {
            if (unknown < 0 || m_place[std::size_t(unknown)] >= 0) continue;
            m_place[std::size_t(unknown)] = int(m_kept.size());
            m_kept.push_back(std::size_t(unknown));
        }
    }
}

void IronInTime::add(double dt, const FieldSolution& field) {
    if (m_begun) m_steps.push_back(dt);
    m_begun = true;
    for (std::size_t unknown : m_kept) m_potential.push_back(float(field.potential[unknown]));
}

/// What the element saw over a stretch; the last sample of a stretch is the first of the next.
void IronInTime::put(PointLoci& to, std::size_t element, const Unfolding::Source& source, int stretch) const {
    const auto samples = Eigen::Index(m_steps.size()) + 1, stride = Eigen::Index(m_kept.size());
    const auto& e = m_model->elements[element];
    Eigen::MatrixXd potential = Eigen::MatrixXd::Zero(samples, 6);
    for (Eigen::Index k = 0; k < 6; ++k) {
        const int unknown = e.unknown[std::size_t(k)];
        if (unknown < 0) continue;
        const float* first = m_potential.data() + m_place[std::size_t(unknown)];
        potential.col(k) = e.sign[std::size_t(k)] * Eigen::Map<const Eigen::VectorXf, 0, Eigen::InnerStride<>>(
                                                        first, samples, Eigen::InnerStride<>(stride))
                                                        .cast<double>();
    }
    const double stacking = m_model->substance(m_model->part(e))->stacking, c = source.cosine / stacking,
                 d = source.sine / stacking;
    const Eigen::Index at = stretch * (samples - 1);
    for (Eigen::Index q = 0; q < e.count; ++q) {
        const auto& point = m_model->points[std::size_t(e.first) + std::size_t(q)];
        const Eigen::Map<const Eigen::Matrix<double, 6, 1>> gx(point.gx.data()), gy(point.gy.data());
        // B = rot (A e_z), turned to where the element stands.
        to.x.col(q).segment(at, samples) = (potential * (c * gy + d * gx)).array();
        to.y.col(q).segment(at, samples) = (potential * (d * gy - c * gx)).array();
    }
}

/// What the sheet's skin effect leaves of the classical loss, by the mean over the element.
double IronInTime::share_left(const IronLossLaw& law, const Eigen::ArrayXd& steps, const PointLoci& loci) {
    if (law.corners.empty()) return 1;
    const Eigen::ArrayXd x = loci.x.rowwise().mean(), y = loci.y.rowwise().mean();
    return share_of_locus(steps, x, y, law.corner(std::sqrt((x.square() + y.square()).maxCoeff())));
}

/// W/kg of the sheet, `left` of its classical loss.
double IronInTime::density(const IronLossLaw& law, double left, const Eigen::ArrayXd& steps,
                           const Eigen::ArrayXd& x, const Eigen::ArrayXd& y) {
    const Eigen::Index n = steps.size();
    const double period = steps.sum();
    // Means by the trapezoidal rule.
    Eigen::ArrayXd weight = Eigen::ArrayXd::Zero(n + 1);
    weight.head(n) += steps / (2 * period);
    weight.tail(n) += steps / (2 * period);
    const Eigen::ArrayXd cx = x - (weight * x).sum(), cy = y - (weight * y).sum();
    const double angle =
        principal_angle((weight * cx * cx).sum(), (weight * cy * cy).sum(), (weight * cx * cy).sum());
    const double c = std::cos(angle), s = std::sin(angle);
    const Component longer = along(x, y, c, s), shorter = along(x, y, -s, c);
    if (law.law == LossLaw::Power)
        return power_law(law, longer, steps, period) + power_law(law, shorter, steps, period);
    const Eigen::ArrayXd rate = (longer.change.square() + shorter.change.square()).sqrt() / steps;
    return left * law.classical / (2 * pi * pi) * (rate.square() * steps).sum() / period +
           law.excess / excess_divisor * (rate * rate.sqrt() * steps).sum() / period +
           (component_hysteresis(law, longer.value) + component_hysteresis(law, shorter.value)) / period;
}

double IronInTime::side_loss(const Unfolding& side) const {
    const int stretches = side.stretches();
    const Eigen::ArrayXd steps =
        Eigen::Map<const Eigen::ArrayXd>(m_steps.data(), Eigen::Index(m_steps.size())).replicate(stretches, 1);
    double sum = 0;
    const std::vector<int> twin = side.twins();
    for (std::size_t e = 0; e < side.elements.size(); ++e) {
        const std::size_t element = side.elements[e];
        const int pitch = int(e / side.each()), first = twin[std::size_t(pitch)];
        if (!m_loses[element] || first < pitch) continue;
        const auto alike = double(std::count(twin.begin(), twin.end(), pitch));
        const auto& data = m_model->elements[element];
        PointLoci loci{Eigen::ArrayXXd(steps.size() + 1, data.count),
                       Eigen::ArrayXXd(steps.size() + 1, data.count)};
        for (int k = 0; k < stretches; ++k) {
            const Unfolding::Source source = side.source(pitch, k);
            put(loci, side.in_pitch(source.pitch, e), source, k);
        }
        const Substance& steel = *m_model->substance(m_model->part(data));
        const IronLossLaw& law = m_laws[std::size_t(m_model->part(data).substance)];
        const double left = share_left(law, steps, loci);
        for (int q = 0; q < data.count; ++q)
            sum += alike * steel.building * m_model->points[std::size_t(data.first) + std::size_t(q)].weight *
                   steel.stacking * steel.material.density *
                   density(law, left, steps, loci.x.col(q), loci.y.col(q));
    }
    return m_model->depth * m_model->sector.count * sum;
}

IronInTime::Losses IronInTime::losses(const std::optional<PeriodPart>& part) const {
    if (m_steps.empty()) return {};
    return {side_loss(stator_unfolding(*m_model, part)), side_loss(rotor_unfolding(*m_model, part))};
}

} // namespace mavlo
