#pragma once
// The winding: which coil lies where, found from the star of slots.

#include "quantity/problem.h"

#include <array>
#include <complex>
#include <vector>

namespace mavlo {

/// How two coil sides share a slot.
enum class SlotSharing {
    Whole,      ///< one coil side fills the slot (single layer)
    SideBySide, ///< split at the slot's centre line; layer 0 at the smaller angle
    Stacked,    ///< split at a radius; layer 0 nearest the gap
};

struct CoilSide {
    int slot = 0, layer = 0;
    bool operator==(const CoilSide&) const = default;
};

/// A coil of `turns` conductors: current flows towards the reader in `go` when phase current and sign are
/// positive.
struct Coil {
    int phase = 0; ///< 0, 1, 2 … for U, V, W …
    int sign = 1;
    CoilSide go, back;
    bool operator==(const Coil&) const = default;
};

struct WindingInput {
    int slots = 12, poles = 10, phases = 3, layers = 2;
    int span = 0; ///< slots between the sides of a coil; 0: the nearest to a full pitch, at least 1
    bool operator==(const WindingInput&) const = default;
};

struct WindingLayout {
    WindingInput input; ///< with the span that was used
    SlotSharing sharing = SlotSharing::SideBySide;
    std::vector<Coil> coils;

    int coils_per_phase() const { return int(coils.size()) / input.phases; }
    bool operator==(const WindingLayout&) const = default;
};

/// Electrical angles by which the phases lag behind the first, rad: odd numbers a whole turn apart evenly, even
/// ones half a turn (two phases 90 degrees); six are two three-phase sets 30 degrees apart (E. Levi, IEEE
/// Trans. Ind. Electron. 55(5), 2008). Axes, taken without their sense, always stand half a turn divided by the
/// phases apart.
std::vector<double> phase_lags(int phases);

/// How symmetrical currents go on after the period divided by twice the phases: phase k then carries what phase
/// `from[k]` carried, times `sign[k]`.
struct PhaseStep {
    std::vector<int> from, sign;
};
PhaseStep phase_step(int phases);

/// The balanced layout with one phase belt for each half turn's share of a phase, found from the star of slots
/// (J. Pyrhönen, T. Jokinen, V. Hrabovcová, Design of Rotating Electrical Machines, 2nd ed., ch. 2;
/// N. Bianchi, M. Dai Pré, IEE Proc. Electr. Power Appl. 153, 2006, for fractional slots).
/// Fails with a path under "winding." or "stator.slots" when no balanced layout exists.
Result<WindingLayout> propose_winding(const WindingInput& input);

/// Complex winding factor of a phase for the field wave with `order` periods a turn (mechanical order):
/// sum over the coils of sign (e^{-i order theta_go} - e^{-i order theta_back}) / (2 coils). Its absolute value
/// is the winding factor; the fundamental has order poles/2.
std::complex<double> winding_factor(const WindingLayout& layout, int order, int phase = 0);

/// Mechanical angle (rad, in [0, 2 pi/p)) where a north pole's axis gives phase U its largest flux linkage.
double phase_axis(const WindingLayout& layout, int phase = 0);

/// True when turning the layout by `slots` gives the same (sign +1) or the reversed (sign -1) currents
/// everywhere; with `step`, the currents that the phases have a step later.
bool repeats_after(const WindingLayout& layout, int slots, int sign, const PhaseStep* step = nullptr);

/// Radial MMF in ampere-turns for the given phase currents and turns a coil, at the angle `theta`: a step at
/// each slot, mean value zero.
double mmf(const WindingLayout& layout, const std::vector<double>& currents, double turns, double theta);

} // namespace mavlo
