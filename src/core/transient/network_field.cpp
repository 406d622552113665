#include "transient/network_field.h"

#include "circuit/decay.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace mavlo {
namespace {

constexpr int most_agreements = 6;

} // namespace

PortState FieldStretch::at(double angle, const Eigen::VectorXd& currents) const {
    const double width = m_to.angle - m_from.angle, s = width != 0 ? (angle - m_from.angle) / width : 0;
    PortState state;
    state.linkage = (1 - s) * (m_from.linkage + m_from.inductance * (currents - m_from.current)) +
                    s * (m_to.linkage + m_to.inductance * (currents - m_to.current)) + m_series * currents;
    state.inductance = (1 - s) * m_from.inductance + s * m_to.inductance;
    state.inductance.diagonal().array() += m_series;
    state.torque = (1 - s) * m_from.torque + s * m_to.torque;
    return state;
}

NetworkField::NetworkField(std::shared_ptr<const MachineModel> model, const Network& network,
                           std::unique_ptr<GateControl> control, const NetworkOptions& circuit,
                           NetworkFieldOptions options)
    : m_model(std::move(model))
    , m_options(std::move(options))
    , m_machine(int(m_model->port_load.size()), m_options.series)
    , m_network(network)
    , m_control(std::move(control))
    , m_circuit(circuit) {
    m_solvers.reserve(m_options.slices.size());
    for (std::size_t k = 0; k < m_options.slices.size(); ++k) m_solvers.emplace_back(m_model, m_options.record);
}

int NetworkField::solves() const {
    return std::accumulate(m_solvers.begin(), m_solvers.end(), 0,
                           [](int sum, const RecordedSolver& s) { return sum + s.solves(); });
}

int NetworkField::newton_steps() const {
    return std::accumulate(m_solvers.begin(), m_solvers.end(), 0,
                           [](int sum, const RecordedSolver& s) { return sum + s.newton_steps(); });
}

/// Means over the slices, which carry the same currents.
Result<FieldStretch::End> NetworkField::solve(double angle, const Eigen::VectorXd& currents) {
    const PortValues ports(currents.begin(), currents.end());
    const auto n = Eigen::Index(ports.size());
    FieldStretch::End end{angle, currents, Eigen::VectorXd::Zero(n), Eigen::MatrixXd::Zero(n, n), 0};
    std::vector<FieldSolution> fields;
    for (std::size_t s = 0; s < m_solvers.size(); ++s) {
        const auto [turn, share] = m_options.slices[s];
        auto field = m_solvers[s].solve(m_options.start + angle / m_options.pole_pairs + turn, ports,
                                        m_last.empty() ? nullptr : &m_last[s]);
        if (!field) return field.problems();
        const auto inductance = m_solvers[s].incremental_inductance(*field);
        if (!inductance) return inductance.problems();
        end.torque += share * field->torque;
        for (Eigen::Index k = 0; k < n; ++k) {
            end.linkage[k] += share * field->flux_linkage[std::size_t(k)];
            for (Eigen::Index j = 0; j < n; ++j)
                end.inductance(k, j) += share * (*inductance)[std::size_t(k)][std::size_t(j)];
        }
        fields.push_back(std::move(*field));
    }
    m_last = std::move(fields);
    return end;
}

std::optional<Problem> NetworkField::stretch(double to, std::vector<NetworkSample>* samples) {
    // What the currents will be: as they went on before, as far as that was no switching.
    Eigen::VectorXd guess = m_here.current;
    if (m_has_before) guess += (m_here.current - m_before.current);
    const double end = m_run->now().t + (to - m_run->now().angle) / m_run->now().omega;
    std::optional<NetworkRun> tried;
    std::vector<NetworkSample> seen;
    FieldStretch::End there;
    for (int round = 0; round < most_agreements; ++round) {
        auto solved = solve(to, guess);
        if (!solved) return solved.problems().front();
        there = std::move(*solved);
        m_machine.set(m_here, there);
        tried.emplace(*m_run);
        seen.clear();
        seen.push_back(m_run->sample());
        if (auto problem = tried->run(end, &seen)) return problem;
        const Eigen::VectorXd found = tried->phase_currents();
        m_largest = std::max(m_largest, found.cwiseAbs().maxCoeff());
        const double off = (found - guess).cwiseAbs().maxCoeff();
        guess = found;
        if (off < m_options.tolerance * m_largest * 20) break;
    }
    // The end as the tangent has it: its error goes with the square of what the last round moved. The torque's
    // slope over a current is the linkage's over the angle, both being slopes of the coenergy.
    const Eigen::VectorXd moved =
        there.linkage - m_here.linkage - m_here.inductance * (there.current - m_here.current);
    there.torque += m_options.pole_pairs / (to - m_here.angle) * moved.dot(guess - there.current);
    there.linkage += there.inductance * (guess - there.current);
    there.current = guess;
    m_run = std::make_unique<NetworkRun>(*tried);
    m_before = std::move(m_here);
    m_here = std::move(there);
    m_has_before = true;
    m_torques.push_back({to, m_here.torque});
    if (m_options.seen) m_options.seen(to, m_last);
    if (samples) samples->insert(samples->end(), seen.begin() + (samples->empty() ? 0 : 1), seen.end());
    return std::nullopt;
}

std::optional<Problem> NetworkField::run(double turns, const Eigen::VectorXd& currents,
                                         std::vector<NetworkSample>* samples) {
    if (!m_begun) {
        m_begun = true;
        auto first = solve(m_circuit.rotor.start.angle, currents);
        if (!first) return first.problems().front();
        m_here = std::move(*first);
        m_machine.set(m_here, m_here);
        m_run = std::make_unique<NetworkRun>(m_network, m_machine, std::move(m_control), m_circuit);
        // The state at rest is that of no currents; here some may flow.
        if (m_options.state.size() > 0) m_run->set_state(m_options.state);
        m_run->set_linkages(m_here.linkage + m_options.series * currents);
        m_torques.push_back({m_here.angle, m_here.torque});
        if (m_options.seen) m_options.seen(m_here.angle, m_last);
    }
    const double from = m_here.angle;
    const int steps = std::max(1, int(std::lround(m_options.steps * turns)));
    for (int k = 1; k <= steps; ++k) {
        if (m_options.stop && m_options.stop()) return Problem{"", "stopped"};
        if (auto problem = stretch(from + 2 * pi * turns * k / steps, samples)) return problem;
    }
    return std::nullopt;
}

Result<NetworkWindow> find_network_steady(NetworkField& run, const FieldWindow& wanted) {
    constexpr double same = 2e-3, at_rest = 4e-3;
    NetworkWindow out;
    Eigen::ArrayXd before;
    Decay decay;
    for (; !wanted.from_start && out.periods < wanted.most_periods && !out.periodic; ++out.periods) {
        if (auto problem = run.run(1, wanted.currents, nullptr)) return *problem;
        const Eigen::ArrayXd now = run.state().array();
        if (before.size() > 0) {
            const Eigen::ArrayXd size = before.abs().max(now.abs()) + 1e-12;
            decay.add(((now - before) / size).matrix());
            out.periodic = ((now - before).abs() <= same * size).all() && decay.left() <= at_rest;
        }
        before = now;
    }
    if (wanted.begins) wanted.begins(run.begun() ? run.fields() : std::vector<FieldSolution>{});
    if (auto problem = run.run(wanted.periods, wanted.currents, &out.samples)) return *problem;
    return out;
}

} // namespace mavlo
