#pragma once
// Loss of electrical steel, from the table of its data sheet.

#include "material/sheet.h"
#include "quantity/problem.h"

#include <string>
#include <vector>

namespace mavlo {

/// A row of the table: sinusoidal flux density of this peak value.
struct LossPoint {
    double frequency = 0;    ///< Hz
    double flux_density = 0; ///< T, peak
    double loss = 0;         ///< W/kg
    bool operator==(const LossPoint&) const = default;
};

/// Separated: p = k_h f B^(a + b B) + k_c F f^2 B^2 + k_e f^1.5 B^1.5
///   with hysteresis, classical eddy currents in the sheet (F: its skin effect, sheet_share), and excess (G.
///   Bertotti, IEEE Trans. Magn. 24(1), 1988). The exponent that rises with B is common for hysteresis of
///   steels near saturation (D. Ionel et al., IEEE Trans. Ind. Appl. 43(6), 2007).
/// Power: p = k f^alpha B^(a + b B), C. P. Steinmetz's law (Proc. IEEE 72(2), 1984, of 1892) with a free
///   exponent of the frequency and the same rising exponent of B.
enum class LossLaw { Separated, Power };

std::string to_string(LossLaw law); ///< "separated", "power"

/// Loss of one kilogram by one of the laws.
struct IronLossLaw {
    LossLaw law = LossLaw::Separated;
    double hysteresis = 0;           ///< k_h, J/kg at 1 T; the power law's k
    double exponent = 0, bend = 0;   ///< a, b
    double classical = 0;            ///< k_c
    double excess = 0;               ///< k_e
    double alpha = 1;                ///< of the frequency in the power law
    double fit_error = 0;            ///< rms of the relative differences from the table
    std::vector<LossPoint> points{}; ///< the table itself
    std::vector<double> corners{};   ///< of the sheet, see Sheet

    bool known() const { return !points.empty(); }
    double hysteresis_per_cycle(double b) const;                    ///< J/kg, amplitude b in T; separated law
    double loss(double frequency, double b) const;                  ///< W/kg, sinusoidal
    double corner(double b) const { return corner_at(corners, b); } ///< Hz; 0: not known
    double largest_flux_density() const;                            ///< of the table, T; 0 without one
    double largest_frequency() const;                               ///< Hz
    /// Whether the frequency or the flux density lies outside the table.
    bool extrapolates(double frequency, double b) const;
    bool operator==(const IronLossLaw&) const = default;
};

/// Least relative squares over the table. k_c is that of the sheet (Bertotti) where it is known, and fitted
/// otherwise. F is 1 where a table fits clearly better without it: what was measured is believed. Fails when a row is not positive or finite, when there are
/// fewer than four rows, or rows of one frequency only.
Result<IronLossLaw> fit_iron_loss(std::vector<LossPoint> points, const Sheet& sheet,
                                  LossLaw law = LossLaw::Separated);

} // namespace mavlo
