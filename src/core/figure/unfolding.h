#pragma once
// How the field of one side goes on from one solved stretch of time to the next.

#include "figure/machine_model.h"

#include <optional>
#include <vector>

namespace mavlo {

/// After a stretch (a period, or the part of it that is solved) the pattern has moved by `shift` pitches with
/// `sign`, so that what an element sees then is what another saw before.
struct Unfolding {
    std::size_t first = 0, elements = 0; ///< of the body, in the model
    int pitches = 1;                     ///< alike pitches in the sector
    double pitch = 0;                    ///< their angle, rad
    int shift = 0, sign = 1, sector_sign = 1;

    std::size_t each() const { return elements / std::size_t(pitches); } ///< elements of a pitch
    /// Stretches until every element is back at its own pitch with its own sign.
    int stretches() const;

    /// Where a pitch's field was one stretch or more ago: vectors are turned by cosine and sine, which carry
    /// the sign.
    struct Source {
        int pitch;
        double sign, cosine, sine;
    };
    Source source(int pitch, int stretch) const;

    /// Of each pitch the first that sees the same as it, but for a shift of time and a turn.
    std::vector<int> twins() const;
};

Unfolding stator_unfolding(const MachineModel& model, const std::optional<PeriodPart>& part);
Unfolding rotor_unfolding(const MachineModel& model, const std::optional<PeriodPart>& part);

} // namespace mavlo
