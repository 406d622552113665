#include "field/solver.h"

#include "field/quadrature.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace mavlo {
namespace {

constexpr int most_steps = 600, ///< steels of the usual kind need some ten, badly kinked curves a hundred
    most_approaching = 15;
/// Squared decrement, over the sources' work, from which the curves as they are give no trouble.
constexpr double near = 1e-6;
/// Squared decrement, over the sources' work, from which an old factor leads astray.
constexpr double far = 1e-6;
/// Squared decrement, over the sources' work, up to which a fresh factor alone leads there, without knees.
constexpr double within_reach = 1e-2;
/// Steps within which the knees find their places; later ones that gain little are given up.
constexpr int settling = 3;
constexpr int most_halvings = 20; ///< of a step until it is given up
/// Squares of the energy-norm error, over the sources' work, that a step may leave behind.
constexpr double tolerance = 1e-15, tolerance_draft = 1e-10;
/// Squared decrement from which a step with the tangent's own factor leaves an error within the tolerance.
constexpr double newton_tolerance = 1e-12, newton_tolerance_draft = 2e-9;
/// Fall of the squared decrement in one step that an old factor must give to be kept; fields of a map and steps
/// in time follow each other closely.
constexpr double worth_keeping = 0.15, worth_keeping_close = 0.4;

/// Fall of the squared decrement that may at best be reckoned with: a step from afar tells little of the next.
constexpr double least_fall = 0.03;

} // namespace

FieldSolver::FieldSolver(std::shared_ptr<const FieldModel> model)
    : m_model(std::move(model))
    // A linear field is done in one step of all digits.
    , m_precision(m_model->nonlinear.empty() ? Precision::Double : Precision::Single)
    , m_factor(m_model->analysed->copy(m_precision))
    , m_angle(std::numeric_limits<double>::quiet_NaN())
    , m_tolerance(m_model->quality == Quality::Draft ? tolerance_draft : tolerance) {
    const auto n = std::size_t(m_model->unknowns());
    m_outer_product.resize(m_model->gaps.size());
    m_inner_product.resize(m_model->gaps.size());
    m_sources.resize(n);
    m_residual.resize(n);
    m_direction.resize(n);
    m_product.resize(n);
    m_trial.resize(n);
}

void FieldSolver::take_precision(Precision precision) {
    if (precision == m_precision) return;
    m_precision = precision;
    m_factor = m_model->analysed->copy(precision);
    m_factor->use_two_cores(m_two_cores);
    m_factored = false;
    m_nets.clear();
    m_corrections.clear();
}

/// The linear part's matrix with M/tau; the factor stays and is that of another time.
void FieldSolver::set_step(const StepTerm* term) {
    const Conductance* conductance = term ? term->conductance : nullptr;
    const double per_time = term ? term->per_time : 0;
    if (conductance == m_conductance && per_time == m_per_time) return;
    m_conductance = conductance;
    m_per_time = per_time;
    m_stage.reset();
    if (conductance)
        m_stage.emplace(*conductance, per_time);
    else
        m_nets.clear();
    // What conducts may outweigh the field by far, and the nets' ranks are taken off again.
    if (conductance) take_precision(Precision::Double);
    m_base = m_model->linear_values;
    if (conductance)
        for (std::size_t k = 0; k < conductance->entry.size(); ++k)
            m_base[std::size_t(conductance->entry[k])] += per_time * conductance->values[k];
    put_coupling(m_base);
    m_corrections.clear();
}

void FieldSolver::put_coupling(std::vector<double>& values) const {
    for (std::size_t k = 0; k < m_coupling.size(); ++k) {
        const double* value = m_coupling[k].data(); // column by column, as coupling_entry
        for (int entry : m_model->coupling_entry[k]) values[std::size_t(entry)] = *value++;
    }
}

void FieldSolver::set_angle(double angle) {
    if (angle == m_angle) return;
    m_angle = angle;
    if (m_base.empty()) m_base = m_model->linear_values;
    m_coupling.clear();
    for (const auto& gap : m_model->gaps)
        m_coupling.push_back(gap->coupling(m_model->turns(angle).relative(), m_two_cores));
    put_coupling(m_base);
    if (!m_factored) return;
    // Nothing but the coupling stands where unknowns of both sides meet.
    put_coupling(m_values);
    m_factored = m_factor->refactorise_root(m_values);
    m_corrections.clear();
    prepare_nets();
}

/// Of the factor as it is, with the time that it was taken for.
void FieldSolver::prepare_nets() {
    m_nets.clear();
    if (m_conductance && m_factored_per_time > 0)
        m_nets.prepare(*m_conductance, m_factored_per_time, m_sources.size(), *m_factor);
}

/// Inverse of the factored matrix less the nets' ranks.
void FieldSolver::solve_with_factor(std::vector<double>& values) {
    m_factor->solve(values);
    m_nets.correct(values);
}

/// To all digits with the matrix that was factored, whatever the factor's own (iterative refinement: N. Higham,
/// Accuracy and Stability of Numerical Algorithms, 2nd ed., ch. 12).
void FieldSolver::solve_exactly(std::vector<double>& values) {
    if (m_precision == Precision::Double) return solve_with_factor(values);
    constexpr int most_refinements = 4;
    constexpr double enough = 1e-20; // of the energy
    const std::vector<double> wanted = values;
    solve_with_factor(values);
    std::vector<double> left(values.size()), change(values.size());
    for (int k = 0; k < most_refinements; ++k) {
        multiply(*m_model->pattern, m_values, values, left);
        for (std::size_t i = 0; i < left.size(); ++i) left[i] = wanted[i] - left[i];
        change = left;
        solve_with_factor(change);
        for (std::size_t i = 0; i < values.size(); ++i) values[i] += change[i];
        if (std::abs(inner(left, change)) <= enough * std::abs(inner(wanted, values))) break;
    }
}

/// Of magnets and currents: what a field is measured by. Where there are none, of what conductors remember.
double FieldSolver::work_of_sources(const std::vector<double>& potential) const {
    const double all = inner(m_sources, potential);
    if (m_memory.empty()) return std::abs(all);
    const double driven = std::abs(all - inner(m_memory, potential));
    return driven > 1e-12 * std::abs(all) ? driven : std::abs(all);
}

void FieldSolver::set_sources(const PortValues& current, const StepTerm* term) {
    m_sources = m_model->magnet_load;
    for (std::size_t port = 0; port < current.size(); ++port) {
        if (current[port] == 0) continue;
        const auto& load = m_model->port_load[port];
        for (std::size_t i = 0; i < load.size(); ++i) m_sources[i] += current[port] * load[i];
    }
    m_memory.clear();
    if (!term) return;
    m_memory = m_stage->times(*term->from);
    for (double& value : m_memory) value *= term->per_time;
    m_stage->add_driven(*term->segments, m_memory);
    for (std::size_t i = 0; i < m_memory.size(); ++i) m_sources[i] += m_memory[i];
}

void FieldSolver::use_two_cores() {
    m_two_cores = true;
    m_factor->use_two_cores(true);
}

bool FieldSolver::factorise(FieldSolution& s) {
    s.functional = assemble(s.potential, true);
    m_corrections.clear();
    ++s.factorisations;
    m_factored = m_factor->factorise(m_values);
    if (!m_factored && m_precision == Precision::Single) { // too ill-conditioned a matrix for its digits
        take_precision(Precision::Double);
        m_factored = m_factor->factorise(m_values);
    }
    m_factored_per_time = m_conductance ? m_per_time : 0;
    if (m_factored) prepare_nets();
    return m_factored;
}

/// Newton's steps with moving knees until the field is near; puts things back when they led nowhere. False when
/// a matrix is singular.
bool FieldSolver::approach(FieldSolution& s) {
    const FieldSolution before = s;
    s.functional = assemble(s.potential, false);
    const double functional = s.functional;
    m_corrections.clear();
    move_knees(s.potential);
    double previous = std::numeric_limits<double>::infinity();
    for (int i = 0; i < most_approaching; ++i) {
        if (!factorise(s)) return false;
        const double decrement = find_direction();
        if (i > settling && decrement > 0.3 * previous) break;
        previous = decrement;
        for (std::size_t k = 0; k < s.potential.size(); ++k) s.potential[k] += m_direction[k];
        ++s.newton_steps;
        if (decrement <= near * work_of_sources(s.potential)) break;
        move_knees(s.potential);
    }
    m_knee.clear();
    s.functional = assemble(s.potential, false);
    if (s.functional <= functional) return true;
    s.potential = before.potential;
    s.functional = assemble(s.potential, false);
    return true;
}

/// The next step, from the residual; returns its squared length in the energy norm (the squared decrement).
double FieldSolver::find_direction() {
    m_direction = m_residual;
    m_corrections.before(m_direction);
    solve_with_factor(m_direction);
    m_corrections.after(m_direction);
    return inner(m_residual, m_direction);
}

/// Goes along the direction as far as the functional falls by a tenth of what its slope says, and learns from
/// it; leaves the residual of the new point behind.
bool FieldSolver::step(FieldSolution& s, double decrement) {
    const double noise = 1e-12 * std::abs(inner(m_sources, s.potential));
    m_before = m_residual;
    for (int halved = 0; halved < most_halvings; ++halved) {
        const double length = std::ldexp(1.0, -halved);
        for (std::size_t i = 0; i < s.potential.size(); ++i)
            m_trial[i] = s.potential[i] + length * m_direction[i];
        const double functional = assemble(m_trial, false);
        if (functional > s.functional - 0.1 * length * decrement + noise) continue;
        std::vector<double> moved = m_direction, drop = m_before;
        for (std::size_t i = 0; i < moved.size(); ++i) {
            moved[i] *= length;
            drop[i] -= m_residual[i];
        }
        m_corrections.learn(std::move(moved), std::move(drop));
        s.potential.swap(m_trial);
        s.functional = functional;
        return true;
    }
    return false;
}

void FieldSolver::finish(FieldSolution& s) {
    s.torque = 0;
    for (const auto& gap : m_model->gaps) {
        const auto traces = gap->traces(gather(gap->outer_unknowns(), s.potential),
                                        gather(gap->inner_unknowns(), s.potential), m_model->turns(s.angle));
        // The gap pulls its two sides in opposite directions.
        s.torque += (m_model->rotor == 0 ? 1 : -1) * m_model->depth * gap->torque(traces);
    }
    const double whole = m_model->depth * m_model->sector.count;
    for (const auto& load : m_model->port_load) s.flux_linkage.push_back(whole * inner(load, s.potential));
    // The step's own term is no energy.
    if (m_conductance)
        s.functional +=
            inner(m_memory, s.potential) - m_per_time / 2 * inner(m_stage->times(s.potential), s.potential);
    s.coenergy = -whole * s.functional;
    s.energy = whole * (s.functional + inner(m_sources, s.potential) -
                        (m_memory.empty() ? 0 : inner(m_memory, s.potential)));
}

/// Where the last direction still asks for the greatest change of the field: "stator, slot 3's iron at 2.4 T".
std::string FieldSolver::hardest_part() const {
    const FieldModel& m = *m_model;
    double most = -1, flux_density = 0;
    std::size_t worst = 0;
    for (int index : m.nonlinear) {
        const auto& e = m.elements[std::size_t(index)];
        const BhCurve& curve = m.laws[std::size_t(e.law)];
        const auto change = local_values(e, m_direction), at = local_values(e, m_trial);
        for (int q = e.first; q < e.first + e.count; ++q) {
            const auto& p = m.points[std::size_t(q)];
            const Point d = gradient(p, change), g = gradient(p, at);
            const double b = std::hypot(g.x, g.y),
                         energy = p.weight * curve.at(b).dh_db * (d.x * d.x + d.y * d.y);
            if (energy > most) most = energy, flux_density = b, worst = std::size_t(index);
        }
    }
    const Part& part = m.part(m.elements[worst]);
    const bool rotor = m.is_rotor(part.body);
    return fmt::format("{} at the {} {} ({:.2f} T)", rotor ? "the rotor's steel" : "the stator's steel",
                       rotor ? "pole" : "slot", part.pitch + 1, flux_density);
}

namespace {
Problem singular() {
    return {"field",
            "The field's equations are singular; check that no material has a permeability of zero and "
            "that the section is closed."};
}
} // namespace

Result<std::vector<std::vector<double>>> FieldSolver::adjoints(const FieldSolution& field,
                                                               std::vector<std::vector<double>> slopes) {
    m_stands.potential.clear();
    set_angle(field.angle);
    set_sources(field.current, nullptr);
    FieldSolution here = field;
    if (!factorise(here)) return singular();
    for (auto& slope : slopes) solve_exactly(slope);
    return slopes;
}

Result<std::vector<PortValues>> FieldSolver::incremental_inductance(const FieldSolution& field) {
    const auto answers = adjoints(field, m_model->port_load);
    if (!answers) return answers.problems();
    const double whole = m_model->depth * m_model->sector.count;
    const std::size_t ports = m_model->port_load.size();
    std::vector<PortValues> inductance(ports, PortValues(ports));
    for (std::size_t k = 0; k < ports; ++k)
        for (std::size_t j = 0; j < ports; ++j)
            inductance[j][k] = whole * inner(m_model->port_load[j], (*answers)[k]);
    return inductance;
}

double torque_scale(const FieldModel& model) {
    return (model.rotor == 0 ? -1 : 1) * model.depth * model.sector.count; // -dW/dalpha on the inner body
}

std::vector<double> torque_slope(const FieldModel& model, const FieldSolution& field) {
    const double scale = torque_scale(model);
    std::vector<double> result(field.potential.size(), 0.0);
    for (const auto& gap : model.gaps) {
        const Eigen::MatrixXd slope = gap->coupling_slope(model.turns(field.angle).relative());
        const Eigen::VectorXd outer = scale * slope * gather(gap->inner_unknowns(), field.potential),
                              inner =
                                  scale * slope.transpose() * gather(gap->outer_unknowns(), field.potential);
        for (std::size_t i = 0; i < gap->outer_unknowns().size(); ++i)
            result[std::size_t(gap->outer_unknowns()[i])] = outer[Eigen::Index(i)];
        for (std::size_t i = 0; i < gap->inner_unknowns().size(); ++i)
            result[std::size_t(gap->inner_unknowns()[i])] = inner[Eigen::Index(i)];
    }
    return result;
}

/// Whether a field begins where the last one ended, so that only the sources are others.
bool FieldSolver::stands_at(const FieldSolution& s, const StepTerm* term) const {
    return m_stands.angle == s.angle && m_stands.conductance == (term ? term->conductance : nullptr) &&
           m_stands.per_time == (term ? term->per_time : 0) && m_stands.potential == s.potential;
}

/// The residual and the functional, which is returned, after the sources have become others.
double FieldSolver::move_sources(const std::vector<double>& potential, const std::vector<double>& before) {
    double moved = 0;
    for (std::size_t i = 0; i < m_residual.size(); ++i) {
        const double change = m_sources[i] - before[i];
        m_residual[i] += change;
        moved += change * potential[i];
    }
    return m_stands.functional - moved;
}

Result<FieldSolution> FieldSolver::solve(double angle, const PortValues& current, const FieldSolution* start,
                                         const StepTerm* term) {
    assert(std::isfinite(angle) && "the rotor stands at an angle");
    FieldSolution s;
    s.angle = angle;
    s.current = current;
    s.current.resize(m_model->port_load.size(), 0.0);
    s.potential = start ? start->potential : std::vector<double>(std::size_t(m_model->unknowns()), 0.0);
    const bool here = stands_at(s, term);
    const std::vector<double> sources = here ? m_sources : std::vector<double>{};
    m_stands.potential.clear();
    set_step(term);
    set_angle(angle);
    set_sources(current, term);
    const bool loose =
                   !term && m_tolerance > (m_model->quality == Quality::Draft ? tolerance_draft : tolerance),
               close = term || loose;
    const double enough = m_tolerance, keeping = close ? worth_keeping_close : worth_keeping,
                 enough_fresh = m_tolerance > tolerance ? newton_tolerance_draft : newton_tolerance;
    // A step in time begins near enough for the curves as they are.
    bool approached = term != nullptr, fresh = false;   // the factor is that of the tangent here
    bool exact = false;                                 // … and of every other place
    if (m_factored && loose && m_begins_far && !here) { // without a look at what the old factor says
        fresh = true;
        if (!factorise(s)) return singular();
    } else if (m_factored) {
        s.functional = here ? move_sources(s.potential, sources) : assemble(s.potential, false);
        fresh = exact = m_model->nonlinear.empty() && m_factored_per_time == m_per_time;
        if (exact) m_corrections.clear(); // there is nothing to correct, and rounding would
    } else if (!approached && !m_model->nonlinear.empty()) {
        approached = true;
        if (!approach(s)) return singular();
    } else {
        fresh = true;
        if (!factorise(s)) return singular();
    }
    double previous = 0; // squared decrement before the last step
    while (s.newton_steps < most_steps) {
        const double decrement = find_direction(), scale = work_of_sources(s.potential);
        const double rate = previous > 0 ? decrement / previous : 1;
        if (s.newton_steps == 0)
            m_begins_far = !exact && decrement > far * scale && decrement < within_reach * scale;
        const bool slow = !fresh && decrement > enough * scale &&
                          (previous > 0 ? rate > keeping : !approached && decrement > far * scale);
        const bool last = decrement * std::clamp(rate, least_fall, 1.0) <= enough * scale ||
                          (fresh && decrement <= enough_fresh * scale) || exact;
        if (last && !slow && loose && !exact) { // so short a step needs no search, and no residual after it
            for (std::size_t i = 0; i < s.potential.size(); ++i) s.potential[i] += m_direction[i];
            s.functional -= decrement / 2;
            ++s.newton_steps;
            finish(s);
            return s;
        }
        if (slow || !step(s, decrement)) {
            if (fresh && approached) break;
            // The approach once at the most, then plain steps from the tangent.
            fresh = approached || (slow && decrement < within_reach * scale);
            if (fresh ? !factorise(s) : !approach(s)) return singular();
            approached = approached || !fresh;
            previous = 0;
            continue;
        }
        ++s.newton_steps;
        if (last) {
            m_stands = {angle, m_conductance, m_per_time, s.functional, s.potential};
            finish(s);
            return s;
        }
        fresh = false;
        previous = decrement;
    }
    return Problem{
        "field", fmt::format("The nonlinear field did not settle in {} steps at {:.2f} deg; the last to change "
                             "is {}. Look at that steel's BH curve for a jump in its slope, and at the size of "
                             "the currents.",
                             s.newton_steps, angle * 57.29577951308232, hardest_part())};
}

} // namespace mavlo
