#include "figure/unfolding.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// Index of a pitch among `count` in the sector, and how often the sector was left on the way.
struct Wrapped {
    int index, sectors;
};

Wrapped wrapped(int pitch, int count) {
    const int sectors = pitch >= 0 ? pitch / count : -((count - 1 - pitch) / count);
    return {pitch - sectors * count, sectors};
}

double sign_after(const Unfolding& u, int stretches, int sectors) {
    return (u.sign < 0 && stretches % 2 ? -1 : 1) * (u.sector_sign < 0 && sectors % 2 ? -1 : 1);
}

/// Of the `side`-th body of every section.
std::vector<std::size_t> elements_of(const MachineModel& model, std::size_t side, int pitches) {
    std::vector<std::size_t> out;
    for (int p = 0; p < pitches; ++p)
        for (std::size_t body = side; body < model.meshes.size(); body += FieldModel::bodies) {
            const std::size_t first = model.first_element[body],
                              each = (model.first_element[body + 1] - first) / std::size_t(pitches);
            for (std::size_t k = 0; k < each; ++k) out.push_back(first + std::size_t(p) * each + k);
        }
    return out;
}

Unfolding of_body(const MachineModel& model, std::size_t side, int shift, int sign) {
    const Sector& sector = model.machine.sector();
    const Tile& tile = model.machine.section.bodies[side].tile;
    const int pitches = sector.pitches[side];
    return {elements_of(model, side, pitches),
            pitches,
            tile.pitch,
            !tile.chart.is_flat(),
            shift,
            sign,
            sector.sign};
}

} // namespace

int Unfolding::stretches() const {
    for (int k = 1;; ++k)
        if ((k * shift) % pitches == 0 && sign_after(*this, k, k * shift / pitches) > 0) return k;
}

Unfolding::Source Unfolding::source(int at, int stretch) const {
    const auto [from, sectors] = wrapped(at - stretch * shift, pitches);
    const double s = sign_after(*this, stretch, sectors), angle = turns ? (at - from) * pitch : 0;
    return {from, s, s * std::cos(angle), s * std::sin(angle)};
}

std::vector<int> Unfolding::twins() const {
    std::vector<int> twin;
    for (int p = 0; p < pitches; ++p) {
        twin.push_back(p);
        for (int k = 1; k < stretches(); ++k) twin.back() = std::min(twin.back(), source(p, k).pitch);
    }
    return twin;
}

Unfolding stator_unfolding(const MachineModel& model, const std::optional<PeriodPart>& part) {
    return of_body(model, model.stator_body(), part ? part->slots : 0, part ? part->sign : 1);
}

Unfolding rotor_unfolding(const MachineModel& model, const std::optional<PeriodPart>& part) {
    const Machine& m = model.machine;
    // After a whole period the pattern in the stator is the same; each pole stands where the next but one was.
    // Tiles that do not fill the period (bars) stand nowhere where another was: each is for itself.
    const int tiles = m.section.rotor().pitches, period = tiles % m.pole_pairs() ? 0 : -tiles / m.pole_pairs();
    return of_body(model, model.rotor_body(), part ? part->tiles : period, part ? part->sign : 1);
}

} // namespace mavlo
