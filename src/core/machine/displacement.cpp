#include "machine/displacement.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

double number_or(const Machine& m, const char* path, double other) {
    const double value = m.values.has(path) ? m.values.number(path) : 0;
    return value > 0 ? value : other;
}

/// Of the first slot's pitch, about which slots stand in the machine's frame.
struct Pitch {
    double face, half, depth; ///< m, rad, m
    double away;              ///< +1 where the body lies outside its face

    explicit Pitch(const Machine& m)
        : face(m.stator_radius())
        , half(pi / m.slots)
        , depth(number_or(m, "stator.slot.depth", std::abs(m.section.stator().tile.far_radius - face) / 2))
        , away(m.outer_rotor() ? -1 : 1) {}
    double depth_of(Point p) const { return std::max(0.0, away * (norm(p) - face)); }
};

/// 1 up to a depth, from there falling to 0 over another length.
double fading(double depth, double whole, double over) {
    return std::clamp(1 - (depth - whole) / over, 0.0, 1.0);
}

Point along(Point p, double by) {
    const double r = norm(p);
    return {-by * p.y / r, by * p.x / r};
}

} // namespace

Displacement off_centre(Point by) {
    return [by](Point) { return -1 * by; };
}

Displacement beside_axis(Point by) {
    return [by](Point) { return by; };
}

Displacement wider_mouth(const Machine& machine, double by) {
    const Pitch pitch(machine);
    const double mouth = mouth_width(machine).value_or(0) / 2 / pitch.face,
                 tip = number_or(machine, "stator.slot.tip_depth", 0.05 * pitch.depth);
    return [=](Point p) -> Point {
        const double theta = angle_of(p), size = std::abs(theta);
        if (size >= pitch.half || mouth <= 0) return {};
        const double hat = size <= mouth ? size / mouth : (pitch.half - size) / (pitch.half - mouth),
                     deep = fading(pitch.depth_of(p), tip, pitch.depth / 3);
        return along(p, std::copysign(by / 2 * hat * deep, theta));
    };
}

Displacement moved_slot(const Machine& machine, double by) {
    const Pitch pitch(machine);
    return [=](Point p) -> Point {
        const double share = angle_of(p) / pitch.half;
        if (std::abs(share) >= 1) return {};
        const double deep = fading(pitch.depth_of(p), pitch.depth, pitch.depth / 3);
        return along(p, by * std::pow(1 - share * share, 2) * deep);
    };
}

Displacement oval_bore(const Machine& machine, double by, double towards) {
    const double face = machine.stator_radius(), far = machine.section.stator().tile.far_radius;
    return [=](Point p) -> Point {
        const double r = norm(p), share = std::clamp((far - r) / (far - face), 0.0, 1.0);
        return by * share * std::cos(2 * (angle_of(p) - towards)) / r * p;
    };
}

std::optional<double> mouth_width(const Machine& m) {
    if (m.slots == 0) return std::nullopt;
    for (const char* path : {"stator.slot.opening", "stator.slot.opening_angle"}) {
        const double value = number_or(m, path, 0);
        if (value > 0)
            return path == std::string_view("stator.slot.opening") ? value : value * m.stator_radius();
    }
    return std::nullopt;
}

} // namespace mavlo
