#pragma once
// What a machine links, and its torque, with every current vector at every position of its rotor: the flux map
// with the slots' ripple.

#include "map/flux_map.h"

namespace mavlo {

/// Harmonics over the electrical angle of the rotor at one current vector: the mean, then the cosine's and the
/// sine's amplitude of each order from the first on.
struct PositionWaves {
    Dq current{};                   ///< A
    std::vector<double> d, q, zero; ///< flux linkage along d and q, and the phases' mean, Wb
    std::vector<double> torque;     ///< N.m

    int orders() const { return int(torque.size() - 1) / 2; }
    std::vector<double> row() const;
    static PositionWaves from_row(const std::vector<double>& row);
    static std::size_t columns(int orders) { return 2 + 4 * std::size_t(1 + 2 * orders); }
};

/// The mean and the harmonics up to an order of values at even steps of a period that begins at `start` (rad).
/// Half as many orders as there are values, and none that two values a period would have to tell.
std::vector<double> harmonics_over_position(const std::vector<double>& values, double start, int orders);
int orders_of(int points); ///< that so many positions of a period can tell

/// Between the points of its grid of currents as GridFunctions says, between positions by the harmonics; below
/// i_q = 0, where the grid does not go there, the mirror image, at the opposite angle. Outside the grid the
/// means go on along their slopes and the harmonics stay as they are at its edge, so that no inductance turns
/// its sign there.
class PositionMap {
  public:
    /// A machine that is the same at every position.
    explicit PositionMap(const FluxMap& map);
    /// waves[j * id.size() + i] at iq[j], id[i]; both rising, iq as a FluxMap's. Harmonics too small to be felt
    /// anywhere are left away.
    PositionMap(std::vector<double> id, const std::vector<double>& iq, const std::vector<PositionWaves>& waves);

    /// One quantity, its slopes over i_d and i_q (1/A) and over the electrical angle.
    struct Value {
        double value = 0, over_id = 0, over_iq = 0, over_angle = 0;
    };
    struct Point {
        Value d, q, zero, torque;
    };
    Point at(double angle, Dq current) const;

  private:
    enum Quantity { D, Q, Zero, Torque, quantities };
    struct Term {
        Quantity quantity;
        int order;
        bool sine;
    };
    static double part(const PositionWaves& waves, const Term& term);
    static std::vector<Term> felt_terms(const std::vector<PositionWaves>& waves);
    std::vector<double> m_id, m_iq;
    std::vector<Term> m_terms; ///< of each of the waves
    GridFunctions m_means, m_waves;
};

} // namespace mavlo
