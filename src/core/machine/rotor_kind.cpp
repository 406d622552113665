#include "machine/rotor_kind.h"

#include <algorithm>
#include <numbers>

namespace mavlo {
namespace {
std::vector<RotorKind>& kinds() {
    static std::vector<RotorKind> list;
    return list;
}
} // namespace

double RotorFrame::half_pitch() const {
    return std::numbers::pi / poles;
}

RegisterRotorKind::RegisterRotorKind(RotorKind kind) {
    kinds().push_back(std::move(kind));
}

const RotorKind* find_rotor_kind(const std::string& name) {
    const auto found =
        std::find_if(kinds().begin(), kinds().end(), [&](const RotorKind& k) { return k.name == name; });
    return found == kinds().end() ? nullptr : &*found;
}

std::vector<std::string> rotor_kind_names() {
    std::vector<std::string> names;
    for (const RotorKind& kind : kinds()) names.push_back(kind.name);
    return names;
}

double hole_radius(double inner_radius, int pole_pairs) {
    return inner_radius * (pole_pairs <= 1 ? 0.03 : pole_pairs == 2 ? 0.15 : pole_pairs < 6 ? 0.3 : 0.6);
}

} // namespace mavlo
