#include "machine/tile_kind.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {

double TileFrame::pitch() const {
    return 2 * std::numbers::pi / pitches;
}

const char* TileFrame::far_path() const {
    return outside() ? "rotor.outer_diameter" : "rotor.shaft_diameter";
}

const TileKind* find_kind(Side side, std::string_view name) {
    for (const TileKind& kind : registry<TileKind>().all())
        if (kind.side == side && kind.name == name) return &kind;
    return nullptr;
}

std::vector<std::string> kind_names(Side side) {
    std::vector<std::string> names;
    for (const TileKind& kind : registry<TileKind>().all())
        if (kind.side == side) names.push_back(kind.name);
    return names;
}

const char* kind_path(Side side) {
    return side == Side::Stator ? "stator.slot.kind" : side == Side::Rotor ? "rotor.kind" : "rotor.bar.kind";
}

std::array<const TileKind*, 3> chosen_kinds(const Design& design) {
    // Their own texts, or the standards: asking Design::text() would ask for the chosen kinds again.
    const auto chosen = [&](Side side) {
        const auto own = design.texts.find(kind_path(side));
        return find_kind(side,
                         own != design.texts.end() ? own->second : find_parameter(kind_path(side))->standard);
    };
    const TileKind* rotor = chosen(Side::Rotor);
    return {chosen(Side::Stator), rotor, rotor && rotor->has_bars ? chosen(Side::Bar) : nullptr};
}

std::string millimetres(double metres) {
    return fmt::format("{:.2f} mm", metres * 1e3);
}

} // namespace mavlo
