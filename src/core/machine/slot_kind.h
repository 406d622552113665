#pragma once
// Kinds of stator slot. A new kind is one file in machine/slots/ that defines a SlotKind and registers it.

#include "machine/cell.h"
#include "machine/design.h"
#include "winding/layout.h"

#include <string>
#include <vector>

namespace mavlo {

/// Half the contour of a slot, centred on +x, from the mouth's corner on the bore to its bottom on the centre
/// line.
struct SlotContour {
    struct Step {
        Point to;
        std::optional<Point> centre{}; ///< of the arc that leads here; straight when empty
    };
    std::vector<Step> steps;
    std::size_t conductor_from = 0; ///< index of the step where the conductors begin; 0: they reach the bore
    std::vector<SizeHint> hints;
};

/// Radii and pitch that a slot lives in.
struct StatorFrame {
    double bore_radius = 0, outer_radius = 0;
    int slots = 0;
    double half_pitch() const;
};

struct SlotKind {
    std::string name;
    std::vector<std::string> paths; ///< parameters under stator.slot. that it uses
    /// The contour, or what collides with what and by how much. Empty steps: no slot at all.
    Result<SlotContour> (*contour)(const StatorFrame&, const Values&) = nullptr;
    /// Dimensions of slot 0 for the drawing.
    std::vector<DimensionMark> (*marks)(const StatorFrame&, const Values&) = nullptr;
};

/// Registers a kind at start-up: `static const RegisterSlotKind r{{...}};`
struct RegisterSlotKind {
    explicit RegisterSlotKind(SlotKind kind);
};

const SlotKind* find_slot_kind(const std::string& name);
std::vector<std::string> slot_kind_names();

/// The stator's cell with this slot; conductors shared as the winding wants.
Cell stator_cell(const StatorFrame& frame, const SlotContour& contour, SlotSharing sharing);

/// A sentence with an amount in mm: "{:.2f} mm".
std::string millimetres(double metres);

} // namespace mavlo
