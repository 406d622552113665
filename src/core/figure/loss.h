#pragma once
// Losses from the field of an electrical period, part by part.

#include "figure/loci.h"

#include <array>
#include <optional>
#include <vector>

namespace mavlo {

/// Parts of a loss at an electrical frequency of 1 Hz, W in the whole machine: they grow with the frequency's
/// first power (hysteresis), second (classical, less what the sheet's skin effect takes off: sheet_skin.h) and
/// 1.5th (excess), the field being the same.
struct IronLoss {
    double hysteresis = 0, classical = 0, excess = 0;
    /// Of a power law, which knows no parts: grows with the frequency's power `alpha`.
    struct Power {
        double loss = 0, alpha = 1;
    };
    /// Of different steels; a third exponent goes to the one nearest to it.
    std::array<Power, 2> power{};
    double skin = 0; ///< of the classical part: the mean of 1/corner^3, s3
    double at(double frequency) const;
    double classical_at(double frequency) const;
    IronLoss scaled(double factor) const;
    void add(const IronLoss& other, double share);
    bool has_parts() const { return power[0].loss == 0 && power[1].loss == 0; }
};

struct FieldLosses {
    IronLoss stator, rotor; ///< with the building factors
    IronLoss beyond{};      ///< of both: where the flux density is larger than any of the steel's loss table
    IronLoss
        biased{}; ///< of both: hysteresis (a power law's all) of loops on a mean larger than their amplitude
    double shaft = 0;   ///< of a conducting shaft at 1 Hz, W; likewise
    double magnets = 0; ///< at 1 Hz, W; grows with the square of the frequency
    /// Of the harmonics that make most of the magnets' loss, as a multiple of the electrical frequency.
    double magnet_order = 0;
    /// Eddy currents in the strands by the field that crosses them, of the currents and of the magnets, at 1
    /// Hz, W; grows with the square of the frequency while strands are thinner than the skin. Empty without a
    /// winding.
    std::optional<double> strands{};
    /// W/m3 in each element at 1 Hz, hysteresis and so on apart; magnets' and strands' in `classical`.
    std::vector<IronLoss> density{};

    /// Those of a slice that is such a share of the stack; densities are left to slices.
    void add(const FieldLosses& slice, double share);
    double iron(double frequency) const { return stator.at(frequency) + rotor.at(frequency); }
    double shaft_loss(double frequency) const { return shaft * frequency * frequency; }
    double magnet(double frequency) const { return magnets * frequency * frequency; }
};

/// From the loci of one electrical period of 1 s.
///
/// Iron, per kilogram, each element with its own steel's law (IronLossLaw) and B the sheet's own flux density:
///  - classical k_c/(2 pi^2) <|dB/dt|^2> and excess k_e/8.763 <|dB/dt|^1.5>, over both components at once and
///    with every harmonic (G. Bertotti, IEEE Trans. Magn. 24, 1988; F. Fiorillo, A. Novikov, IEEE Trans.
///    Magn. 26, 1990); both give the sinusoid's law back exactly;
///  - hysteresis along the two principal axes of the locus, every closed loop of a component with half its
///    own peak to peak (E. Madelung's rules: a minor loop closes and is forgotten, Ann. Phys. 17, 1905); a
///    circle thus loses twice what an alternating field does (above some 1.5 T real steel loses less); loss
///    tables know no bias, which makes loops wider: what stands on one is told (FieldLosses::biased);
///  - a power law k f^alpha B^beta along the same two axes as k B^(beta - alpha) <|dB/dt|^alpha> / ((2
///  pi)^alpha
///    <|cos|^alpha>), which gives it back for a sinusoid (K. Venkatachalam et al., IEEE Workshop on Computers
///    in Power Electronics, 2002).
///
/// Magnets: eddy currents limited by resistance, J = -(dA/dt - mean over the magnet)/rho, and the share of each
/// order of them across the magnet that axial segments of finite length leave (kept_in_pieces). A conducting
/// shaft likewise, over all poles at once and infinitely long. The currents' own field is left out; that is
/// good while the skin depth at magnet_order is larger than half the magnet.
///
/// Strands: see StrandWeights.
FieldLosses field_losses(const MachineModel& model, const Loci& loci);

/// Share of its eddy loss that each of magnet_bodies() keeps in axial pieces, with the orders that these loci
/// have across it.
std::vector<double> kept_in_pieces(const MachineModel& model, const Loci& loci);

} // namespace mavlo
