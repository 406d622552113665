#include "figure/axial_curvature.h"

#include "machine/axial.h"
#include "quantity/constants.h"
#include "quantity/gauss_legendre.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace mavlo {
namespace {

/// Heights from the magnets' face: how thick they are, where the far plane stands, and the coil's layer.
struct Layers {
    double magnet, gap, coil_from, coil_to, mu;
};

class Ratio {
  public:
    Ratio(const Machine& machine, int order)
        : m_values(machine.values)
        , m_form(axial_form(machine.values))
        , m_order(order)
        , m_pairs(machine.poles / 2)
        , m_layers(layers_of(machine)) {
        add_radii(m_form.inner, m_form.outer, 24);
        if (const double reach = corners(); reach > m_form.outer) add_radii(m_form.outer, reach, 4);
    }

    double operator()() const {
        double slices = 0;
        for (const AtRadius& at : m_radii)
            slices += at.weight * crossing(m_order * m_pairs / at.r) * at.magnets * at.coil;
        return spread() / slices;
    }

  private:
    /// Fine enough for what the largest wave number makes of the whole ring.
    void add_radii(double from, double to, int pieces) {
        for (int k = 0; k < pieces; ++k)
            for (const GaussPoint& p : gauss_legendre(6)) {
                const double r = from + (to - from) * (k + p.at) / pieces;
                m_radii.push_back({r, p.weight * (to - from) / pieces * r, magnets(r), coil(r)});
            }
    }

    bool rectangles() const { return m_values.word("rotor.magnet.outline") == "rectangle"; }
    /// Radius of the corners that rectangular magnets have beyond the ring.
    double corners() const {
        return rectangles() ? std::hypot(m_form.outer, m_values.number("rotor.magnet.width") / 2) : 0;
    }

    struct AtRadius {
        double r, weight, magnets, coil;
    };

    static Layers layers_of(const Machine& machine) {
        const Values& v = machine.values;
        const Tile &rotor = machine.section.rotor().tile, &stator = machine.section.stator().tile;
        const AxialForm form = axial_form(v);
        const double face = rotor.face_radius,
                     thickness = v.number("rotor.magnet.thickness") / (form.magnets_alone ? 2 : 1),
                     far = stator.iron_radius;
        Layers out{thickness, far - face, far - face, far - face, machine.magnet()->recoil_mu_r()};
        if (v.has(
                "winding.side_thickness")) { // a layer in the gap; conductors in slots count on the iron's face
            out.coil_from = stator.face_radius - face;
            out.coil_to = out.coil_from + (form.coreless ? 0.5 : 1.0) * v.number("winding.side_thickness");
        }
        return out;
    }

    /// The magnets' and the coil side's n-th coefficients, but for what does not follow the radius.
    double magnets(double r) const {
        const double whole = std::sin(m_order * m_pairs * magnet_arc(m_values, r) / 2);
        if (r <= m_form.outer || !rectangles()) return whole;
        return whole - std::sin(m_order * m_pairs * std::acos(m_form.outer / r)); // two corners
    }
    double coil(double r) const {
        if (r > m_form.outer || !has_coils_at(m_values, r)) return 0;
        if (!m_values.has("winding.side_width") || m_values.is_auto("winding.side_width")) return 1;
        const double half = m_order * m_pairs * m_values.number("winding.side_width") / (2 * r);
        return half > 0 ? std::sin(half) / half : 1;
    }

    /// F: the mean over the coil's layer of what reaches it, its distance counted from the far plane.
    double crossing(double u) const {
        const auto& l = m_layers;
        const double magnet = std::tanh(u * l.magnet), near = l.gap - l.coil_to, away = l.gap - l.coil_from;
        // cosh(u d)/cosh(u g), averaged; by exponentials, so that large u makes no infinity.
        const auto share = [&](double d) {
            return (std::exp(u * (d - l.gap)) + std::exp(-u * (d + l.gap))) / (1 + std::exp(-2 * u * l.gap));
        };
        const auto integral = [&](double d) {
            return (std::exp(u * (d - l.gap)) - std::exp(-u * (d + l.gap))) / (1 + std::exp(-2 * u * l.gap)) /
                   u;
        };
        const double mean =
            away - near > 1e-9 ? (integral(away) - integral(near)) / (away - near) : share((away + near) / 2);
        return mean * magnet / (magnet + l.mu * std::tanh(u * l.gap));
    }

    double spread() const {
        const double last = 120 / m_form.length(), first_piece = 2 / m_form.outer;
        const int pieces = int(std::ceil(last / first_piece));
        double sum = 0;
        for (int piece = 0; piece < pieces; ++piece)
            for (const GaussPoint& p : gauss_legendre(4)) {
                const double k = last * (piece + p.at) / pieces;
                double m = 0, c = 0;
                for (const AtRadius& at : m_radii) {
                    const double bessel = at.weight * std::cyl_bessel_j(double(m_order * m_pairs), k * at.r);
                    m += bessel * at.magnets;
                    c += bessel * at.coil;
                }
                sum += p.weight * last / pieces * k * crossing(k) * m * c;
            }
        return sum;
    }

    const Values& m_values;
    AxialForm m_form;
    int m_order, m_pairs;
    Layers m_layers;
    std::vector<AtRadius> m_radii;
};

} // namespace

std::optional<double> linkage_in_three_dimensions(const Machine& machine, int order) {
    if (!machine.facts().axial || !machine.wound() || !machine.magnet()) return std::nullopt;
    if (!machine.values.has("rotor.magnet.thickness") || other_gap(machine.values) != machine.gap)
        return std::nullopt;
    return Ratio(machine, order)();
}

} // namespace mavlo
