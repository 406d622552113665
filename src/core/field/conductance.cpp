#include "field/conductance.h"

#include "quantity/dense.h"

#include <algorithm>
#include <map>

namespace mavlo {
namespace {

double sum_of(const std::array<double, 6>& a, const FieldModel::Point6& p) {
    double value = 0;
    for (std::size_t k = 0; k < 6; ++k) value += p.n[k] * a[k];
    return value;
}

/// Entries of M by their place in the model's matrix.
void add_mass(const FieldModel& model, const EddyBody& body, std::map<int, double>& mass) {
    for (std::size_t index : body.elements) {
        const auto& e = model.elements[index];
        for (int q = e.first; q < e.first + e.count; ++q) {
            const auto& p = model.points[std::size_t(q)];
            std::size_t k = 0;
            for (std::size_t a = 0; a < 6; ++a)
                for (std::size_t b = 0; b <= a; ++b, ++k)
                    if (e.entry[k] >= 0)
                        mass[e.entry[k]] += e.entry_sign[k] * body.conductivity * p.weight * p.n[a] * p.n[b];
        }
    }
}

Conductance::Net net_of(const FieldModel& model, const EddyBody& body) {
    std::map<int, double> weight;
    Conductance::Net net;
    for (std::size_t i = 0; i < body.elements.size(); ++i) {
        const auto& e = model.elements[body.elements[i]];
        for (int q = e.first; q < e.first + e.count; ++q) {
            const auto& p = model.points[std::size_t(q)];
            net.total += body.conductivity * p.weight;
            for (std::size_t a = 0; a < 6; ++a)
                if (e.unknown[a] >= 0)
                    weight[e.unknown[a]] += body.sign[i] * e.sign[a] * body.conductivity * p.weight * p.n[a];
        }
    }
    for (const auto& [unknown, value] : weight) {
        net.unknowns.push_back(unknown);
        net.weight.push_back(value);
    }
    return net;
}

} // namespace

double Conductance::Net::dot(const std::vector<double>& potential) const {
    double sum = 0;
    for (std::size_t i = 0; i < unknowns.size(); ++i) sum += weight[i] * potential[std::size_t(unknowns[i])];
    return sum;
}

void Conductance::Net::add_to(std::vector<double>& to, double factor) const {
    for (std::size_t i = 0; i < unknowns.size(); ++i) to[std::size_t(unknowns[i])] += factor * weight[i];
}

Eigen::VectorXd Conductance::linked(const std::vector<double>& potential) const {
    Eigen::VectorXd sums(Eigen::Index(nets.size()));
    for (Eigen::Index k = 0; k < sums.size(); ++k) sums[k] = nets[std::size_t(k)].dot(potential);
    return sums;
}

Eigen::MatrixXcd Conductance::net_matrix(std::complex<double> rate) const {
    const auto n = Eigen::Index(nets.size());
    Eigen::MatrixXcd matrix = Eigen::MatrixXcd::Zero(n, n);
    for (Eigen::Index k = 0; k < n; ++k) matrix(k, k) = nets[std::size_t(k)].total;
    if (rings.empty()) return matrix;
    const Eigen::MatrixXcd joined = rings.admittance(rate);
    for (Eigen::Index j = 0; j < joined.rows(); ++j)
        for (Eigen::Index k = 0; k < joined.cols(); ++k)
            matrix(Eigen::Index(rings.bars[std::size_t(j)]), Eigen::Index(rings.bars[std::size_t(k)])) +=
                joined(j, k);
    return matrix;
}

namespace {
/// Bodies that nothing joins have a diagonal matrix.
Eigen::MatrixXd inverse_of(const Eigen::MatrixXd& matrix, bool diagonal) {
    if (diagonal) return matrix.diagonal().cwiseInverse().asDiagonal();
    return solved(matrix, Eigen::MatrixXd(Eigen::MatrixXd::Identity(matrix.rows(), matrix.cols())));
}

/// A of each net: what the rings keep up, nothing in bodies that they do not join.
Eigen::VectorXd driven_nets(const Conductance& c, double per_time, const Eigen::VectorXd& before) {
    Eigen::VectorXd all = Eigen::VectorXd::Zero(Eigen::Index(c.nets.size()));
    const Eigen::VectorXd driven = c.rings.driven(per_time, before);
    for (Eigen::Index k = 0; k < driven.size(); ++k)
        all[Eigen::Index(c.rings.bars[std::size_t(k)])] = driven[k];
    return all;
}
} // namespace

ConductingStage::ConductingStage(const Conductance& conductance, double per_time)
    : m_conductance(conductance)
    , m_per_time(per_time)
    , m_inverse(inverse_of(conductance.net_matrix(per_time).real(), conductance.rings.empty())) {}

std::vector<double> ConductingStage::times(const std::vector<double>& potential) const {
    const Conductance& c = m_conductance;
    std::vector<double> result(potential.size());
    multiply(c.pattern, c.values, potential, result);
    if (c.nets.empty()) return result; // BLAS takes no empty matrix
    const Eigen::VectorXd u = m_inverse * c.linked(potential);
    for (std::size_t k = 0; k < c.nets.size(); ++k) c.nets[k].add_to(result, -u[Eigen::Index(k)]);
    return result;
}

void ConductingStage::add_driven(const Eigen::VectorXd& before, std::vector<double>& to) const {
    const Conductance& c = m_conductance;
    if (c.rings.empty() || c.rings.inductance == 0) return;
    const Eigen::VectorXd u = m_inverse * driven_nets(c, m_per_time, before);
    for (std::size_t k = 0; k < c.nets.size(); ++k) c.nets[k].add_to(to, u[Eigen::Index(k)]);
}

ConductingStage::Flow ConductingStage::flow(const std::vector<double>& rate,
                                            const Eigen::VectorXd& before) const {
    const Conductance& c = m_conductance;
    if (c.nets.empty()) return {};
    const Eigen::VectorXd linked = c.linked(rate);
    if (c.rings.empty()) return {m_inverse * linked, {}};
    Flow out{m_inverse * (linked + driven_nets(c, m_per_time, before)), {}};
    Eigen::VectorXd of_bars(c.rings.count());
    for (Eigen::Index k = 0; k < of_bars.size(); ++k)
        of_bars[k] = out.u[Eigen::Index(c.rings.bars[std::size_t(k)])];
    out.segments = c.rings.segments(m_per_time, of_bars, before);
    return out;
}

Conductance make_conductance(const FieldModel& model, std::vector<EddyBody> bodies, EndRings rings) {
    Conductance c;
    c.bodies = std::move(bodies);
    c.rings = std::move(rings);
    std::map<int, double> mass;
    for (const EddyBody& body : c.bodies) {
        add_mass(model, body, mass);
        c.net_of.push_back(body.closed_ends ? -1 : int(c.nets.size()));
        if (!body.closed_ends) c.nets.push_back(net_of(model, body));
    }
    // The model's places rise column by column; the diagonal is kept whether it conducts or not.
    const SparsePattern& all = *model.pattern;
    c.pattern.size = all.size;
    c.pattern.column = {0};
    for (int j = 0; j < all.size; ++j) {
        for (int k = all.column[std::size_t(j)]; k < all.column[std::size_t(j) + 1]; ++k) {
            const int row = all.row[std::size_t(k)];
            const auto found = mass.find(k);
            if (found == mass.end() && row != j) continue;
            c.pattern.row.push_back(row);
            c.values.push_back(found == mass.end() ? 0 : found->second);
            c.entry.push_back(k);
        }
        c.pattern.column.push_back(int(c.pattern.row.size()));
    }
    return c;
}

std::vector<double> eddy_losses(const FieldModel& model, const Conductance& conductance,
                                const std::vector<double>& rate, const Eigen::VectorXd& u) {
    std::vector<double> losses;
    for (std::size_t n = 0; n < conductance.bodies.size(); ++n) {
        const EddyBody& body = conductance.bodies[n];
        const int net = conductance.net_of[n];
        const double voltage = net < 0 ? 0 : u[net];
        double sum = 0;
        for (std::size_t i = 0; i < body.elements.size(); ++i) {
            const auto& e = model.elements[body.elements[i]];
            const auto a = local_values(e, rate);
            for (int q = e.first; q < e.first + e.count; ++q) {
                const auto& p = model.points[std::size_t(q)];
                const double field = voltage - body.sign[i] * sum_of(a, p);
                sum += p.weight * field * field;
            }
        }
        losses.push_back(body.conductivity * sum);
    }
    return losses;
}

} // namespace mavlo
