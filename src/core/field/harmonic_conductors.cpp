#include "field/harmonic_conductors.h"

#include "quantity/dense.h"

namespace mavlo {
namespace {

using Complex = std::complex<double>;

} // namespace

HarmonicConductors::HarmonicConductors(const Conductance& conductance, double omega)
    : m_conductance(conductance)
    , m_omega(omega) {
    const Eigen::MatrixXcd nets = conductance.net_matrix(Complex(0, omega));
    if (nets.size() > 0)
        m_inverse = solved(nets, Eigen::MatrixXcd(Eigen::MatrixXcd::Identity(nets.rows(), nets.cols())));
}

Eigen::VectorXcd HarmonicConductors::linked(const PhasorPotential& potential) const {
    return m_conductance.linked(potential.re) + Complex(0, 1) * m_conductance.linked(potential.im);
}

void HarmonicConductors::add_product(const PhasorPotential& x, PhasorPotential& to) const {
    if (m_omega == 0 || m_conductance.empty()) return;
    const Conductance& c = m_conductance;
    PhasorPotential product = PhasorPotential::zero(x.re.size());
    multiply(c.pattern, c.values, x.re, x.im, product.re, product.im);
    if (!c.nets.empty()) {
        const Eigen::VectorXcd u = m_inverse * linked(x);
        for (std::size_t k = 0; k < c.nets.size(); ++k) {
            c.nets[k].add_to(product.re, -u[Eigen::Index(k)].real());
            c.nets[k].add_to(product.im, -u[Eigen::Index(k)].imag());
        }
    }
    to.add(Complex(0, m_omega), product);
}

HarmonicConductors::Flow HarmonicConductors::flow(const PhasorPotential& potential) const {
    const Conductance& c = m_conductance;
    if (c.nets.empty()) return {};
    Flow out{m_inverse * linked(potential) * Complex(0, m_omega), {}};
    if (c.rings.empty()) return out;
    Eigen::VectorXcd of_bars(c.rings.count());
    for (Eigen::Index k = 0; k < of_bars.size(); ++k)
        of_bars[k] = out.u[Eigen::Index(c.rings.bars[std::size_t(k)])];
    out.segments = c.rings.segments(Complex(0, m_omega), of_bars);
    return out;
}

std::vector<double> HarmonicConductors::losses(const FieldModel& model, const PhasorPotential& potential,
                                               const Flow& flow) const {
    PhasorPotential rate = potential;
    rate.scale(Complex(0, m_omega));
    const Eigen::VectorXd real = flow.u.real(), imaginary = flow.u.imag();
    std::vector<double> losses = eddy_losses(model, m_conductance, rate.re, real);
    const std::vector<double> others = eddy_losses(model, m_conductance, rate.im, imaginary);
    for (std::size_t k = 0; k < losses.size(); ++k) losses[k] = (losses[k] + others[k]) / 2;
    return losses;
}

} // namespace mavlo
