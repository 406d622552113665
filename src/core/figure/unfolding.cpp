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

Unfolding of_body(const MachineModel& model, const Body& body, int shift, int sign) {
    const int number = int(&body - model.machine.section.bodies.data());
    const std::size_t first = model.first_element[std::size_t(number)],
                      end = model.first_element[std::size_t(number) + 1];
    const Sector& sector = model.machine.sector();
    return {first, end - first, sector.pitches[std::size_t(number)], body.tile.pitch, shift, sign, sector.sign};
}

} // namespace

int Unfolding::stretches() const {
    for (int k = 1;; ++k)
        if ((k * shift) % pitches == 0 && sign_after(*this, k, k * shift / pitches) > 0) return k;
}

Unfolding::Source Unfolding::source(int at, int stretch) const {
    const auto [from, sectors] = wrapped(at - stretch * shift, pitches);
    const double s = sign_after(*this, stretch, sectors), angle = (at - from) * pitch;
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
    return of_body(model, model.machine.section.stator(), part ? part->slots : 0, part ? part->sign : 1);
}

Unfolding rotor_unfolding(const MachineModel& model, const std::optional<PeriodPart>& part) {
    const Machine& m = model.machine;
    // After a whole period the pattern in the stator is the same; each pole stands where the next but one was.
    // Tiles that do not fill the period (bars) stand nowhere where another was: each is for itself.
    const int tiles = m.section.rotor().pitches, period = tiles % m.pole_pairs() ? 0 : -tiles / m.pole_pairs();
    return of_body(model, m.section.rotor(), part ? part->tiles : period, part ? part->sign : 1);
}

} // namespace mavlo
