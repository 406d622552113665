#include "machine/slot_space.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace mavlo {
namespace {

constexpr double on_axis = 1e-9; ///< m
constexpr double chord = 0.08;   ///< rad

struct Room {
    Polygon polygon;
    int layer = 0;
    bool conductor = false; ///< else air of mouth or wedge
};

/// The part of a polygon on one side of the axis (Sutherland-Hodgman).
Polygon clipped(const Polygon& polygon, double side) {
    Polygon out;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const Point a = polygon[i], b = polygon[(i + 1) % polygon.size()];
        const bool in_a = a.y * side >= -on_axis, in_b = b.y * side >= -on_axis;
        if (in_a) out.push_back(a);
        if (in_a != in_b) out.push_back(a + (a.y / (a.y - b.y)) * (b - a));
    }
    return out;
}

Polygon mirrored(const Polygon& polygon) {
    Polygon out;
    for (auto p = polygon.rbegin(); p != polygon.rend(); ++p) out.push_back({p->x, -p->y});
    return out;
}

/// The boundary of a half that ends on the axis, from the axis round to it again; empty: it does not.
std::vector<Point> off_the_axis(const Polygon& half) {
    const auto begins = [&](std::size_t i) { // the point after a run on the axis
        return std::abs(half[i].y) < on_axis && half[(i + 1) % half.size()].y > on_axis;
    };
    std::size_t start = 0;
    while (start < half.size() && !begins(start)) ++start;
    std::vector<Point> out;
    for (std::size_t k = 0; start < half.size() && k < half.size(); ++k) {
        const Point p = half[(start + k) % half.size()];
        out.push_back(p);
        if (k > 0 && std::abs(p.y) < on_axis) break;
    }
    return out;
}

/// A half above the axis with one below it, given by its image, where both end on the same stretch of the axis:
/// the boundary goes round both, without it.
std::optional<Polygon> both_halves(const Polygon& upper, const Polygon& image_of_lower) {
    constexpr double same = 1e-8; // m
    Polygon out = off_the_axis(upper);
    const std::vector<Point> other = off_the_axis(image_of_lower);
    if (out.size() < 3 || other.size() < 3 || distance(out.front(), other.front()) > same ||
        distance(out.back(), other.back()) > same)
        return std::nullopt;
    for (std::size_t k = other.size() - 1; k-- > 1;) out.push_back({other[k].x, -other[k].y});
    return out;
}

class Finder {
  public:
    explicit Finder(const Machine& machine)
        : m(machine)
        , m_tile(machine.section.stator().tile) {
        for (Polygon& face : faces(m_tile.outline, chord)) {
            const auto region = std::find_if(m_tile.regions.begin(), m_tile.regions.end(),
                                             [&](const Region& r) { return contains(face, r.seed); });
            if (region == m_tile.regions.end()) continue;
            if (region->use == Use::Conductor)
                m_rooms.push_back({std::move(face), region->part, true});
            else if (region->use == Use::Air &&
                     (region->path.ends_with(".mouth") || region->path.ends_with(".wedge")))
                m_rooms.push_back({std::move(face), 0, false});
        }
    }

    std::vector<PackingSpace> spaces() const {
        const auto& layout = m.winding.layout;
        std::vector<PackingSpace> out(std::size_t(layout.input.layers));
        for (const Room& room : m_rooms) {
            if (!room.conductor) continue;
            if (layout.sharing == SlotSharing::SideBySide) {
                const Polygon upper = m_tile.mirrored ? room.polygon : clipped(room.polygon, 1);
                add(out[1], upper);
                add(out[0], m_tile.mirrored ? mirrored(room.polygon) : clipped(room.polygon, -1));
            } else {
                add(out[std::size_t(room.layer)], with_other_half(room));
            }
        }
        return out;
    }

    SlotProfile profile() const {
        const double gap = m_tile.gap_radius, dir = m_tile.outside() ? 1 : -1;
        double deepest = 0;
        for (const Room& room : m_rooms)
            for (Point p : room.polygon) deepest = std::max(deepest, dir * (p.x - gap));
        SlotProfile profile;
        constexpr int steps = 60;
        for (int i = 0; i < steps; ++i) {
            const double depth = deepest * (i + 0.5) / steps, width = width_at(gap + dir * depth);
            if (width <= 0) continue;
            profile.depth.push_back(depth);
            profile.width.push_back(width);
        }
        return profile;
    }

  private:
    double width_at(double x) const {
        double width = 0;
        for (const Room& room : m_rooms) {
            std::vector<double> y;
            const Polygon& p = room.polygon;
            for (std::size_t i = 0; i < p.size(); ++i) {
                const Point a = p[i], b = p[(i + 1) % p.size()];
                if ((a.x > x) != (b.x > x)) y.push_back(a.y + (x - a.x) / (b.x - a.x) * (b.y - a.y));
            }
            std::sort(y.begin(), y.end());
            for (std::size_t k = 0; k + 1 < y.size(); k += 2) width += y[k + 1] - y[k];
        }
        return m_tile.mirrored ? 2 * width : width;
    }

    /// A room with what lies beyond the tile's axis, where it is cut along it.
    Polygon with_other_half(const Room& room) const {
        if (m_tile.mirrored) return both_halves(room.polygon, room.polygon).value_or(room.polygon);
        for (const Room& other : m_rooms)
            if (other.conductor && other.layer == room.layer)
                if (auto both = both_halves(room.polygon, mirrored(other.polygon))) return *both;
        return room.polygon;
    }

    /// Whether conductors, or the mouth, lie just beyond an edge.
    const Room* beyond(Point middle, Point out) const {
        const Point probe = middle + 1e-6 * out;
        const Point folded{probe.x, m_tile.mirrored ? std::abs(probe.y) : probe.y};
        for (const Room& room : m_rooms)
            if (contains(room.polygon, folded)) return &room;
        return nullptr;
    }

    /// The larger of a place's rooms: in a slot drawn whole the other side's leaves a sliver at the middle.
    void add(PackingSpace& space, Polygon polygon) const {
        if (polygon.size() < 3 || std::abs(area(polygon)) <= std::abs(area(space.polygon))) return;
        if (area(polygon) < 0) std::reverse(polygon.begin(), polygon.end());
        space = {polygon, {}};
        const bool beside = m.winding.layout.sharing == SlotSharing::SideBySide;
        for (std::size_t i = 0; i < polygon.size(); ++i) {
            const Point a = polygon[i], b = polygon[(i + 1) % polygon.size()], u = b - a;
            const double length = norm(u);
            const Point out = length > 0 ? Point{u.y / length, -u.x / length} : Point{};
            const bool axis = beside && std::abs(a.y) < 1e-8 && std::abs(b.y) < 1e-8;
            const Room* neighbour = axis ? nullptr : beyond(0.5 * (a + b), out);
            const bool parted = axis || (neighbour && neighbour->conductor);
            space.margin.push_back(parted ? m.winding.separator / 2 : neighbour ? 0 : m.winding.liner);
        }
    }

    const Machine& m;
    const Tile& m_tile;
    std::vector<Room> m_rooms;
};

/// Rows at an even distance, for conductors that do not fit: the field asks only for their depth.
std::vector<Point> spread(const PackingSpace& space, int count, Point mouth) {
    double size = std::sqrt(area(space.polygon) / std::max(1, count));
    std::vector<Point> places;
    for (int i = 0; i < 40 && int(places.size()) < count; ++i, size *= 0.94)
        places = pack_rectangles({space.polygon, {}}, {size, size}, mouth, false);
    return places;
}

/// Flat wire in as few columns as hold it, so that rows are alike.
std::vector<Point> bars(const PackingSpace& space, const ConductorSize& size, int wanted, Point mouth,
                        bool beside) {
    std::vector<Point> best;
    for (int columns = 1; columns <= std::max(1, wanted); ++columns) {
        auto tried = pack_rectangles(space, {size.outer_height, size.outer_width}, mouth, beside, columns);
        if (tried.size() == best.size() && columns > 1) break; // no room for more
        best = std::move(tried);
        if (int(best.size()) >= wanted) break;
    }
    return best;
}

/// Of flat wire over its insulation, its width as it is.
double largest_height(const PackingSpace& space, const ConductorSize& size, int wanted, Point mouth,
                      bool beside) {
    double fits = 0, too_large = size.outer_height;
    while (fits < (1 - 1e-3) * too_large && too_large > 1e-9) {
        const double middle = (fits + too_large) / 2;
        const auto places = pack_rectangles(space, {middle, size.outer_width}, mouth, beside);
        (int(places.size()) >= wanted ? fits : too_large) = middle;
    }
    return fits;
}

} // namespace

std::vector<PackingSpace> slot_spaces(const Machine& machine) {
    if (!machine.wound()) return {};
    return Finder(machine).spaces();
}

double free_area(const std::vector<PackingSpace>& spaces) {
    double sum = 0;
    for (const PackingSpace& space : spaces) sum += space.free_area();
    return sum;
}

SlotProfile slot_profile(const Machine& machine) {
    return Finder(machine).profile();
}

bool SlotFilling::fits() const {
    for (std::size_t i = 0; i < wanted.size(); ++i)
        if (fit[i] < wanted[i]) return false;
    return true;
}

int fullest_slot(const Machine& machine) {
    int fullest = 0;
    double most = -1;
    for (int slot = 0; slot < machine.slots; ++slot) {
        double turns = 0;
        for (double t : machine.winding.turns_in_slot(slot)) turns += t;
        if (turns > most + 1e-9) most = turns, fullest = slot;
    }
    return fullest;
}

SlotFilling fill_slot(const Machine& machine, int slot, Packing care) {
    SlotFilling out;
    const ConductorSize size = size_conductor(machine.winding.conductor);
    const std::vector<PackingSpace> spaces = slot_spaces(machine);
    const std::vector<double> turns = machine.winding.turns_in_slot(slot);
    const Point mouth{machine.section.stator().tile.gap_radius, 0};
    out.round = size.is_round();
    out.outer_width = size.outer_width;
    out.outer_height = size.outer_height;
    out.bare_width =
        size.shape == ConductorShape::Litz ? std::sqrt(double(size.strands)) * size.diameter : size.width;
    out.bare_height = size.shape == ConductorShape::Litz ? out.bare_width : size.height;
    const bool beside = machine.winding.layout.sharing == SlotSharing::SideBySide;
    const int a_turn = size.packed_a_turn();
    for (std::size_t layer = 0; layer < spaces.size(); ++layer) {
        const int wanted = int(std::ceil(turns[layer] - 1e-9)) * a_turn;
        out.wanted.push_back(wanted);
        const std::vector<Point> centres = !out.round ? bars(spaces[layer], size, wanted, mouth, beside)
                                           : care == Packing::Rows
                                               ? pack_rows(spaces[layer], size.outer_width, mouth)
                                               : pack_circles(spaces[layer], size.outer_width, mouth);
        const int fit =
            out.round ? int(centres.size())
                      : int(pack_rectangles(spaces[layer], {size.outer_height, size.outer_width}, mouth, beside)
                                .size());
        out.fit.push_back(fit);
        for (int i = 0; i < std::min(wanted, int(centres.size())); ++i)
            out.places.push_back({centres[std::size_t(i)], int(layer), i / a_turn, i % a_turn});
        if (care != Packing::Measured || fit >= wanted) continue;
        const double largest = out.round ? largest_circle(spaces[layer], wanted, mouth)
                                         : largest_height(spaces[layer], size, wanted, mouth, beside);
        out.largest = out.largest > 0 ? std::min(out.largest, largest) : largest;
    }
    return out;
}

std::vector<PlacedStrand> placed_strands(const Machine& machine, int slot, const SlotFilling& filling,
                                         const std::vector<std::complex<double>>& currents) {
    const Tile& tile = machine.section.stator().tile;
    const double dir = tile.outside() ? 1 : -1;
    // A strand's current over its phase's: turns' sense over paths and strands in hand.
    std::map<int, std::complex<double>> share;
    const int a_turn = size_conductor(machine.winding.conductor).packed_a_turn();
    for (const Coil& coil : machine.winding.layout.coils)
        for (const auto& [side, sense] : {std::pair{coil.go, 1.0}, {coil.back, -1.0}})
            if (side.slot == slot)
                share[side.layer] = sense * coil.sign * currents[std::size_t(coil.phase)] /
                                    double(machine.winding.paths * a_turn);
    std::vector<SlotFilling::Place> places = filling.places;
    if (!filling.fits()) {
        places.clear();
        const auto spaces = slot_spaces(machine);
        for (std::size_t layer = 0; layer < spaces.size(); ++layer) {
            const int wanted = filling.wanted[layer];
            const auto spots = spread(spaces[layer], wanted, {tile.gap_radius, 0});
            for (int i = 0; i < std::min(wanted, int(spots.size())); ++i)
                places.push_back({spots[std::size_t(i)], int(layer), i / a_turn, i % a_turn});
        }
    }
    std::vector<PlacedStrand> strands;
    for (const auto& place : places)
        if (const auto known = share.find(place.layer); known != share.end())
            strands.push_back(
                {dir * (place.at.x - tile.gap_radius), known->second, place.turn, place.strand, place.layer});
    return strands;
}

} // namespace mavlo
