#include "machine/off_centre.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double share_of_gap = 0.75; ///< that the layer takes; the exact gap is left with the rest

} // namespace

Machine whole(Machine machine) {
    Sector& sector = machine.symmetry.sector;
    for (int& pitches : sector.pitches) pitches *= sector.count;
    sector.count = sector.sign = 1;
    return machine;
}

Tile with_air_layer(Tile tile, double layer) {
    const double face = tile.gap_radius, first = tile.first_angle(), sweep = tile.half_pitch() - first;
    tile.gap_radius += tile.outside() ? -layer : layer;
    Outline& outline = tile.outline;
    for (const double angle : {first, tile.half_pitch()})
        outline.line(outline.add(polar(tile.gap_radius, angle)), outline.add(polar(face, angle)));
    const int arcs = std::max(1, int(std::ceil(sweep / (std::numbers::pi / 3))));
    for (int k = 0; k < arcs; ++k)
        outline.arc(outline.add(polar(tile.gap_radius, first + sweep * k / arcs)),
                    outline.add(polar(tile.gap_radius, first + sweep * (k + 1) / arcs)));
    Region air;
    air.seed = polar((tile.gap_radius + face) / 2, first + sweep / 2);
    air.path = "face";
    tile.regions.push_back(air);
    return tile;
}

Machine whole_with_room(Machine machine, Eccentricity kind) {
    machine = whole(std::move(machine));
    const double gap =
        std::abs(machine.section.outer().tile.gap_radius - machine.section.inner().tile.gap_radius);
    for (Body& body : machine.section.bodies)
        if (body.turns == (kind == Eccentricity::Dynamic))
            body.tile = with_air_layer(std::move(body.tile), share_of_gap * gap);
    return machine;
}

} // namespace mavlo
