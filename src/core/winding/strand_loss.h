#pragma once
// Loss of strands with alternating current: what each adds by skin effect, by its neighbours' field, and by
// currents that circulate between strands in hand.

#include "quantity/dense.h"
#include "shape/outline.h"

#include <complex>
#include <vector>

namespace mavlo {

/// sqrt(2 rho / (2 pi f mu)), m
double skin_depth(double resistivity, double frequency, double mu_r = 1);

/// Round wires of radius a, x = a/delta (W. Thomson 1889; J. Lammeraner, M. Štafl, Eddy Currents, 1966).
/// Own field: R_ac/R_dc = Re(z/2 J0(z)/J1(z)) with z = (1 - j) x.
double round_skin_factor(double x);
/// Transverse field H (rms, uniform): loss a length = P rho |H|^2 with
///   P = -4 pi x^2 Im(J2(z)/J0(z)), which tends to pi x^4 at low frequency.
double round_proximity_factor(double x);

/// A bar of height h = x delta across which the field goes from H1 to H2 (rms, A/m, both along the slot's
/// width; P.L. Dowell, Proc. IEE 113(8), 1966; A.B. Field, AIEE Trans. 24, 1905), a width:
///   P = rho/delta [(|H1|^2 + |H2|^2) A(x) - 2 Re(H1 conj H2) B(x)],
///   A = (sinh 2x + sin 2x)/(cosh 2x - cos 2x),  B = 2 (sinh x cos x + cosh x sin x)/(cosh 2x - cos 2x).
struct BarFactors {
    double a = 0, b = 0;
};
BarFactors bar_factors(double x);

/// The slot's width over the depth below its mouth, for the leakage field that crosses it:
/// H = (ampere-turns between here and the bottom)/width.
struct SlotProfile {
    std::vector<double> depth, width; ///< m, rising depths
    double at(double depth) const;
    /// Integral of 1/width from the first depth to this one: the leakage permeance that lies above.
    double above(double depth) const;
};

/// A conductor of the slot, by where it lies.
struct PlacedStrand {
    double depth = 0;           ///< of its middle, m
    std::complex<double> share; ///< its current over the phase's
    int turn = 0, strand = 0;   ///< turn of its coil side, and which strand in hand
    int side = 0;               ///< coil side (layer)
};

struct StrandShape {
    bool round = true;
    double height = 0; ///< radial, or the diameter, m
    double width = 0;  ///< across, or the diameter, m
    double resistivity = 0;
    double area() const;
};

/// The currents of strands in hand, which are joined at both ends of every coil only, over their even share,
/// and the loss over that of even shares: mean |i|^2.
struct StrandSharing {
    std::vector<std::complex<double>> current;
    double loss_factor = 1;
};

/// The strands of one slot in its leakage field, which goes straight across it: H = ampere-turns deeper in the
/// slot over its width there.
class SlotStrands {
  public:
    SlotStrands(std::vector<PlacedStrand> strands, SlotProfile slot, const StrandShape& shape);

    /// Loss of each strand over what direct current of the same size makes in it, at this frequency (Hz).
    /// Strands in hand share the current evenly.
    std::vector<double> factors(double frequency) const;
    /// Of all of them together.
    double factor(double frequency) const;
    /// How the strands in hand of a coil side link each other: what leakage flux lies above both, in every
    /// turn.
    struct Coupling {
        SymmetricModes own;         ///< of the permeances of each pair, summed over the turns
        Eigen::VectorXd even;       ///< one ampere in each strand, along these modes
        Eigen::VectorXcd others;    ///< of the other coil sides, times their shares, along these modes
        std::complex<double> share; ///< of a strand's current
        double turns = 1;
    };
    Coupling coupling(int side) const;
    /// Their currents: each has its resistance over the whole turn (`length_ratio`: the turn over its two
    /// sides' length in the slots).
    StrandSharing sharing(const Coupling& coupling, double frequency, double length_ratio) const;

    const std::vector<PlacedStrand>& strands() const { return m_strands; }

  private:
    /// Frequency leaves these as they are.
    struct Field {
        std::complex<double> low, high; ///< round: at its middle, twice; bars: at its two heights; A/m per A
        double filled = 1;              ///< of the slot's width by a row of bars
        double width = 1;               ///< of the slot, m
        int in_row = 1;
    };
    void find_round();
    void find_bars();

    std::vector<PlacedStrand> m_strands;
    SlotProfile m_slot;
    StrandShape m_shape;
    std::vector<Field> m_fields;
    double m_crossing = 0; ///< round: the neighbours' field, sum |H|^2 area over sum |share|^2
};

} // namespace mavlo
