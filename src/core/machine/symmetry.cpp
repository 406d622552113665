#include "machine/symmetry.h"

#include <cmath>
#include <numbers>
#include <numeric>

namespace mavlo {
namespace {

/// Whether the rotor is itself, with this sign, after so many tiles.
bool fits(const Pitches& p, int tiles, int sign) {
    switch (p.repeat) {
    case Pitches::Repeat::Alternating:
        return sign == (tiles % 2 ? -1 : 1);
    case Pitches::Repeat::Alike:
        return sign > 0;
    default:
        return true;
    }
}

Sector find_sector(const Pitches& p, const WindingLayout* layout) {
    const int common = p.smooth() ? p.rotor_tiles : std::gcd(p.slots, p.rotor_tiles);
    for (int count = common; count > 1; --count) {
        if (common % count) continue;
        const int tiles = p.rotor_tiles / count;
        for (int sign : {1, -1}) {
            if (!fits(p, tiles, sign)) continue;
            if (sign < 0 && count % 2) continue;
            if (layout && !repeats_after(*layout, p.slots / count, sign)) continue;
            return {count, sign};
        }
    }
    return {};
}

std::optional<PeriodPart> find_part(const Pitches& p, const WindingLayout* layout) {
    if (!layout) return std::nullopt;
    const PhaseStep step = layout->switched() ? stroke_step(layout->lags) : phase_step(layout->lags);
    const int parts = int(std::lround(2 * std::numbers::pi / step.angle));
    if (std::abs(parts * step.angle - 2 * std::numbers::pi) > 1e-6) return std::nullopt;
    // The rotor's tiles go on by `tiles` more than the part of a period: tiles pitch = slots pitch -
    // period/parts.
    const long half_periods = 2L * layout->periods();
    for (int slots = 0; slots < p.slots; ++slots) {
        // Tiles, of 2p/tiles half periods each: (slots 2p/Q - 2/parts) tiles/2p, times parts Q 2p.
        const long numerator = (long(slots) * half_periods * parts - 2L * p.slots) * p.rotor_tiles,
                   denominator = long(parts) * p.slots * half_periods;
        if (numerator % denominator) continue;
        const int tiles = int(numerator / denominator);
        for (int sign : {1, -1})
            if (fits(p, tiles, sign) && repeats_after(*layout, slots, sign, &step))
                return PeriodPart{parts, slots, tiles, sign, step};
    }
    return std::nullopt;
}

} // namespace

double Sector::angle() const {
    return 2 * std::numbers::pi / count;
}

Symmetry find_symmetry(const Pitches& p, const WindingLayout* layout, bool whole, bool mirrored) {
    Symmetry s;
    if (!whole) s.sector = find_sector(p, layout);
    s.mirrored = mirrored;
    s.periods = layout ? layout->periods() : p.poles / 2;
    s.cogging_periods = std::lcm(p.smooth() ? 1 : p.slots, p.rotor_tiles);
    s.part = find_part(p, layout);
    return s;
}

} // namespace mavlo
