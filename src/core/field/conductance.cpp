#include "field/conductance.h"

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

std::vector<double> Conductance::times(const std::vector<double>& potential) const {
    std::vector<double> result(potential.size());
    multiply(pattern, values, potential, result);
    for (const Net& net : nets) net.add_to(result, -net.dot(potential) / net.total);
    return result;
}

Conductance make_conductance(const FieldModel& model, std::vector<EddyBody> bodies) {
    Conductance c;
    c.bodies = std::move(bodies);
    std::map<int, double> mass;
    for (const EddyBody& body : c.bodies) {
        add_mass(model, body, mass);
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
                                const std::vector<double>& rate) {
    std::vector<double> losses;
    for (const EddyBody& body : conductance.bodies) {
        double square = 0, mean = 0, area = 0;
        for (std::size_t i = 0; i < body.elements.size(); ++i) {
            const auto& e = model.elements[body.elements[i]];
            const auto a = local_values(e, rate);
            for (int q = e.first; q < e.first + e.count; ++q) {
                const auto& p = model.points[std::size_t(q)];
                const double value = body.sign[i] * sum_of(a, p);
                square += p.weight * value * value;
                mean += p.weight * value;
                area += p.weight;
            }
        }
        losses.push_back(body.conductivity * (square - (body.closed_ends ? 0 : mean * mean / area)));
    }
    return losses;
}

} // namespace mavlo
