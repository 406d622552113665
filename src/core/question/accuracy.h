#pragma once
// Meshes as fine as an accuracy of figures asks for.

#include "question/point_store.h"
#include "question/trial.h"

#include <optional>

namespace mavlo {

/// What figures are promised for, as a share of their peak: torque waveforms, without current and about their
/// mean (of peaks above a thousandth of the torque at rated current; 0: nothing is promised of them), and flux
/// linkages and the mean torque.
struct Promise {
    double waveform = 0, mean = 0;
    /// Questions that promise no waveform ask for all currents up to the largest.
    bool whole_range() const { return waveform == 0; }
};
Promise promise_of(Quality quality);

/// Errors that are estimated to be left, at the trial's positions: of the torque without current, about its
/// mean and of the mean (N.m), and of the flux linkages (Wb).
struct Leftover {
    double cogging = 0, ripple = 0, mean_torque = 0, linkage = 0;
    bool operator==(const Leftover&) const = default;
};

/// Element sizes that keep a promise, for each body's tile, and what they leave.
struct Sizing {
    std::vector<std::vector<SizeHint>> hints; ///< in place of the tile's own
    double coarseness = 1;                    ///< of the tiles
    /// Of the estimated errors of the promised figures the worst, over what is promised; 0: nothing was.
    double share = 0;
    Leftover left{};
    int solves = 0;
    bool operator==(const Sizing&) const = default;
};

/// Refines the machine's mesh where its trial fields say that promised figures are wrong, until all are within
/// the promise. The estimates are those of GoalErrors; a safety factor makes up for what positions between the
/// trial's may add.
Result<Sizing> find_sizing(Machine machine, Quality quality, const Promise& promise, int threads,
                           const Watch& watch);

/// The same, kept: in the store and for as long as the program runs. A machine whose trial fields cannot be
/// solved keeps its own sizes. `subject`: names the design whose machine this is.
Result<Sizing> kept_sizing(const Machine& machine, const std::string& subject, Quality quality,
                           const Promise& promise, int threads, const Watch& watch, const PointStore& store);

/// A sizing as it stands in a store of its own subject; nothing where it is missing or was cut short.
std::optional<Sizing> read_sizing(const PointStore& store, std::size_t bodies);
void write_sizing(const PointStore& store, const Sizing& sizing);

Machine sized(Machine machine, const Sizing& sizing);

} // namespace mavlo
