#pragma once
// Phases of a winding as electrical angles, and how their currents repeat within a period.

#include <optional>
#include <string>
#include <vector>

namespace mavlo {

/// Electrical angles by which the phases lag behind the first, rad: odd numbers a whole turn apart evenly, even
/// ones half a turn (two phases 90 degrees); six are two three-phase sets 30 degrees apart (E. Levi, IEEE
/// Trans. Ind. Electron. 55(5), 2008). With `set_shift`, phases in threes are sets of 120 degrees, each that
/// much (rad) behind the one before.
std::vector<double> phase_lags(int phases, std::optional<double> set_shift = {});

/// How symmetrical currents go on after an electrical `angle`: phase k then carries what phase `from[k]`
/// carried, times `sign[k]`.
struct PhaseStep {
    double angle = 0; ///< rad
    std::vector<int> from, sign;
    bool operator==(const PhaseStep&) const = default;
};
/// By the smallest angle there is: half a turn over the phases where their axes stand evenly, half a turn
/// always.
PhaseStep phase_step(const std::vector<double>& lags);

/// Of phases that are switched one after the other, none of them reversed: by the smallest angle.
PhaseStep stroke_step(const std::vector<double>& lags);

/// "U", "V", "W"; of several sets "U1" … "W3"; of other numbers of phases "A", "B", ….
std::string phase_name(int phase, int phases);

} // namespace mavlo
