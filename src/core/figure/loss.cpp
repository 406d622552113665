#include "figure/loss.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;
/// (2 pi)^1.5 <|cos|^1.5>: what an excess coefficient for B sin(2 pi f t) is divided by in the time domain.
constexpr double excess_share = 8.763363;

double element_area(const FieldModel& model, const FieldModel::ElementData& e) {
    double area = 0;
    for (int q = e.first; q < e.first + e.count; ++q) area += model.points[std::size_t(q)].weight;
    return area;
}

/// Hysteresis of one component: every closed loop, large or within another, by itself. The loops are found by
/// rainflow counting (M. Matsuishi, T. Endo 1968; ASTM E1049) from the largest value on, so that each closes.
double component_hysteresis(const IronLossLaw& law, const Eigen::VectorXd& b) {
    Eigen::Index top = 0;
    const double reach = b.maxCoeff(&top) - b.minCoeff();
    if (reach < 1e-9) return 0;
    const double noise = 1e-6 * reach;
    std::vector<double> open; // reversals whose loops have not closed
    double sum = 0;
    for (Eigen::Index i = 0; i <= b.size(); ++i) {
        const double value = b[(top + i) % b.size()];
        const auto n = open.size();
        if (n >= 1 && std::abs(value - open.back()) < noise) continue;
        if (n >= 2 && (value - open[n - 1]) * (open[n - 1] - open[n - 2]) > 0)
            open.back() = value; // goes on in the same direction
        else
            open.push_back(value);
        while (open.size() >= 4) { // a loop within a larger one has closed
            const auto end = open.end();
            const double inner = std::abs(end[-2] - end[-3]);
            if (inner > std::abs(end[-1] - end[-2]) || inner > std::abs(end[-3] - end[-4])) break;
            sum += law.hysteresis_per_cycle(inner / 2);
            open.erase(end - 3, end - 1);
        }
    }
    // Down from the largest value and up again is what is left.
    for (std::size_t i = 0; i + 2 < open.size(); i += 2)
        sum += law.hysteresis_per_cycle(std::abs(open[i + 1] - open[i]) / 2);
    return sum;
}

/// Loss of one kilogram with this locus, which repeats after `period` seconds.
IronLoss locus_loss(const IronLossLaw& law, const Eigen::VectorXd& bx, const Eigen::VectorXd& by,
                    const Eigen::VectorXd& vx, const Eigen::VectorXd& vy, double period) {
    IronLoss out;
    const Eigen::ArrayXd speed2 = vx.array().square() + vy.array().square();
    out.classical = law.classical / (2 * pi * pi) * speed2.mean();
    out.excess = law.excess / excess_share * (speed2.sqrt() * speed2.sqrt().sqrt()).mean();
    const Eigen::ArrayXd x = bx.array() - bx.mean(), y = by.array() - by.mean();
    const double angle = 0.5 * std::atan2(2 * (x * y).mean(), (x * x).mean() - (y * y).mean());
    const double c = std::cos(angle), s = std::sin(angle);
    out.hysteresis =
        (component_hysteresis(law, c * bx + s * by) + component_hysteresis(law, c * by - s * bx)) / period;
    return out;
}

/// Elements of one magnet body: of one pole, with one direction of its remanence.
using Body = std::vector<std::size_t>;

std::vector<Body> magnet_bodies(const FieldModel& model) {
    std::map<std::pair<int, double>, Body> bodies;
    for (std::size_t i = model.stator_elements; i < model.elements.size(); ++i) {
        const Part& part = model.part(model.elements[i], i);
        if (part.role == Role::Magnet) bodies[{part.index, part.axis}].push_back(i);
    }
    std::vector<Body> list;
    for (auto& [key, body] : bodies) list.push_back(std::move(body));
    return list;
}

/// Side of a body across its remanence, m.
double body_width(const Machine& m, double area) {
    return area / m.values.number("rotor.magnet.thickness");
}

class Losses {
  public:
    Losses(const FieldModel& model, const Loci& loci)
        : m_model(model)
        , m_loci(loci) {
        m_out.density.resize(model.elements.size());
    }

    FieldLosses run() {
        const Machine& m = m_model.machine;
        iron(m_loci.stator, m.stator_steel, m.stator_stacking, m.values.number("stator.building_factor"),
             m_out.stator);
        iron(m_loci.rotor, m.rotor_steel, m.rotor_stacking, m.values.number("rotor.building_factor"),
             m_out.rotor);
        if (m.magnet.resistivity > 0) magnets();
        if (m.values.number("rotor.shaft_resistivity") > 0) shaft(m.values.number("rotor.shaft_resistivity"));
        return std::move(m_out);
    }

  private:
    double depth() const { return m_model.machine.stack_length * m_model.machine.sector.count; }

    /// d/dt of series that repeat after side.period seconds.
    static Eigen::MatrixXd slope_of(const SideLoci& side) {
        return 2 * pi / side.period * differentiation(side.samples());
    }

    void iron(const SideLoci& side, const Material& steel, double stacking, double building, IronLoss& total) {
        if (!steel.loss.known()) return;
        std::vector<Eigen::Index> columns;
        for (Eigen::Index i = 0; i < side.bx.cols(); ++i) {
            const std::size_t element = side.first + std::size_t(i);
            const Role role = m_model.part(m_model.elements[element], element).role;
            if (role == Role::StatorIron || role == Role::RotorIron) columns.push_back(i);
        }
        const Eigen::MatrixXd d = slope_of(side), bx = side.bx(Eigen::all, columns) / stacking,
                              by = side.by(Eigen::all, columns) / stacking, vx = d * bx, vy = d * by;
        for (std::size_t k = 0; k < columns.size(); ++k) {
            const auto c = Eigen::Index(k);
            const std::size_t element = side.first + std::size_t(columns[k]);
            const double density = building * stacking * steel.density;
            const IronLoss loss =
                locus_loss(steel.loss, bx.col(c), by.col(c), vx.col(c), vy.col(c), side.period).scaled(density);
            m_out.density[element] = loss;
            const double volume = depth() * element_area(m_model, m_model.elements[element]);
            total.hysteresis += volume * loss.hysteresis;
            total.classical += volume * loss.classical;
            total.excess += volume * loss.excess;
        }
    }

    void shaft(double rho) {
        std::vector<Eigen::Index> columns;
        std::vector<double> areas;
        for (std::size_t i = m_loci.rotor.first; i < m_model.elements.size(); ++i) {
            if (m_model.part(m_model.elements[i], i).role != Role::Shaft) continue;
            columns.push_back(Eigen::Index(i - m_loci.rotor.first));
            areas.push_back(element_area(m_model, m_model.elements[i]));
        }
        if (columns.empty()) return;
        const Eigen::Map<const Eigen::VectorXd> area(areas.data(), Eigen::Index(areas.size()));
        Eigen::MatrixXd slope = slope_of(m_loci.rotor) * m_loci.rotor.a(Eigen::all, columns);
        // Sectors of opposite sign cancel in the mean over the shaft; alike ones do not.
        if (m_model.machine.sector.sign > 0) slope.colwise() -= (slope * area / area.sum()).eval();
        for (std::size_t k = 0; k < columns.size(); ++k) {
            const double mean2 = slope.col(Eigen::Index(k)).squaredNorm() / double(slope.rows());
            m_out.density[m_loci.rotor.first + std::size_t(columns[k])].classical = mean2 / rho;
            m_out.shaft += depth() * areas[k] * mean2 / rho;
        }
    }

    void magnets() {
        const Machine& m = m_model.machine;
        const double rho = m.magnet.resistivity_at(m.values.number("rotor.magnet.temperature"));
        const double length = m.stack_length / m.values.number("rotor.magnet.segments");
        const Eigen::MatrixXd d = slope_of(m_loci.rotor);
        double slope2 = 0, bend2 = 0; // of the potential, weighed with the area
        for (const Body& body : magnet_bodies(m_model)) {
            std::vector<Eigen::Index> columns;
            for (std::size_t element : body) columns.push_back(Eigen::Index(element - m_loci.rotor.first));
            Eigen::VectorXd area{Eigen::Index(body.size())};
            for (std::size_t k = 0; k < body.size(); ++k)
                area[Eigen::Index(k)] = element_area(m_model, m_model.elements[body[k]]);
            Eigen::MatrixXd slope = d * m_loci.rotor.a(Eigen::all, columns);
            slope.colwise() -= (slope * area / area.sum()).eval(); // no current leaves the magnet
            const double share = finite_length_share(length, body_width(m, area.sum()));
            const Eigen::MatrixXd bend = d * slope;
            for (std::size_t k = 0; k < body.size(); ++k) {
                const auto c = Eigen::Index(k);
                const double mean2 = slope.col(c).squaredNorm() / double(slope.rows());
                m_out.density[body[k]].classical = share * mean2 / rho;
                m_out.magnets += depth() * area[c] * share * mean2 / rho;
                slope2 += area[c] * mean2;
                bend2 += area[c] * bend.col(c).squaredNorm() / double(slope.rows());
            }
        }
        m_out.magnet_order = slope2 > 0 ? std::sqrt(bend2 / slope2) / (2 * pi) : 0;
    }

    const FieldModel& m_model;
    const Loci& m_loci;
    FieldLosses m_out;
};

} // namespace

double IronLoss::at(double f) const {
    return f * hysteresis + f * f * classical + std::pow(f, 1.5) * excess;
}

IronLoss IronLoss::scaled(double factor) const {
    return {factor * hysteresis, factor * classical, factor * excess};
}

FieldLosses field_losses(const FieldModel& model, const Loci& loci) {
    return Losses(model, loci).run();
}

double finite_length_share(double length, double width) {
    // The currents close the shorter way round whichever side is called the width.
    const double ratio = width / length;
    double sum = 0;
    for (int n = 1; n < 200; n += 2) sum += std::tanh(n * pi / (2 * ratio)) / std::pow(n, 5);
    return 1 - 192 / std::pow(pi, 5) * ratio * sum;
}

double skin_depth(double resistivity, double frequency, double mu_r) {
    return std::sqrt(resistivity / (pi * frequency * mu0 * mu_r));
}

} // namespace mavlo
