#pragma once
// How the field of one side goes on from one solved stretch of time to the next.

#include "figure/machine_model.h"

#include <optional>
#include <vector>

namespace mavlo {

/// After a stretch (a period, or the part of it that is solved) the pattern has moved by `shift` pitches with
/// `sign`, so that what an element sees then is what another saw before.
struct Unfolding {
    /// Of the side in all sections of the stack, numbers in the model, pitch by pitch, each in the same order.
    std::vector<std::size_t> elements;
    int pitches = 1;   ///< alike pitches in the sector
    double pitch = 0;  ///< their angle, rad
    bool turns = true; ///< directions turn with the pitch; on a flat chart they do not
    int shift = 0, sign = 1, sector_sign = 1;

    std::size_t each() const { return elements.size() / std::size_t(pitches); } ///< elements of a pitch
    /// Stretches until every element is back at its own pitch with its own sign.
    int stretches() const;

    /// What stands in a pitch where element `k` of this list stands in its own.
    std::size_t in_pitch(int at, std::size_t k) const {
        return elements[std::size_t(at) * each() + k % each()];
    }

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
