#include "winding/conductor.h"

#include "quantity/constants.h"
#include "winding/wire.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr double bundle = 1.155;

} // namespace

ConductorSize size_conductor(const ConductorInput& in) {
    ConductorSize out;
    out.shape = in.shape;
    out.strands = in.strands;
    const double wanted = in.fill_factor * in.slot_area / in.turns_in_slot / in.strands; // of a strand
    if (out.is_round()) {
        out.diameter = in.diameter > 0 ? in.diameter : std::sqrt(4 * wanted / pi);
        const double strand = insulated_diameter(out.diameter, in.grade);
        out.outer_width = out.outer_height =
            in.shape == ConductorShape::Litz ? bundle * std::sqrt(double(in.strands)) * strand : strand;
        out.width = out.height = out.diameter;
        out.area = in.strands * pi / 4 * out.diameter * out.diameter;
    } else {
        const double increase = rectangular_increase(in.grade);
        out.width = in.width;
        out.height = in.height;
        if (in.shape == ConductorShape::Foil && out.height == 0)
            out.height = std::max(0.0, 0.96 * in.coil_height - increase);
        if (out.width == 0 && out.height == 0) out.width = std::sqrt(2 * wanted); // twice as wide as high
        if (out.width == 0) out.width = out.height > 0 ? wanted / out.height : 0;
        if (out.height == 0) out.height = out.width > 0 ? wanted / out.width : 0;
        out.outer_width = out.width + increase;
        out.outer_height = out.height + increase;
        out.area = in.strands * out.width * out.height;
    }
    const double conductors = in.turns_in_slot * out.packed_a_turn(),
                 outer = out.is_round() ? pi / 4 * out.outer_width * out.outer_width
                                        : out.outer_width * out.outer_height,
                 free = in.free_area > 0 ? in.free_area : in.slot_area;
    out.fill = in.slot_area > 0 ? out.area * in.turns_in_slot / in.slot_area : 0;
    out.insulated_fill = free > 0 ? conductors * outer / free : 0;
    return out;
}

} // namespace mavlo
