#include "field/solver.h"

#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace mavlo {
namespace {

constexpr int most_steps = 60;
/// Squared decrement over the sources' work from which one more step ends it; a draft is content with less.
constexpr double finished = 1e-10, finished_draft = 1e-7;

double inner(const std::vector<double>& a, const std::vector<double>& b) {
    double sum = 0;
    for (std::size_t i = 0; i < a.size(); ++i) sum += a[i] * b[i];
    return sum;
}

struct Gradient {
    double x, y;
};

/// Potentials of the element's six nodes.
std::array<double, 6> local_values(const FieldModel::ElementData& e, const std::vector<double>& potential) {
    std::array<double, 6> a{};
    for (std::size_t k = 0; k < 6; ++k)
        if (e.unknown[k] >= 0) a[k] = e.sign[k] * potential[std::size_t(e.unknown[k])];
    return a;
}

Gradient gradient_at(const FieldModel::Point6& p, const std::array<double, 6>& a) {
    Gradient g{0, 0};
    for (std::size_t k = 0; k < 6; ++k) {
        g.x += p.gx[k] * a[k];
        g.y += p.gy[k] * a[k];
    }
    return g;
}

Eigen::VectorXd gather(const std::vector<int>& unknowns, const std::vector<double>& potential) {
    Eigen::VectorXd values{Eigen::Index(unknowns.size())};
    for (std::size_t i = 0; i < unknowns.size(); ++i)
        values[Eigen::Index(i)] = potential[std::size_t(unknowns[i])];
    return values;
}

} // namespace

FieldSolver::FieldSolver(std::shared_ptr<const FieldModel> model)
    : m_model(std::move(model))
    , m_factor(m_model->analysed->copy())
    , m_angle(std::numeric_limits<double>::quiet_NaN()) {
    const auto n = std::size_t(m_model->unknowns());
    m_sources.resize(n);
    m_residual.resize(n);
    m_direction.resize(n);
    m_product.resize(n);
    m_trial.resize(n);
}

void FieldSolver::set_angle(double angle) {
    if (angle == m_angle) return;
    m_angle = angle;
    m_base = m_model->linear_values;
    const Eigen::MatrixXd coupling = m_model->gap->coupling(angle);
    const double* value = coupling.data(); // column by column, as coupling_entry
    for (int entry : m_model->coupling_entry) m_base[std::size_t(entry)] += *value++;
}

void FieldSolver::set_sources(const PhaseValues& current) {
    m_sources = m_model->magnet_load;
    for (std::size_t phase = 0; phase < 3; ++phase) {
        if (current[phase] == 0) continue;
        const auto& load = m_model->phase_load[phase];
        for (std::size_t i = 0; i < load.size(); ++i) m_sources[i] += current[phase] * load[i];
    }
}

/// Residual = sources - internal forces, and on demand the tangent matrix; returns the functional, which costs
/// nothing more.
double FieldSolver::assemble(const std::vector<double>& potential, bool with_matrix) {
    const FieldModel& m = *m_model;
    multiply(*m.pattern, m_base, potential, m_product);
    double functional = inner(potential, m_product) / 2 - inner(m_sources, potential);
    for (std::size_t i = 0; i < m_residual.size(); ++i) m_residual[i] = m_sources[i] - m_product[i];
    if (with_matrix) m_values = m_base;
    for (int index : m.nonlinear) {
        const auto& e = m.elements[std::size_t(index)];
        const BhCurve& curve = m.steel[std::size_t(index) < m.stator_elements ? 0 : 1];
        const auto a = local_values(e, potential);
        std::array<double, 6> force{};
        std::array<double, 21> stiffness{};
        for (int q = e.first; q < e.first + e.count; ++q) {
            const auto& p = m.points[std::size_t(q)];
            const Gradient g = gradient_at(p, a);
            const double b = std::sqrt(g.x * g.x + g.y * g.y);
            const auto value = curve.at(b);
            functional += p.weight * value.energy;
            const double nu = p.weight * (b > 1e-12 ? value.h / b : value.dh_db);
            const double extra = b > 1e-12 ? (p.weight * value.dh_db - nu) / (b * b) : 0;
            std::array<double, 6> along{};
            for (std::size_t k = 0; k < 6; ++k) along[k] = p.gx[k] * g.x + p.gy[k] * g.y;
            for (std::size_t k = 0; k < 6; ++k) force[k] += nu * along[k];
            if (!with_matrix) continue;
            std::size_t k = 0;
            for (std::size_t i = 0; i < 6; ++i)
                for (std::size_t j = 0; j <= i; ++j, ++k)
                    stiffness[k] += nu * (p.gx[i] * p.gx[j] + p.gy[i] * p.gy[j]) + extra * along[i] * along[j];
        }
        for (std::size_t k = 0; k < 6; ++k)
            if (e.unknown[k] >= 0) m_residual[std::size_t(e.unknown[k])] -= e.sign[k] * force[k];
        if (!with_matrix) continue;
        for (std::size_t k = 0; k < 21; ++k)
            if (e.entry[k] >= 0) m_values[std::size_t(e.entry[k])] += e.entry_sign[k] * stiffness[k];
    }
    return functional;
}

/// Goes along the direction as far as the functional falls by a tenth of what its slope says; leaves the
/// residual (and the matrix, on demand) of the new point behind.
bool FieldSolver::step(FieldSolution& s, double decrement, bool with_matrix) {
    const double noise = 1e-12 * std::abs(inner(m_sources, s.potential));
    for (double length = 1; length > 1e-6; length /= 2) {
        for (std::size_t i = 0; i < s.potential.size(); ++i)
            m_trial[i] = s.potential[i] + length * m_direction[i];
        const double functional = assemble(m_trial, with_matrix);
        if (functional <= s.functional - 0.1 * length * decrement + noise) {
            s.potential = m_trial;
            s.functional = functional;
            return true;
        }
    }
    return false;
}

void FieldSolver::finish(FieldSolution& s) {
    const Machine& machine = m_model->machine;
    const GapElement& gap = *m_model->gap;
    const auto traces = gap.traces(gather(gap.stator_unknowns(), s.potential),
                                   gather(gap.rotor_unknowns(), s.potential), s.angle);
    s.torque = machine.stack_length * gap.torque(traces);
    for (std::size_t phase = 0; phase < 3; ++phase)
        s.flux_linkage[phase] =
            machine.stack_length * machine.sector.count * inner(m_model->phase_load[phase], s.potential);
}

Result<FieldSolution> FieldSolver::solve(double angle, const PhaseValues& current, const FieldSolution* start) {
    FieldSolution s;
    s.angle = angle;
    s.current = current;
    s.potential = start ? start->potential : std::vector<double>(std::size_t(m_model->unknowns()), 0.0);
    set_angle(angle);
    set_sources(current);
    const bool linear = m_model->nonlinear.empty();
    const double enough = m_model->quality == Quality::Draft ? finished_draft : finished;
    s.functional = assemble(s.potential, true);
    while (s.newton_steps < most_steps) {
        const bool factored = linear && s.newton_steps > 0; // the factor of a linear field stays good
        if (!factored && !m_factor->factorise(m_values))
            return Problem{"field", "The field's equations are singular; check that no material has a "
                                    "permeability of zero and that the section is closed."};
        m_direction = m_residual;
        m_factor->solve(m_direction);
        const double decrement = inner(m_residual, m_direction);
        const double scale = std::abs(inner(m_sources, s.potential));
        // A linear field is solved at once; one more step takes the rounding of ideal iron's wide range away.
        const bool last = linear ? factored : decrement <= enough * scale;
        if (!step(s, decrement, !last)) break;
        ++s.newton_steps;
        if (last) {
            finish(s);
            return s;
        }
    }
    return Problem{"field", fmt::format("The nonlinear field did not settle in {} steps at {:.2f} deg; look at "
                                        "the steel's BH curve and the size of the currents.",
                                        s.newton_steps, angle * 57.29577951308232)};
}

} // namespace mavlo
