#include "figure/iron_in_time.h"

#include "figure/hysteresis.h"
#include "figure/loci.h"

#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;

/// One component between instants.
struct Component {
    Eigen::ArrayXd change; ///< T, of each step
    Eigen::VectorXd value;
    double reach() const { return value.maxCoeff() - value.minCoeff(); }
};

Component along(const Eigen::VectorXd& x, const Eigen::VectorXd& y, double cosine, double sine) {
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
    , m_place(model.elements.size(), -1) {
    for (std::size_t i = 0; i < model.elements.size(); ++i) {
        const Part& part = model.part(model.elements[i]);
        const Substance* steel = part.use == Use::Iron ? model.substance(part) : nullptr;
        if (!steel || !steel->material.loss.known()) continue;
        m_place[i] = int(m_elements.size());
        m_elements.push_back(i);
    }
}

void IronInTime::add(double dt, const FieldSolution& field) {
    if (m_begun) m_steps.push_back(dt);
    m_begun = true;
    for (std::size_t i : m_elements) {
        const auto& e = m_model->elements[i];
        const double stacking = m_model->substance(m_model->part(e))->stacking;
        const ElementMean b = element_mean(*m_model, e, field.potential);
        m_bx.push_back(float(b.bx / stacking));
        m_by.push_back(float(b.by / stacking));
    }
}

/// What the element saw over a stretch; the last sample of a stretch is the first of the next.
void IronInTime::append(Locus& to, std::size_t element, const Unfolding::Source& source, int stretch) const {
    const auto samples = Eigen::Index(m_steps.size()) + 1, stride = Eigen::Index(m_elements.size());
    const auto series = [&](const std::vector<float>& of) -> Eigen::VectorXd {
        return Eigen::Map<const Eigen::VectorXf, 0, Eigen::InnerStride<>>(of.data() + m_place[element], samples,
                                                                          Eigen::InnerStride<>(stride))
            .cast<double>();
    };
    const Eigen::VectorXd x = series(m_bx), y = series(m_by);
    const Eigen::Index at = stretch * (samples - 1);
    to.x.segment(at, samples) = source.cosine * x - source.sine * y;
    to.y.segment(at, samples) = source.sine * x + source.cosine * y;
    to.steps.segment(at, samples - 1) = Eigen::Map<const Eigen::ArrayXd>(m_steps.data(), samples - 1);
}

/// W/kg of the sheet.
double IronInTime::density(const IronLossLaw& law, const Locus& locus) {
    const Eigen::ArrayXd &steps = locus.steps, x = locus.x.array(), y = locus.y.array();
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
    const Component longer = along(locus.x, locus.y, c, s), shorter = along(locus.x, locus.y, -s, c);
    if (law.law == LossLaw::Power)
        return power_law(law, longer, steps, period) + power_law(law, shorter, steps, period);
    const Eigen::ArrayXd rate = (longer.change.square() + shorter.change.square()).sqrt() / steps;
    return law.classical / (2 * pi * pi) * (rate.square() * steps).sum() / period +
           law.excess / excess_divisor * (rate * rate.sqrt() * steps).sum() / period +
           (component_hysteresis(law, longer.value) + component_hysteresis(law, shorter.value)) / period;
}

double IronInTime::side_loss(const Unfolding& side) const {
    const int stretches = side.stretches();
    const auto steps = Eigen::Index(m_steps.size()) * stretches;
    Locus locus{Eigen::VectorXd(steps + 1), Eigen::VectorXd(steps + 1), Eigen::ArrayXd(steps)};
    double sum = 0;
    for (std::size_t e = 0; e < side.elements; ++e) {
        const std::size_t element = side.first + e;
        if (m_place[element] < 0) continue;
        const int pitch = int(e / side.each());
        for (int k = 0; k < stretches; ++k) {
            const Unfolding::Source source = side.source(pitch, k);
            append(locus, side.first + std::size_t(source.pitch) * side.each() + e % side.each(), source, k);
        }
        const auto& data = m_model->elements[element];
        const Substance& steel = *m_model->substance(m_model->part(data));
        sum += steel.building * m_model->area(data) * steel.stacking * steel.material.density *
               density(steel.material.loss, locus);
    }
    return m_model->depth * m_model->sector.count * sum;
}

IronInTime::Losses IronInTime::losses(const std::optional<PeriodPart>& part) const {
    if (m_steps.empty()) return {};
    return {side_loss(stator_unfolding(*m_model, part)), side_loss(rotor_unfolding(*m_model, part))};
}

} // namespace mavlo
