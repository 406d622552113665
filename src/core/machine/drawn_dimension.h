#pragma once
// Lengths between two points of a pitch: measured, or given to a drawn part afterwards, which then follows
// them.

#include "machine/drawn_part.h"
#include "machine/shape_outline.h"

namespace mavlo {

struct DrawnDimension {
    std::string name;
    std::string side = "rotor"; ///< or "stator"
    Point from, to;             ///< m, in the pitch's frame, as the part was drawn
    std::string value{};        ///< a length or a formula; empty: it only measures
    bool operator==(const DrawnDimension&) const = default;
};

nlohmann::ordered_json to_json(const DrawnDimension& dimension);
Result<DrawnDimension> drawn_dimension_from(const nlohmann::ordered_json& json);

/// The part with every dimension of its side that has a value made as long: what lies at its `to` (a corner, or
/// the ends of the line on which it lies) is moved along it; what is joined there stretches. On a mirrored part
/// a dimension across the axis grows on both sides. Fails with a path ("drawings.dimensions.NAME") and a
/// sentence where nothing lies at its end, or where that end belongs to the gap or to the far side.
/// `dimensions` then say where each lies afterwards, measured ones too.
Result<DrawnPart> dimensioned(DrawnPart part, std::vector<DrawnDimension>& dimensions, const std::string& side,
                              const TextValue& value);

/// Where a point on a line of `before` lies in `after`, the same part with its lines moved; elsewhere it stays.
Point carried(const DrawnPart& before, const DrawnPart& after, Point p);

/// The first of "length 1", "length 2", … that is free.
std::string dimension_name(const std::vector<DrawnDimension>& dimensions);

} // namespace mavlo
