#include "machine/slot_kind.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

std::vector<SlotKind>& kinds() {
    static std::vector<SlotKind> list;
    return list;
}

/// Crossing of the straight edge from a to b with the circle of this radius, or nothing.
std::optional<Point> crossing(Point a, Point b, double radius) {
    const Point d = b - a;
    const double p = dot(a, d) / dot(d, d), q = (dot(a, a) - radius * radius) / dot(d, d);
    if (p * p < q) return std::nullopt;
    const double t = -p + std::sqrt(p * p - q);
    if (t <= 1e-6 || t >= 1 - 1e-6) return std::nullopt;
    return a + t * d;
}

/// The radius that halves the area between the flank (a, b) and the centre line.
std::optional<Point> halving_point(Point a, Point b) {
    const double lower = norm(a), upper = norm(b);
    constexpr int steps = 400;
    std::vector<double> area(steps + 1, 0.0);
    auto angle_at = [&](double r) {
        const auto hit = crossing(a, b, r);
        return hit ? angle_of(*hit) : (r < (lower + upper) / 2 ? angle_of(a) : angle_of(b));
    };
    const double h = (upper - lower) / steps;
    for (int i = 0; i < steps; ++i) {
        const double r = lower + (i + 0.5) * h;
        area[std::size_t(i) + 1] = area[std::size_t(i)] + angle_at(r) * r * h;
    }
    const auto half = std::lower_bound(area.begin(), area.end(), area.back() / 2) - area.begin();
    const double over = area[std::size_t(half)] - area.back() / 2;
    const double width = area[std::size_t(half)] - area[std::size_t(half) - 1];
    return crossing(a, b, lower + h * (double(half) - over / width));
}

struct StatorBuilder {
    const StatorFrame& frame;
    Cell cell{};

    int at(Point p) { return cell.outline.add(p); }
    int on_axis(double radius) { return at({radius, 0}); }
    void arc_to_axis(int from, double radius) { cell.outline.arc(from, on_axis(radius)); }
    void region(Point seed, Role role, int layer = 0) {
        cell.regions.push_back({seed, role, layer, Magnetisation::None});
    }

    void smooth() {
        const double g = frame.half_pitch();
        const int a = on_axis(frame.bore_radius), b = at(polar(frame.bore_radius, g));
        const int c = on_axis(frame.outer_radius), d = at(polar(frame.outer_radius, g));
        cell.outline.arc(a, b);
        cell.outline.arc(c, d);
        cell.outline.line(a, c);
        cell.outline.line(b, d);
        region(polar((frame.bore_radius + frame.outer_radius) / 2, g / 2), Role::StatorIron);
    }

    void slotted(const SlotContour& contour, SlotSharing sharing) {
        const double g = frame.half_pitch(), bore = frame.bore_radius;
        Outline& out = cell.outline;
        const auto& steps = contour.steps;
        std::vector<int> ids{at(steps.front().to)};
        std::vector<double> axis{bore}; // radii where something meets the slot's centre line
        const int tooth = at(polar(bore, g)), outer = at(polar(frame.outer_radius, g));
        out.arc(on_axis(bore), ids[0]);
        out.arc(ids[0], tooth);
        out.line(tooth, outer);
        out.arc(on_axis(frame.outer_radius), outer);
        const std::size_t first = contour.conductor_from;
        double split_radius = 0;
        for (std::size_t i = 1; i < steps.size(); ++i) {
            const auto split = sharing == SlotSharing::Stacked && i == first + 1 && !steps[i].centre
                                   ? halving_point(steps[i - 1].to, steps[i].to)
                                   : std::nullopt;
            int from = ids.back();
            if (split) {
                const int middle = at(*split);
                out.line(from, middle);
                split_radius = norm(*split);
                arc_to_axis(middle, split_radius);
                from = middle;
            }
            ids.push_back(at(steps[i].to));
            if (steps[i].centre)
                out.arc(from, ids.back(), *steps[i].centre);
            else if (from != ids.back())
                out.line(from, ids.back());
        }
        const double start = first ? norm(steps[first].to) : bore, bottom = steps.back().to.x;
        if (first) {
            // Where the body's lower side is itself an arc about the centre, the mouth's end is already on it.
            const bool on_arc = steps[first].centre && *steps[first].centre == Point{};
            arc_to_axis(ids[on_arc ? first - 1 : first], start);
            axis.push_back(start);
            region({(bore + start) / 2, 1e-3 * steps.front().to.y}, Role::Air);
        }
        const double y = 1e-3 * steps.front().to.y;
        if (split_radius > 0) {
            axis.push_back(split_radius);
            region({(start + split_radius) / 2, y}, Role::Conductor, 0);
            region({(split_radius + bottom) / 2, y}, Role::Conductor, 1);
        } else {
            region({(start + bottom) / 2, y}, Role::Conductor, 0);
        }
        axis.push_back(bottom);
        axis.push_back(frame.outer_radius);
        for (std::size_t i = 0; i + 1 < axis.size(); ++i) out.line(on_axis(axis[i]), on_axis(axis[i + 1]));
        region(polar((bottom + frame.outer_radius) / 2, g / 2), Role::StatorIron);
        cell.hints = contour.hints;
    }
};

} // namespace

double StatorFrame::half_pitch() const {
    return std::numbers::pi / slots;
}

std::string millimetres(double metres) {
    return fmt::format("{:.2f} mm", metres * 1e3);
}

RegisterSlotKind::RegisterSlotKind(SlotKind kind) {
    auto& list = kinds();
    const auto place =
        std::find_if(list.begin(), list.end(), [&](const SlotKind& k) { return k.name > kind.name; });
    list.insert(place, std::move(kind));
}

const SlotKind* find_slot_kind(const std::string& name) {
    const auto found =
        std::find_if(kinds().begin(), kinds().end(), [&](const SlotKind& k) { return k.name == name; });
    return found == kinds().end() ? nullptr : &*found;
}

std::vector<std::string> slot_kind_names() {
    std::vector<std::string> names;
    for (const SlotKind& kind : kinds()) names.push_back(kind.name);
    return names;
}

Cell stator_cell(const StatorFrame& frame, const SlotContour& contour, SlotSharing sharing) {
    StatorBuilder builder{frame};
    if (contour.steps.empty())
        builder.smooth();
    else
        builder.slotted(contour, sharing);
    Cell cell = std::move(builder.cell);
    cell.half_pitch = frame.half_pitch();
    cell.gap_radius = frame.bore_radius;
    cell.other_radius = frame.outer_radius;
    cell.gap_size = cell.half_pitch * frame.bore_radius / 5;
    cell.max_size =
        std::min((frame.outer_radius - frame.bore_radius) / 4, frame.half_pitch() * frame.outer_radius);
    return cell;
}

} // namespace mavlo
