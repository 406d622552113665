#include "figure/loss.h"

#include "figure/eddy.h"
#include "figure/hysteresis.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;

/// A power law's loss of one component at 1 Hz.
double component_power(const IronLossLaw& law, const Eigen::ArrayXd& b, const Eigen::ArrayXd& speed) {
    const double peak = (b.maxCoeff() - b.minCoeff()) / 2;
    if (peak < 1e-9) return 0;
    return law.hysteresis_per_cycle(peak) * (speed.abs() / (2 * pi * peak)).pow(law.alpha).mean() /
           mean_cosine_power(law.alpha);
}

/// Loss of one kilogram with this locus, which repeats after `period` seconds.
IronLoss locus_loss(const IronLossLaw& law, const Eigen::VectorXd& bx, const Eigen::VectorXd& by,
                    const Eigen::VectorXd& vx, const Eigen::VectorXd& vy, double period) {
    IronLoss out;
    const Eigen::ArrayXd x = bx.array() - bx.mean(), y = by.array() - by.mean();
    const double angle = principal_angle((x * x).mean(), (y * y).mean(), (x * y).mean());
    const double c = std::cos(angle), s = std::sin(angle);
    if (law.law == LossLaw::Power) {
        out.alpha = law.alpha;
        out.power = component_power(law, c * bx + s * by, c * vx + s * vy) +
                    component_power(law, c * by - s * bx, c * vy - s * vx);
        return out;
    }
    const Eigen::ArrayXd speed2 = vx.array().square() + vy.array().square();
    out.classical = law.classical / (2 * pi * pi) * speed2.mean();
    out.excess = law.excess / excess_divisor * (speed2.sqrt() * speed2.sqrt().sqrt()).mean();
    out.hysteresis =
        (component_hysteresis(law, c * bx + s * by) + component_hysteresis(law, c * by - s * bx)) / period;
    return out;
}

class Losses {
  public:
    Losses(const MachineModel& model, const Loci& loci)
        : m_model(model)
        , m_loci(loci) {
        m_out.density.resize(model.elements.size());
    }

    FieldLosses run() {
        iron(m_loci.stator, m_out.stator);
        iron(m_loci.rotor, m_out.rotor);
        magnets();
        shaft();
        strands();
        return std::move(m_out);
    }

  private:
    double depth() const { return m_model.depth * m_model.sector.count; }
    const Part& part(std::size_t element) const { return m_model.part(m_model.elements[element]); }
    double area(std::size_t element) const { return m_model.area(m_model.elements[element]); }

    /// d/dt of series that repeat after side.period seconds.
    static Eigen::MatrixXd slope_of(const SideLoci& side) {
        return 2 * pi / side.period * differentiation(side.samples());
    }

    void iron(const SideLoci& side, IronLoss& total) {
        std::vector<Eigen::Index> columns;
        const Substance* steel = nullptr;
        for (Eigen::Index i = 0; i < side.bx.cols(); ++i) {
            const Part& here = part(side.first + std::size_t(i));
            if (here.use != Use::Iron) continue;
            steel = m_model.substance(here);
            columns.push_back(i);
        }
        if (!steel || !steel->material.loss.known()) return;
        const Eigen::MatrixXd d = slope_of(side), bx = side.bx(Eigen::all, columns) / steel->stacking,
                              by = side.by(Eigen::all, columns) / steel->stacking, vx = d * bx, vy = d * by;
        for (std::size_t k = 0; k < columns.size(); ++k) {
            const auto c = Eigen::Index(k);
            const std::size_t element = side.first + std::size_t(columns[k]);
            const double density = steel->building * steel->stacking * steel->material.density;
            const IronLoss loss =
                locus_loss(steel->material.loss, bx.col(c), by.col(c), vx.col(c), vy.col(c), side.period)
                    .scaled(density);
            m_out.density[element] = loss;
            const double volume = depth() * area(element);
            total.hysteresis += volume * loss.hysteresis;
            total.classical += volume * loss.classical;
            total.excess += volume * loss.excess;
            total.power += volume * loss.power;
            total.alpha = loss.alpha;
        }
    }

    void shaft() {
        std::vector<Eigen::Index> columns;
        std::vector<double> areas;
        double rho = 0;
        for (std::size_t i = m_loci.rotor.first; i < m_loci.rotor.first + std::size_t(m_loci.rotor.a.cols());
             ++i) {
            const Substance* solid = part(i).use == Use::Solid ? m_model.substance(part(i)) : nullptr;
            if (!solid || is_shell(*solid)) continue; // a shell's reaction is no small one
            rho = solid->resistivity;
            columns.push_back(Eigen::Index(i - m_loci.rotor.first));
            areas.push_back(area(i));
        }
        if (columns.empty() || rho <= 0) return;
        const Eigen::Map<const Eigen::VectorXd> all(areas.data(), Eigen::Index(areas.size()));
        Eigen::MatrixXd slope = slope_of(m_loci.rotor) * m_loci.rotor.a(Eigen::all, columns);
        // Sectors of opposite sign cancel in the mean over the shaft; alike ones do not.
        if (m_model.sector.sign > 0) slope.colwise() -= (slope * all / all.sum()).eval();
        for (std::size_t k = 0; k < columns.size(); ++k) {
            const double mean2 = slope.col(Eigen::Index(k)).squaredNorm() / double(slope.rows());
            m_out.density[m_loci.rotor.first + std::size_t(columns[k])].classical = mean2 / rho;
            m_out.shaft += depth() * areas[k] * mean2 / rho;
        }
    }

    void strands() {
        const Machine& m = m_model.machine;
        if (!m.wound()) return;
        const ConductorSize size = size_conductor(m.winding.conductor);
        if (!size.is_round() || size.area <= 0) return;
        std::vector<Eigen::Index> columns;
        const SideLoci& side = m_loci.stator;
        for (Eigen::Index i = 0; i < side.bx.cols(); ++i)
            if (part(side.first + std::size_t(i)).use == Use::Conductor) columns.push_back(i);
        const Eigen::MatrixXd d = slope_of(side), vx = d * side.bx(Eigen::all, columns),
                              vy = d * side.by(Eigen::all, columns);
        // A square metre of coil side holds fill/(pi a^2) strands.
        const double fill = size.area * m.winding.most_turns_in_slot() / conductor_area(),
                     radius = size.diameter / 2,
                     density = fill * radius * radius / (4 * m.winding.resistivity());
        double loss = 0;
        for (std::size_t k = 0; k < columns.size(); ++k) {
            const auto c = Eigen::Index(k);
            const double mean2 = (vx.col(c).squaredNorm() + vy.col(c).squaredNorm()) / double(vx.rows());
            loss += depth() * area(side.first + std::size_t(columns[k])) * density * mean2;
        }
        m_out.strands = loss;
    }

    /// Of a slot as it is meshed, m2.
    double conductor_area() const {
        double sum = 0;
        for (std::size_t i = 0; i < m_model.elements.size(); ++i)
            if (part(i).use == Use::Conductor) sum += area(i);
        return sum * m_model.sector.count / m_model.machine.slots;
    }

    void magnets() {
        const Eigen::MatrixXd d = slope_of(m_loci.rotor);
        double slope2 = 0, bend2 = 0; // of the potential, weighed with the area
        for (const std::vector<std::size_t>& body : magnet_bodies(m_model)) {
            const Substance& magnet = *m_model.substance(part(body.front()));
            if (magnet.resistivity <= 0) continue;
            std::vector<Eigen::Index> columns;
            Eigen::VectorXd areas{Eigen::Index(body.size())}, signs = areas;
            for (std::size_t k = 0; k < body.size(); ++k) {
                columns.push_back(Eigen::Index(body[k] - m_loci.rotor.first));
                areas[Eigen::Index(k)] = area(body[k]);
                signs[Eigen::Index(k)] = part(body[k]).magnet_sign;
            }
            Eigen::MatrixXd slope = d * m_loci.rotor.a(Eigen::all, columns) * signs.asDiagonal();
            slope.colwise() -= (slope * areas / areas.sum()).eval(); // no current leaves the magnet
            const double share =
                magnet.filling * finite_length_share(magnet.length, body_width(magnet, areas.sum()));
            const Eigen::MatrixXd bend = d * slope;
            for (std::size_t k = 0; k < body.size(); ++k) {
                const auto c = Eigen::Index(k);
                const double mean2 = slope.col(c).squaredNorm() / double(slope.rows());
                m_out.density[body[k]].classical = share * mean2 / magnet.resistivity;
                m_out.magnets += depth() * areas[c] * share * mean2 / magnet.resistivity;
                slope2 += areas[c] * mean2;
                bend2 += areas[c] * bend.col(c).squaredNorm() / double(slope.rows());
            }
        }
        m_out.magnet_order = slope2 > 0 ? std::sqrt(bend2 / slope2) / (2 * pi) : 0;
    }

    const MachineModel& m_model;
    const Loci& m_loci;
    FieldLosses m_out;
};

} // namespace

double IronLoss::at(double f) const {
    assert(f >= 0);
    return f * hysteresis + f * f * classical + std::pow(f, 1.5) * excess + std::pow(f, alpha) * power;
}

IronLoss IronLoss::scaled(double factor) const {
    return {factor * hysteresis, factor * classical, factor * excess, factor * power, alpha};
}

FieldLosses field_losses(const MachineModel& model, const Loci& loci) {
    return Losses(model, loci).run();
}

} // namespace mavlo
