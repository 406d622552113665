#include "field/harmonic_solver.h"

#include "field/corrections.h"
#include "field/minimal_residual.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

constexpr int most_newton_steps = 60, most_products = 80, most_halvings = 12;
/// Preconditioned residual that may be left, of the potential.
constexpr double tolerance = 1e-6, tolerance_draft = 3e-5;
/// Residual that rounding may leave where permeabilities lie far apart.
constexpr double rounding = 1e-4;
/// Products of one step from which a fresh factor is worth its price.
constexpr int worth_a_factor = 12;

Problem singular() {
    return {"field",
            "The equations of the alternating field are singular; check that no material has a permeability of "
            "zero and that the section is closed."};
}

} // namespace

double HarmonicFeed::omega() const {
    return 2 * pi * frequency;
}

double PhasorPotential::squared() const {
    return inner(re, re) + inner(im, im);
}

Complex GapWave::coefficient(const PhasorPotential& a, int sectors) const {
    Complex sum = 0;
    for (std::size_t i = 0; i < unknowns.size(); ++i) {
        const auto unknown = std::size_t(unknowns[i]);
        sum += std::conj(trace[Eigen::Index(i)]) * Complex(a.re[unknown], a.im[unknown]);
    }
    return sum * double(sectors) / (2 * pi * radius);
}

HarmonicSolver::HarmonicSolver(std::shared_ptr<const FieldModel> model,
                               std::shared_ptr<const Conductance> conductance, double angle)
    : m_model(std::move(model))
    , m_conductance(std::move(conductance))
    , m_angle(angle)
    , m_base(m_model->linear_values)
    , m_steel(*m_model)
    , m_factor(m_model->analysed->copy(m_steel.empty() ? Precision::Double : Precision::Single)) {
    for (std::size_t k = 0; k < m_model->gaps.size(); ++k) {
        const Eigen::MatrixXd coupling = m_model->gap(k).coupling(m_model->turns(angle).relative());
        const double* value = coupling.data();
        for (int entry : m_model->coupling_entry[k]) m_base[std::size_t(entry)] = *value++;
    }
}

void HarmonicSolver::set_rotor_omega(double omega) {
    m_turns_back = omega < 0;
    if (!m_conductors || m_conductors->omega() != omega) m_conductors.emplace(*m_conductance, omega);
}

void HarmonicSolver::set_feed(const HarmonicFeed& feed) {
    m_feed = feed;
    set_rotor_omega(feed.omega() * feed.slip);
    m_load = PhasorPotential::zero(std::size_t(m_model->unknowns()));
    for (std::size_t port = 0; port < feed.wave.size(); ++port) {
        const auto& load = m_model->port_load[port];
        for (std::size_t i = 0; i < load.size(); ++i) {
            m_load.re[i] += feed.wave[port].real() * load[i];
            m_load.im[i] += feed.wave[port].imag() * load[i];
        }
    }
}

Complex HarmonicSolver::linkage(const PhasorPotential& a) const {
    double ports = 0;
    for (const Complex& share : m_feed.wave) ports += std::norm(share);
    const double whole = m_model->depth * m_model->sector.count / ports;
    return whole * Complex(inner(m_load.re, a.re) + inner(m_load.im, a.im),
                           inner(m_load.re, a.im) - inner(m_load.im, a.re));
}

/// What the equations have left; takes the steel's field and stiffness there.
HarmonicSolver::State HarmonicSolver::residual(const State& at) {
    State r{PhasorPotential::zero(m_load.re.size()), 0};
    multiply(*m_model->pattern, m_base, at.potential.re, at.potential.im, r.potential.re, r.potential.im);
    m_steel.set(at.potential);
    m_steel.add_forces(r.potential);
    m_conductors->add_product(at.potential, r.potential);
    add_waves(at.potential, r.potential);
    r.potential.scale(-1);
    r.potential.add(at.current, m_load);
    if (m_feed.voltage)
        r.current = *m_feed.voltage - m_feed.impedance * at.current -
                    Complex(0, m_feed.omega()) * linkage(at.potential);
    return r;
}

/// What the sheets of waves answer: a rank of one each.
void HarmonicSolver::add_waves(const PhasorPotential& x, PhasorPotential& to) const {
    for (const GapWave& wave : m_feed.waves) {
        const Complex sheet = wave.admittance * wave.coefficient(x, m_model->sector.count);
        for (std::size_t i = 0; i < wave.unknowns.size(); ++i) {
            const Complex value = sheet * wave.trace[Eigen::Index(i)];
            to.re[std::size_t(wave.unknowns[i])] += value.real();
            to.im[std::size_t(wave.unknowns[i])] += value.imag();
        }
    }
}

/// K x + j omega M' x
PhasorPotential HarmonicSolver::linear_product(const PhasorPotential& x) const {
    PhasorPotential out = PhasorPotential::zero(x.re.size());
    multiply(*m_model->pattern, m_stiffness, x.re, x.im, out.re, out.im);
    m_conductors->add_product(x, out);
    add_waves(x, out);
    return out;
}

/// The derivative of the equations, times a change.
HarmonicSolver::State HarmonicSolver::slope_product(const State& change) const {
    State out{linear_product(change.potential), 0};
    m_steel.add_conjugate_product(change.potential, out.potential);
    if (!m_feed.voltage) return out;
    out.potential.add(-change.current, m_load);
    out.current = m_feed.impedance * change.current + Complex(0, m_feed.omega()) * linkage(change.potential);
    return out;
}

/// With the steel's D where its field was taken last.
void HarmonicSolver::take_stiffness() {
    m_stiffness = m_base;
    m_steel.add_stiffness(m_stiffness);
}

void HarmonicSolver::solve_real(std::vector<double>& values) const {
    m_factor->solve(values);
    m_nets.correct(values);
}

/// With H = K + T, T = |omega| M':  (K + jT)^-1 about as  u = H^-1 (f + g), y = H^-1 (g - T u), x = u - y  for
/// the right sides f + jg; where the field turns backward the conjugates.
HarmonicSolver::State HarmonicSolver::preconditioned(const State& r) const {
    const double sign = m_turns_back ? -1 : 1;
    State out{r.potential, 0};
    std::vector<double>&x = out.potential.re, &y = out.potential.im;
    for (std::size_t i = 0; i < x.size(); ++i) x[i] += sign * y[i];
    solve_real(x);
    if (m_stage) {
        const std::vector<double> product = m_stage->times(x);
        for (std::size_t i = 0; i < x.size(); ++i) y[i] -= sign * m_factored_omega * product[i];
    }
    solve_real(y);
    for (std::size_t i = 0; i < x.size(); ++i) x[i] -= sign * y[i];
    if (!m_feed.voltage) return out;
    const Complex j_omega(0, m_feed.omega());
    out.current =
        (r.current - j_omega * linkage(out.potential)) / (m_feed.impedance + j_omega * linkage(m_response));
    out.potential.add(out.current, m_response);
    return out;
}

bool HarmonicSolver::factorise(HarmonicField& out) {
    m_factored_omega = std::abs(m_conductors->omega());
    std::vector<double> values = m_stiffness;
    m_nets.clear();
    m_stage.reset();
    const bool conducts = m_factored_omega > 0 && !m_conductance->empty();
    if (conducts)
        for (std::size_t k = 0; k < m_conductance->entry.size(); ++k)
            values[std::size_t(m_conductance->entry[k])] += m_factored_omega * m_conductance->values[k];
    ++out.factorisations;
    if (!m_factor->factorise(values)) {
        m_factor = m_model->analysed->copy(Precision::Double);
        if (!m_factor->factorise(values)) return false;
    }
    m_last_products = 0;
    if (!conducts) return true;
    m_stage.emplace(*m_conductance, m_factored_omega);
    m_nets.prepare(*m_conductance, m_factored_omega, m_load.re.size(), *m_factor);
    return true;
}

double HarmonicSolver::size(const State& s) const {
    return std::sqrt(s.potential.squared() + std::norm(m_current_weight * s.current));
}

std::vector<double> HarmonicSolver::packed(const State& s) const {
    std::vector<double> values = s.potential.re;
    values.insert(values.end(), s.potential.im.begin(), s.potential.im.end());
    values.push_back(m_current_weight * s.current.real());
    values.push_back(m_current_weight * s.current.imag());
    return values;
}

HarmonicSolver::State HarmonicSolver::unpacked(const std::vector<double>& v) const {
    const auto n = std::ptrdiff_t(m_load.re.size());
    return {{{v.begin(), v.begin() + n}, {v.begin() + n, v.begin() + 2 * n}},
            Complex(v[std::size_t(2 * n)], v[std::size_t(2 * n + 1)]) / m_current_weight};
}

/// The step whose preconditioned residual is the wanted one.
HarmonicSolver::State HarmonicSolver::direction(const State& wanted, double enough, HarmonicField& out) {
    const auto found = minimal_residual(
        [this](const std::vector<double>& x) { return packed(preconditioned(slope_product(unpacked(x)))); },
        packed(wanted), enough, most_products);
    m_last_products = found.steps;
    out.products += found.steps;
    return unpacked(found.x);
}

/// Where Newton's steps begin: the other field, or what the steel would do while it is not saturated.
HarmonicSolver::State HarmonicSolver::begin(const HarmonicField* start, HarmonicField& out) {
    const Complex given = m_feed.voltage ? Complex(0) : m_feed.current;
    if (start) {
        State s{start->potential, m_feed.voltage ? start->current : given};
        if (!m_feed.voltage && start->current != 0.0) s.potential.scale(given / start->current);
        return s;
    }
    const HarmonicFeed feed = m_feed;
    m_feed.voltage.reset();
    State unit{PhasorPotential::zero(m_load.re.size()), 1};
    const State wanted = residual(unit);
    take_stiffness();
    if (!factorise(out)) return unit;
    unit.potential = direction(preconditioned(wanted), 1e-3, out).potential;
    m_feed = feed;
    const Complex j_omega(0, feed.omega());
    const Complex current =
        feed.voltage ? *feed.voltage / (feed.impedance + j_omega * linkage(unit.potential)) : given;
    unit.potential.scale(current);
    return {std::move(unit.potential), current};
}

void HarmonicSolver::finish(const State& at, HarmonicField& out) const {
    const FieldModel& m = *m_model;
    const GapElement& gap = m.gap();
    const auto torque = [&](const std::vector<double>& potential) {
        return (m.rotor == 0 ? 1 : -1) * m.depth *
               gap.torque(gap.traces(gather(gap.outer_unknowns(), potential),
                                     gather(gap.inner_unknowns(), potential), m.turns(m_angle)));
    };
    out.torque = (torque(at.potential.re) + torque(at.potential.im)) / 2;
    out.current = at.current;
    out.linkage = linkage(at.potential);
    const auto flow = m_conductors->flow(at.potential);
    out.eddy_loss = m_conductors->losses(m, at.potential, flow);
    for (double& loss : out.eddy_loss) loss *= m.depth * m.sector.count;
    if (const EndRings& rings = m_conductance->rings; !rings.empty()) {
        const Eigen::VectorXd re = flow.segments.real(), im = flow.segments.imag();
        out.bar_current = rings.bar_currents(re) + Complex(0, 1) * rings.bar_currents(im);
        out.ring_loss = m.sector.count * (rings.loss(re) + rings.loss(im)) / 2;
        out.segments = flow.segments;
    }
    out.potential = at.potential;
}

Result<PhasorPotential> HarmonicSolver::small_answer(const HarmonicField& field, const PhasorPotential& load,
                                                     double omega) {
    constexpr double enough = 1e-4; // of a small share of the whole
    HarmonicField effort;
    m_feed.voltage.reset();
    m_feed.waves.clear();
    m_load = PhasorPotential::zero(load.re.size());
    set_rotor_omega(omega);
    m_steel.set(field.potential);
    take_stiffness();
    if (m_factored_omega != std::abs(omega) && !factorise(effort)) return singular();
    const auto product = [this](const std::vector<double>& x) {
        return packed(preconditioned({linear_product(unpacked(x).potential), 0}));
    };
    const auto found = minimal_residual(product, packed(preconditioned({load, 0})), enough, most_products);
    return unpacked(found.x).potential;
}

Result<HarmonicField> HarmonicSolver::solve(const HarmonicFeed& feed, const HarmonicField* start) {
    HarmonicField out;
    set_feed(feed);
    State at = begin(start, out);
    const double enough = m_model->quality == Quality::Draft ? tolerance_draft : tolerance;
    double before = 0, exact = 0.1;
    State left = residual(at);
    while (out.newton_steps < most_newton_steps) {
        take_stiffness();
        if ((m_factored_omega < 0 || m_last_products > worth_a_factor) && !factorise(out)) return singular();
        if (at.current != 0.0) {
            m_response = at.potential;
            m_response.scale(1.0 / at.current);
            m_current_weight = std::max(std::sqrt(m_response.squared()), 1e-300);
        }
        const State wanted = preconditioned(left);
        const double residual_size = size(wanted), scale = size(at);
        if (residual_size <= enough * scale || scale == 0) {
            finish(at, out);
            return out;
        }
        if (before > 0) exact = std::clamp(std::pow(residual_size / before, 2), 1e-3, 0.1);
        if (m_steel.empty()) exact = 0;
        before = residual_size;
        const State step = direction(wanted, std::max(exact, 0.3 * enough * scale / residual_size), out);
        ++out.newton_steps;
        double length = 1;
        State next = at;
        for (int halved = 0;; ++halved, length /= 2) {
            if (halved == most_halvings && residual_size <= rounding * scale) {
                finish(at, out);
                return out;
            }
            if (halved == most_halvings)
                return Problem{"field",
                               fmt::format("The alternating field did not settle at a slip of {:.4g}; look at "
                                           "the steels' BH curves for jumps, and at the size of the voltage "
                                           "or current.",
                                           feed.slip)};
            next = at;
            next.potential.add(length, step.potential);
            next.current += length * step.current;
            left = residual(next);
            if (size(preconditioned(left)) <= (1 - 0.1 * length) * residual_size) break;
        }
        at = std::move(next);
    }
    return Problem{"field", fmt::format("The alternating field did not settle in {} steps at a slip of {:.4g}.",
                                        most_newton_steps, feed.slip)};
}

} // namespace mavlo
