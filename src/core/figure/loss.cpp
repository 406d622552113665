#include "figure/loss.h"

#include "figure/eddy.h"
#include "figure/hysteresis.h"
#include "figure/magnet_pieces.h"
#include "figure/sheet_skin.h"
#include "figure/strand_weights.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace mavlo {
namespace {

/// A power law's loss of one component at 1 Hz.
double component_power(const IronLossLaw& law, const Eigen::ArrayXd& b, const Eigen::ArrayXd& speed) {
    const double peak = (b.maxCoeff() - b.minCoeff()) / 2;
    if (peak < 1e-9) return 0;
    return law.hysteresis_per_cycle(peak) * (speed.abs() / (2 * pi * peak)).pow(law.alpha).mean() /
           mean_cosine_power(law.alpha);
}

/// A column of many.
using Series = Eigen::Ref<const Eigen::VectorXd>;

/// Loss of one kilogram with this locus, which repeats after `period` seconds.
IronLoss locus_loss(const IronLossLaw& law, const Series& bx, const Series& by, const Series& vx,
                    const Series& vy, double period) {
    IronLoss out;
    const auto x = bx.array() - bx.mean(), y = by.array() - by.mean();
    const double angle = principal_angle((x * x).mean(), (y * y).mean(), (x * y).mean());
    const double c = std::cos(angle), s = std::sin(angle);
    if (law.law == LossLaw::Power) {
        out.power[0] = {component_power(law, c * bx + s * by, c * vx + s * vy) +
                            component_power(law, c * by - s * bx, c * vy - s * vx),
                        law.alpha};
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
        m_beyond.resize(model.elements.size());
        m_biased.resize(model.elements.size());
        for (const Substance& s : model.substances) m_laws.push_back(s.core_law());
        Eigen::Index column = 0;
        m_solid_column.resize(model.elements.size());
        for (std::size_t i : loci.rotor.elements) {
            m_solid_column[i] = column;
            if (has_solid_points(part(i))) column += model.elements[i].count;
        }
    }

    FieldLosses run() {
        iron(m_loci.stator, m_out.stator);
        iron(m_loci.rotor, m_out.rotor);
        magnets();
        shaft();
        strands();
        return std::move(m_out);
    }

    std::vector<double> kept_of_magnets() const {
        const Eigen::MatrixXd d = slope_of(m_loci.rotor);
        std::vector<double> out;
        for (const std::vector<std::size_t>& body : magnet_bodies(m_model))
            out.push_back(m_model.substance(part(body.front()))->resistivity > 0 ? kept(body, slope_in(body, d))
                                                                                 : 1);
        return out;
    }

  private:
    double depth() const { return m_model.depth * m_model.sector.count; }
    const Part& part(std::size_t element) const { return m_model.part(m_model.elements[element]); }
    double area(std::size_t element) const { return m_model.area(m_model.elements[element]); }

    /// d/dt of series that repeat after side.period seconds.
    static Eigen::MatrixXd slope_of(const SideLoci& side) {
        return 2 * pi / side.period * differentiation(side.samples());
    }

    /// At each point of quadrature: what a large element's mean would leave out of the squares counts.
    void iron(const SideLoci& side, IronLoss& total) {
        const Eigen::MatrixXd d = slope_of(side), vx = d * side.steel_bx, vy = d * side.steel_by;
        m_waves = squares_of_waves(vx, vy);
        Eigen::Index c = 0;
        for (std::size_t place = 0; place < side.elements.size(); ++place) {
            const std::size_t i = side.elements[place];
            if (part(i).use != Use::Iron) continue;
            const std::size_t pitch = place / side.each(), twin = std::size_t(side.twin[pitch]);
            if (twin < pitch) {
                const std::size_t first = side.elements[place - (pitch - twin) * side.each()];
                m_out.density[i] = m_out.density[first];
                m_beyond[i] = m_beyond[first];
                m_biased[i] = m_biased[first];
            } else {
                const int count = m_model.elements[i].count;
                const double peak = largest(side, c, count);
                m_out.density[i] = element_loss(i, side, vx, vy, c);
                m_out.density[i].skin = skin_of(i, side, peak, c, count);
                m_beyond[i] = peak > table_end(i);
                m_biased[i] = biased_share(side, c, count);
                c += count;
            }
            total.add(m_out.density[i], depth() * area(i));
            if (m_beyond[i]) m_out.beyond.add(m_out.density[i], depth() * area(i));
            m_out.biased.add(by_loops(m_out.density[i]), m_biased[i] * depth() * area(i));
        }
    }

    /// What a table of unbiased loops says: hysteresis, or all of a power law.
    static IronLoss by_loops(const IronLoss& loss) {
        IronLoss out;
        out.hysteresis = loss.hysteresis;
        out.power = loss.power;
        return out;
    }

    /// Share of some points whose locus lies about a mean larger than its own amplitude.
    static double biased_share(const SideLoci& side, Eigen::Index first, int count) {
        int biased = 0;
        for (Eigen::Index c = first; c < first + count; ++c) {
            const double x = side.steel_bx.col(c).mean(), y = side.steel_by.col(c).mean();
            const double amplitude2 =
                ((side.steel_bx.col(c).array() - x).square() + (side.steel_by.col(c).array() - y).square())
                    .maxCoeff();
            biased += x * x + y * y > amplitude2;
        }
        return double(biased) / count;
    }

    bool has_sheet() const {
        return std::any_of(m_model.substances.begin(), m_model.substances.end(), [](const Substance& s) {
            return s.core_law().known() && !s.core_law().corners.empty();
        });
    }

    /// Squares of the waves of these series, both components together: a row an order, a column a point. None
    /// where no steel is known as a sheet.
    Eigen::MatrixXd squares_of_waves(const Eigen::MatrixXd& vx, const Eigen::MatrixXd& vy) const {
        if (!has_sheet() || vx.rows() < 3) return {};
        const Eigen::MatrixXd rows = order_rows(vx.rows()), x = rows * vx, y = rows * vy;
        Eigen::MatrixXd out(rows.rows() / 2, vx.cols());
        for (Eigen::Index n = 0; n < out.rows(); ++n)
            out.row(n) = x.row(2 * n).array().square() + x.row(2 * n + 1).array().square() +
                         y.row(2 * n).array().square() + y.row(2 * n + 1).array().square();
        return out;
    }

    /// Of an element's classical loss, exact at the rated frequency.
    double skin_of(std::size_t i, const SideLoci& side, double peak, Eigen::Index first, int count) const {
        if (m_waves.size() == 0) return 0;
        const Substance& steel = *m_model.substance(part(i));
        const double corner = m_laws[std::size_t(part(i).substance)].corner(peak / steel.stacking);
        const Machine& m = m_model.machine;
        const double rated = std::max(1.0, electrical_frequency(m, m.rating.speed));
        const Eigen::VectorXd squares = m_waves.middleCols(first, count).rowwise().sum();
        return inverse_corner(share_of_waves(squares, rated / side.period, corner), rated);
    }

    /// T, over the section: the largest at some points, and where the steel's loss table ends.
    static double largest(const SideLoci& side, Eigen::Index first, int count) {
        return std::sqrt((side.steel_bx.middleCols(first, count).array().square() +
                          side.steel_by.middleCols(first, count).array().square())
                             .maxCoeff());
    }
    double table_end(std::size_t element) const {
        const Substance& steel = *m_model.substance(part(element));
        return steel.stacking * steel.material.loss.largest_flux_density();
    }

    /// W/m3 of an element by its own steel's law, its points standing from column c on; zero where nothing is
    /// known of the steel (unknown_losses tells).
    IronLoss element_loss(std::size_t i, const SideLoci& side, const Eigen::MatrixXd& vx,
                          const Eigen::MatrixXd& vy, Eigen::Index c) const {
        IronLoss mean;
        const Substance& steel = *m_model.substance(part(i));
        const IronLossLaw& law = m_laws[std::size_t(part(i).substance)];
        if (!law.known()) return mean;
        const double density = steel.building * steel.stacking * steel.material.density,
                     sheet = 1 / steel.stacking;
        const auto& e = m_model.elements[i];
        for (int q = e.first; q < e.first + e.count; ++q, ++c)
            mean.add(locus_loss(law, sheet * side.steel_bx.col(c), sheet * side.steel_by.col(c),
                                sheet * vx.col(c), sheet * vy.col(c), side.period),
                     density * m_model.points[std::size_t(q)].weight / area(i));
        return mean;
    }

    /// Points of quadrature of some magnets or solid parts of the rotor.
    struct SolidPoints {
        std::vector<std::size_t> element;
        std::vector<Eigen::Index> column; ///< among the rotor's
        Eigen::VectorXd weight;           ///< m2
    };
    SolidPoints solid_points_of(const std::vector<std::size_t>& elements) const {
        SolidPoints out;
        std::vector<double> weight;
        for (std::size_t i : elements) {
            const auto& e = m_model.elements[i];
            Eigen::Index column = m_solid_column[i];
            for (int q = e.first; q < e.first + e.count; ++q) {
                out.element.push_back(i);
                out.column.push_back(column++);
                weight.push_back(m_model.points[std::size_t(q)].weight);
            }
        }
        out.weight = Eigen::Map<const Eigen::VectorXd>(weight.data(), Eigen::Index(weight.size()));
        return out;
    }

    std::vector<Point> places(const SolidPoints& points) const {
        std::vector<Point> out;
        std::size_t k = 0;
        while (k < points.element.size()) {
            const auto& e = m_model.elements[points.element[k]];
            for (int q = e.first; q < e.first + e.count; ++q, ++k)
                out.push_back(m_model.points[std::size_t(q)].at);
        }
        return out;
    }

    /// Adds loss densities (W/m3) at points to their elements' means; returns their sum in W/m.
    double spread(const SolidPoints& points, const Eigen::VectorXd& density) {
        for (std::size_t k = 0; k < points.element.size(); ++k)
            m_out.density[points.element[k]].classical +=
                points.weight[Eigen::Index(k)] * density[Eigen::Index(k)] / area(points.element[k]);
        return points.weight.dot(density);
    }

    static Eigen::VectorXd mean_squares(const Eigen::MatrixXd& series) {
        return series.colwise().squaredNorm().transpose() / double(series.rows());
    }

    void shaft() {
        std::vector<std::size_t> elements;
        double rho = 0;
        for (std::size_t i : m_loci.rotor.elements) {
            const Substance* solid = part(i).use == Use::Solid ? m_model.substance(part(i)) : nullptr;
            if (!solid || is_shell(*solid)) continue; // a shell's reaction is no small one
            rho = solid->resistivity;
            elements.push_back(i);
        }
        if (elements.empty() || rho <= 0) return;
        const SolidPoints points = solid_points_of(elements);
        Eigen::MatrixXd slope = slope_of(m_loci.rotor) * m_loci.rotor.solid_a(Eigen::all, points.column);
        // Sectors of opposite sign cancel in the mean over the shaft; alike ones do not.
        if (m_model.sector.sign > 0) slope.colwise() -= (slope * points.weight / points.weight.sum()).eval();
        m_out.shaft += depth() * spread(points, mean_squares(slope) / rho);
    }

    void strands() {
        const auto weights = strand_weights(m_model);
        if (!weights) return;
        const SideLoci& side = m_loci.stator;
        const Eigen::MatrixXd d = slope_of(side), vx = d * side.mean_bx, vy = d * side.mean_by;
        double loss = 0;
        Eigen::Index column = 0;
        for (std::size_t i : side.elements) {
            if (!has_mean(part(i))) continue;
            if (part(i).use == Use::Conductor) {
                const Point out = outwards(m_model, m_model.elements[i]);
                const double radial = (out.x * vx.col(column) + out.y * vy.col(column)).squaredNorm(),
                             tangential = (out.x * vy.col(column) - out.y * vx.col(column)).squaredNorm();
                const double density =
                    (weights->radial * radial + weights->tangential * tangential) / side.samples();
                m_out.density[i].classical += density;
                loss += depth() * area(i) * density;
            }
            ++column;
        }
        m_out.strands = loss;
    }

    /// What drives currents in one magnet: its potential's slope at its points, less its mean.
    struct MagnetSlope {
        SolidPoints points;
        Eigen::MatrixXd slope;
        double area;
    };
    MagnetSlope slope_in(const std::vector<std::size_t>& body, const Eigen::MatrixXd& d) const {
        MagnetSlope out{solid_points_of(body), {}, 0};
        const SolidPoints& points = out.points;
        Eigen::VectorXd signs{points.weight.size()};
        for (std::size_t k = 0; k < points.element.size(); ++k)
            signs[Eigen::Index(k)] = part(points.element[k]).magnet_sign;
        out.area = points.weight.sum();
        out.slope = d * m_loci.rotor.solid_a(Eigen::all, points.column) * signs.asDiagonal();
        out.slope.colwise() -= (out.slope * points.weight / out.area).eval(); // no current leaves the magnet
        return out;
    }
    double kept(const std::vector<std::size_t>& body, const MagnetSlope& in) const {
        const Part& first = part(body.front());
        const Substance& magnet = *m_model.substance(first);
        const AcrossMagnet across =
            across_magnet(first, m_model.sector, m_model.chart(first), places(in.points), in.points.weight,
                          body_width(magnet, in.area / m_model.share(first)));
        return kept_in_pieces(across, in.slope, magnet.length);
    }

    void magnets() {
        const Eigen::MatrixXd d = slope_of(m_loci.rotor);
        double slope2 = 0, bend2 = 0; // of the potential, weighed with the area
        for (const std::vector<std::size_t>& body : magnet_bodies(m_model)) {
            const Substance& magnet = *m_model.substance(part(body.front()));
            if (magnet.resistivity <= 0) continue;
            const MagnetSlope in = slope_in(body, d);
            const double share = magnet.filling * kept(body, in);
            const Eigen::VectorXd squares = mean_squares(in.slope);
            m_out.magnets += depth() * spread(in.points, share / magnet.resistivity * squares);
            slope2 += in.points.weight.dot(squares);
            bend2 += in.points.weight.dot(mean_squares(d * in.slope));
        }
        m_out.magnet_order = slope2 > 0 ? std::sqrt(bend2 / slope2) / (2 * pi) : 0;
    }

    const MachineModel& m_model;
    const Loci& m_loci;
    std::vector<Eigen::Index> m_solid_column; ///< of each element of the rotor's, where its points begin
    std::vector<char> m_beyond;               ///< of each element of steel: it goes beyond its loss table
    std::vector<double> m_biased;             ///< … and the share of its points whose loops stand on a bias
    Eigen::MatrixXd m_waves;                  ///< squares of the side in hand, see squares_of_waves
    std::vector<IronLossLaw> m_laws;          ///< of the substances
    FieldLosses m_out;
};

} // namespace

double IronLoss::at(double f) const {
    assert(f >= 0);
    double loss = f * hysteresis + classical_at(f) + std::pow(f, 1.5) * excess;
    for (const Power& p : power) loss += p.loss == 0 ? 0 : std::pow(f, p.alpha) * p.loss;
    return loss;
}

double IronLoss::classical_at(double f) const {
    return f * f * classical * share_by_corner(skin, f);
}

void IronLoss::add(const IronLoss& other, double share) {
    hysteresis += share * other.hysteresis;
    if (const double sum = classical + share * other.classical; sum > 0)
        skin = (classical * skin + share * other.classical * other.skin) / sum;
    classical += share * other.classical;
    excess += share * other.excess;
    for (const Power& from : other.power) {
        if (from.loss == 0) continue;
        const auto distance = [&](const Power& to) {
            return to.alpha == from.alpha ? -1 : to.loss == 0 ? 0 : std::abs(to.alpha - from.alpha);
        };
        Power& to = distance(power[1]) < distance(power[0]) ? power[1] : power[0];
        if (to.loss == 0) to.alpha = from.alpha;
        to.loss += share * from.loss;
    }
}

IronLoss IronLoss::scaled(double factor) const {
    IronLoss out;
    out.add(*this, factor);
    return out;
}

std::vector<double> kept_in_pieces(const MachineModel& model, const Loci& loci) {
    return Losses(model, loci).kept_of_magnets();
}

void FieldLosses::add(const FieldLosses& slice, double share) {
    stator.add(slice.stator, share);
    rotor.add(slice.rotor, share);
    beyond.add(slice.beyond, share);
    biased.add(slice.biased, share);
    shaft += share * slice.shaft;
    magnets += share * slice.magnets;
    magnet_order = std::max(magnet_order, slice.magnet_order);
    if (slice.strands) strands = strands.value_or(0) + share * *slice.strands;
}

FieldLosses field_losses(const MachineModel& model, const Loci& loci) {
    return Losses(model, loci).run();
}

} // namespace mavlo
