// The equations of a network's stage: what each element asks of the unknowns, and their solution.

#include "circuit/network_run.h"
#include "quantity/dense.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr int most_newton = 30;

} // namespace

/// Places of the unknowns, and the state at rest.
void NetworkRun::number() {
    auto unknown = Eigen::Index(m_network.nodes.size()) - 1;
    Eigen::Index slots = 0;
    m_phase_element.assign(std::size_t(m_machine.ports()), -1);
    const PortState rest = m_machine.at(m_now.angle, Eigen::VectorXd::Zero(m_machine.ports()));
    std::vector<double> state;
    for (std::size_t k = 0; k < m_network.elements.size(); ++k) {
        const Element& e = m_network.elements[k];
        const bool has_branch =
            e.kind == Element::VoltageSource || e.kind == Element::Inductor || e.kind == Element::Phase;
        const bool has_state =
            e.kind == Element::Capacitor || e.kind == Element::Inductor || e.kind == Element::Phase;
        m_branch.push_back(has_branch ? unknown++ : -1);
        m_slot.push_back(has_state ? slots++ : -1);
        if (e.kind == Element::Inductor) m_inductors.push_back(k);
        if (e.kind == Element::Phase) m_phase_element[std::size_t(e.phase)] = int(k);
        if (has_state) state.push_back(e.kind == Element::Phase ? rest.linkage[e.phase] : e.value * e.initial);
    }
    m_state = Eigen::Map<Eigen::VectorXd>(state.data(), slots);
    const auto n = Eigen::Index(m_inductors.size());
    m_inductance = Eigen::MatrixXd::Zero(n, n);
    const auto place = [&](int element) {
        return std::find(m_inductors.begin(), m_inductors.end(), std::size_t(element)) - m_inductors.begin();
    };
    for (Eigen::Index k = 0; k < n; ++k)
        m_inductance(k, k) = m_network.elements[m_inductors[std::size_t(k)]].value;
    for (const Coupling& c : m_network.couplings) {
        const auto a = place(c.first), b = place(c.second);
        m_inductance(a, b) = m_inductance(b, a) = c.factor * std::sqrt(m_inductance(a, a) * m_inductance(b, b));
    }
    // Mutual inductances link what flows at the beginning, too.
    for (Eigen::Index k = 0; k < n; ++k) {
        double linkage = 0;
        for (Eigen::Index j = 0; j < n; ++j)
            linkage += m_inductance(k, j) * m_network.elements[m_inductors[std::size_t(j)]].initial;
        m_state[m_slot[m_inductors[std::size_t(k)]]] = linkage;
    }
    m_scale = m_state.cwiseAbs();
    m_rate = Eigen::VectorXd::Zero(slots);
    m_x = Eigen::VectorXd::Zero(unknown);
}

void NetworkRun::set_linkages(const Eigen::VectorXd& linkage) {
    for (std::size_t p = 0; p < m_phase_element.size(); ++p)
        if (m_phase_element[p] >= 0)
            m_state[m_slot[std::size_t(m_phase_element[p])]] = linkage[Eigen::Index(p)];
}

double NetworkRun::through(const Eigen::VectorXd& x, std::size_t element) const {
    const Element& e = m_network.elements[element];
    if (m_branch[element] >= 0) return x[m_branch[element]];
    switch (e.kind) {
    case Element::Resistor:
        return across(x, e) / e.value;
    case Element::CurrentSource:
        return e.wave.at(m_now.t, m_now.angle);
    case Element::Switch:
    case Element::Diode:
        return m_closed[element] ? (across(x, e) - e.drop) / e.on : across(x, e) / e.off;
    case Element::Capacitor:
        return m_rate[m_slot[element]];
    default:
        return 0;
    }
}

Eigen::VectorXd NetworkRun::phase_currents(const Eigen::VectorXd& x) const {
    Eigen::VectorXd currents = Eigen::VectorXd::Zero(m_machine.ports());
    for (std::size_t p = 0; p < m_phase_element.size(); ++p)
        if (m_phase_element[p] >= 0) currents[Eigen::Index(p)] = x[branch(m_phase_element[p])];
    return currents;
}

/// Everything but the machine's phases. `per` is one over the stage's time.
void NetworkRun::stamp(const RotorMoment& at, double per, const Eigen::VectorXd& memory) {
    const Eigen::Index n = m_x.size();
    m_a.setZero(n, n);
    m_b.setZero(n);
    const auto conduct = [&](const Element& e, double g) {
        const Eigen::Index a = e.from - 1, b = e.to - 1;
        if (a >= 0) m_a(a, a) += g;
        if (b >= 0) m_a(b, b) += g;
        if (a >= 0 && b >= 0) m_a(a, b) -= g, m_a(b, a) -= g;
    };
    const auto inject = [&](const Element& e, double current) { // out of `from`, into `to`
        if (e.from > 0) m_b[e.from - 1] -= current;
        if (e.to > 0) m_b[e.to - 1] += current;
    };
    const auto add_branch = [&](const Element& e, Eigen::Index row, double voltage_share) {
        if (e.from > 0) m_a(e.from - 1, row) += 1, m_a(row, e.from - 1) += voltage_share;
        if (e.to > 0) m_a(e.to - 1, row) -= 1, m_a(row, e.to - 1) -= voltage_share;
    };
    for (std::size_t k = 0; k < m_network.elements.size(); ++k) {
        const Element& e = m_network.elements[k];
        switch (e.kind) {
        case Element::Resistor:
            conduct(e, 1 / e.value);
            break;
        case Element::Capacitor:
            conduct(e, per * e.value);
            inject(e, -per * memory[m_slot[k]]);
            break;
        case Element::CurrentSource:
            inject(e, e.wave.at(at.t, at.angle));
            break;
        case Element::VoltageSource:
            add_branch(e, m_branch[k], 1);
            m_b[m_branch[k]] = e.wave.at(at.t, at.angle);
            break;
        case Element::Switch:
        case Element::Diode:
            conduct(e, 1 / (m_closed[k] ? e.on : e.off));
            if (m_closed[k]) inject(e, -e.drop / e.on);
            break;
        case Element::Inductor:
            // v/(per L) - sum M_kj i_j/L = -memory/L: scaled so that no step is too short for it.
            add_branch(e, m_branch[k], 1 / (per * e.value));
            m_b[m_branch[k]] = -memory[m_slot[k]] / e.value;
            break;
        case Element::Phase:
            break;
        }
    }
    for (std::size_t k = 0; k < m_inductors.size(); ++k)
        for (std::size_t j = 0; j < m_inductors.size(); ++j)
            m_a(m_branch[m_inductors[k]], m_branch[m_inductors[j]]) -=
                m_inductance(Eigen::Index(k), Eigen::Index(j)) / m_network.elements[m_inductors[k]].value;
}

/// v - R i - per (psi - memory) = 0, with psi straight about the currents.
void NetworkRun::stamp_phases(double per, const Eigen::VectorXd& memory, const PortState& machine,
                              const Eigen::VectorXd& currents, Eigen::MatrixXd& a, Eigen::VectorXd& b) const {
    for (std::size_t p = 0; p < m_phase_element.size(); ++p) {
        if (m_phase_element[p] < 0) continue;
        const auto port = Eigen::Index(p);
        const Element& e = m_network.elements[std::size_t(m_phase_element[p])];
        const Eigen::Index row = branch(m_phase_element[p]);
        const double own = per * machine.inductance(port, port) + e.value, scale = 1 / own;
        if (e.from > 0) a(e.from - 1, row) += 1, a(row, e.from - 1) += scale;
        if (e.to > 0) a(e.to - 1, row) -= 1, a(row, e.to - 1) -= scale;
        double linkage = machine.linkage[port] - memory[m_slot[std::size_t(m_phase_element[p])]];
        for (std::size_t q = 0; q < m_phase_element.size(); ++q) {
            const auto other = Eigen::Index(q);
            linkage -= machine.inductance(port, other) * currents[other];
            if (m_phase_element[q] >= 0)
                a(row, branch(m_phase_element[q])) -= scale * per * machine.inductance(port, other);
        }
        a(row, row) -= scale * e.value;
        b[row] = scale * per * linkage;
    }
}

/// The unknowns at one stage by Newton's method on the machine's linkages; x is where it starts. False where
/// it does not converge.
bool NetworkRun::solve(const RotorMoment& at, double per, const Eigen::VectorXd& memory, Eigen::VectorXd& x) {
    stamp(at, per, memory);
    if (m_machine.ports() == 0) {
        x = solved(m_a, m_b);
        return x.allFinite();
    }
    Eigen::VectorXd currents = phase_currents(x);
    for (int n = 0; n < most_newton; ++n) {
        Eigen::MatrixXd a = m_a;
        Eigen::VectorXd b = m_b;
        const PortState machine = m_machine.at(at.angle, currents);
        stamp_phases(per, memory, machine, currents, a, b);
        x = solved(a, b);
        if (!x.allFinite()) return false;
        const Eigen::VectorXd next = phase_currents(x);
        const double change = (next - currents).cwiseAbs().maxCoeff(),
                     linked = (machine.inductance * (next - currents)).cwiseAbs().maxCoeff();
        currents = next;
        if (change <= 1e-9 * std::max(m_amperes, currents.cwiseAbs().maxCoeff())) return true;
        if (linked <= 1e-11 * machine.linkage.cwiseAbs().maxCoeff()) return true;
    }
    return false;
}

/// How fast linkages and charges change: what is across or through them.
Eigen::VectorXd NetworkRun::rates(const Eigen::VectorXd& x, double per, const Eigen::VectorXd& memory) const {
    Eigen::VectorXd rate(m_state.size());
    for (std::size_t k = 0; k < m_network.elements.size(); ++k) {
        const Element& e = m_network.elements[k];
        if (e.kind == Element::Inductor) rate[m_slot[k]] = across(x, e);
        if (e.kind == Element::Phase) rate[m_slot[k]] = across(x, e) - e.value * x[m_branch[k]];
        if (e.kind == Element::Capacitor) rate[m_slot[k]] = per * (e.value * across(x, e) - memory[m_slot[k]]);
    }
    return rate;
}

} // namespace mavlo
