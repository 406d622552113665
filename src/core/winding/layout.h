#pragma once
// The winding as a value: which coil lies where, and what field its currents make.

#include "winding/phases.h"

#include <array>
#include <complex>
#include <optional>
#include <vector>

namespace mavlo {

/// How the coil sides of a slot share it.
enum class SlotSharing {
    Whole,      ///< one coil side fills the slot (single layer)
    SideBySide, ///< split at the slot's centre line; layer 0 at the smaller angle
    Stacked,    ///< split at radii; layer 0 nearest the gap
};

struct CoilSide {
    int slot = 0, layer = 0;
    bool operator==(const CoilSide&) const = default;
};

/// Slot of a side that lies in none: a coil round the yoke comes back outside the core.
inline constexpr int outside_core = -1;

/// Current flows towards the reader in `go` when phase current and sign are positive.
struct Coil {
    int phase = 0; ///< 0, 1, 2 … for U, V, W …
    int sign = 1;
    CoilSide go, back;
    double turns = 1;
    bool operator==(const Coil&) const = default;
};

enum class WindingForm {
    Lap,        ///< coils of one span
    Concentric, ///< the coils of a group round one axis, one within the other
    Ring,       ///< round the yoke, one side in a slot
    Pole,       ///< one round every stator pole, the phases in turn; their currents follow the position
};
/// "lap", "concentric", "ring", "pole", in their order.
const std::vector<std::string>& winding_forms();
std::string to_string(WindingForm form);
WindingForm winding_form(const std::string& word); ///< of one of these words

struct WindingInput {
    int slots = 12, poles = 10, phases = 3, layers = 2;
    int span = 0; ///< slots between the sides of a coil; 0: the nearest to a full pitch, at least 1
    WindingForm form = WindingForm::Lap;
    std::optional<double>
        set_shift{};       ///< rad electrical between three-phase sets; empty: as phase_lags() has it
    int layer_shift = 0;   ///< slots by which each further pair of layers is turned against the one before
    bool alternate = true; ///< of pole coils: neighbours wound in opposite senses, where phases allow it
    bool operator==(const WindingInput&) const = default;
};

struct WindingLayout {
    WindingInput input; ///< with the span that was used
    SlotSharing sharing = SlotSharing::SideBySide;
    std::vector<Coil> coils;
    std::vector<double> lags; ///< of the phases, rad electrical
    bool by_hand = false;

    int coils_per_phase() const { return int(coils.size()) / input.phases; }
    double turns_of_phase(int phase) const; ///< of all its coils
    /// Phases that are switched by position, one after the other, in place of a wave that turns.
    bool switched() const { return input.form == WindingForm::Pole; }
    /// Electrical periods in a turn: the pole pairs; of switched phases one for each rotor pole.
    int periods() const { return switched() ? input.poles : input.poles / 2; }
    /// Periods a turn of the field wave that a phase makes: the pole pairs; of switched phases one for every
    /// two coils of a phase.
    int main_order() const { return switched() ? input.slots / (2 * input.phases) : input.poles / 2; }
    bool operator==(const WindingLayout&) const = default;
};

/// Slots between a coil's sides, counted the way that is meant: forward from `go`, at least 1; 0 for a ring
/// coil.
int span_of(const Coil& coil, int slots);

/// A coil's sides at the wave with `order` periods a turn (mechanical order): turns sign (e^{-i order theta_go}
/// - e^{-i order theta_back}); a ring coil has one side.
std::complex<double> coil_phasor(const Coil& coil, int slots, int order);

/// Complex winding factor of a phase for the field wave with `order` periods a turn (mechanical order):
/// sum over its coil sides of turns sign e^{-i order theta}, back sides reversed, over the sum of their turns
/// (two sides a coil; a ring coil has one). Its absolute value is the winding factor; the fundamental has order
/// poles/2.
std::complex<double> winding_factor(const WindingLayout& layout, int order, int phase = 0);

/// Electrical angles (rad, in a period) between the aligned positions of the switched phases and the first's.
std::vector<double> switched_lags(const WindingLayout& layout);

/// Mechanical angle (rad, in an electrical period) of the rotor where a north pole's axis gives the phase its
/// largest flux linkage; of a switched phase where a rotor pole faces its first coil (aligned).
double phase_axis(const WindingLayout& layout, int phase = 0);

/// True when turning the layout by `slots` gives the same (sign +1) or the reversed (sign -1) currents
/// everywhere; with `step`, the currents that the phases have a step later.
bool repeats_after(const WindingLayout& layout, int slots, int sign, const PhaseStep* step = nullptr);

/// Ampere-turns in every slot for these phase currents; positive towards the reader.
std::vector<double> slot_ampere_turns(const WindingLayout& layout, const std::vector<double>& currents);

/// Radial MMF in ampere-turns over the teeth for the given phase currents, from the one behind slot 0 on: it
/// steps at each slot and has mean value zero. What the slots' currents do not sum to zero (ring coils) is
/// spread round the gap evenly.
std::vector<double> tooth_mmf(const WindingLayout& layout, const std::vector<double>& currents);
/// The tooth at the angle `theta`.
std::size_t tooth_at(const WindingLayout& layout, double theta);
/// The MMF there.
double mmf(const WindingLayout& layout, const std::vector<double>& currents, double theta);

/// Complex amplitude of its wave with `order` periods a turn, F(theta) = Re(sum_n F_n e^{-i n theta}) A.
std::complex<double> mmf_wave(const WindingLayout& layout, const std::vector<double>& currents, int order);

/// Amplitudes of the MMF waves of this order that balanced currents of 1 A peak make: turning with the rotor
/// (forward) and against it, A.
struct TravellingMmf {
    double forward = 0, backward = 0;
};
TravellingMmf travelling_mmf(const WindingLayout& layout, int order);

} // namespace mavlo
