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

std::array<const TileKind*, 2> chosen_kinds(const Design& design) {
    // Their own texts, or the standards: asking Design::text() would ask for the chosen kinds again.
    const auto word = [&](const char* path) {
        const auto own = design.texts.find(path);
        return own != design.texts.end() ? own->second : find_parameter(path)->standard;
    };
    return {find_kind(Side::Stator, word("stator.slot.kind")), find_kind(Side::Rotor, word("rotor.kind"))};
}

std::string millimetres(double metres) {
    return fmt::format("{:.2f} mm", metres * 1e3);
}

} // namespace mavlo
