#pragma once
// What slots have in common: mouth and tooth tip, wedge, rounded bottom, notches in the tooth's face. A kind
// gives the line its sides run along, and whatever else makes it special.

#include "machine/slots/slot_values.h"
#include "machine/tile_drawing.h"

namespace mavlo {

/// Half the contour of a slot, centred on the axis, from the mouth's corner at the gap to its bottom on the
/// axis.
struct SlotContour {
    struct Step {
        Point to;
        std::optional<Point> centre{}; ///< of the arc that leads here; straight when empty
    };
    std::vector<Step> steps;
    std::size_t conductor_from = 0;    ///< index of the step where the conductors begin; 0: they reach the gap
    std::optional<Point> wedge_from{}; ///< where a wedge of a material of its own begins
    /// Where layers of conductors part, from the gap on: on the way to the end of step `cut_step`.
    std::size_t cut_step = 0;
    std::vector<Point> cuts;
    std::vector<SizeHint> hints;
};

/// The straight side of a slot's body, running away from the gap.
struct Flank {
    Point from, to;
};

/// Mouth of the width or angle that the design gives, sloping tip, side and bottom; or what collides.
Result<SlotContour> slot_contour(const TileFrame& frame, const SlotValues& values, const Flank& flank);

/// The tile with this slot, and with the slot of the values' kind. With a bridge of iron (m) before its mouth
/// the contour is one of a gap that lies so much deeper.
Tile slot_tile(const TileFrame& frame, const SlotContour& contour, const SlotValues& values, double bridge = 0);
Result<Tile> slot_tile(const TileFrame& frame, const SlotValues& values);

/// Area inside the contour beyond the wedge, and what the liner leaves of it, m2 of the whole slot.
struct SlotArea {
    double whole = 0, conductors = 0;
};
SlotArea slot_area(const Chart& chart, const SlotContour& contour, double liner);

/// The dimensions that mouth, tip, depth and notches have in every kind.
std::vector<DimensionMark> common_marks(const TileFrame& frame, const SlotValues& values,
                                        const SlotContour& contour);
/// Those of the values' kind.
std::vector<DimensionMark> slot_marks(const TileFrame& frame, const SlotValues& values);

/// The parameters that belong to it. `by_angle`: the mouth is dimensioned by an angle.
std::vector<Parameter> slot_parameters(bool by_angle, const char* tip_angle, std::vector<Parameter> own,
                                       const char* corner_radius = "= min(1 mm, 0.07 * slot_pitch)");

/// Half the mouth's width on the gap's circle, m.
double half_mouth(const TileFrame& frame, const SlotValues& values);

/// The kind's contour again, for areas and depths; of the stator's slots where no place is named.
Result<SlotContour> contour_of(const TileFrame& frame, const SlotValues& values);
Result<SlotContour> contour_of(const TileFrame& frame, const Values& values);
/// Whether the stator's slots have a contour; conductors in the gap have none.
bool has_contour(const Values& values);

/// How a slot's contour is made, in whatever place it stands.
struct SlotShape {
    std::string name;
    Result<SlotContour> (*contour)(const TileFrame&, const SlotValues&) = nullptr;
    std::vector<DimensionMark> (*marks)(const TileFrame&, const SlotValues&) = nullptr;
    int order = 0;
};

/// The parameters that bars of a shape have, from those of slots: bars fill them, and have neither liner nor
/// wedge.
std::vector<Parameter> bar_parameters(const std::vector<Parameter>& of_slots);

/// Registers shape and kinds, of slots and of bars, together.
struct RegisterSlot {
    RegisterSlot(std::string name, std::string tells, std::vector<Parameter> parameters,
                 Result<SlotContour> (*contour)(const TileFrame&, const SlotValues&),
                 std::vector<DimensionMark> (*marks)(const TileFrame&, const SlotValues&), int order,
                 bool flat = false);
};

} // namespace mavlo
