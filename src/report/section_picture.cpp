#include "report/section_picture.h"

#include "figure/palette.h"
#include "machine/drawing.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

constexpr Colour paper = hex(0xF6F4EF), filled = hex(0xE2D8BE), ink = hex(0x1F2A33),
                 stator_iron = hex(0xC7D0D6), rotor_iron = hex(0xB4BFC7), shaft = hex(0xE6E1D8),
                 bar = hex(0xD3BE93), white = hex(0xFFFFFF);
constexpr Colour north = hex(0x3E7C86), south = hex(0xA77CA8);
constexpr Colour phases[] = {hex(0xE69F00), hex(0x56B4E9), hex(0x009E73)};

Colour side_colour(const Machine& machine, int slot, int layer) {
    for (const Coil& coil : machine.winding.layout.coils)
        for (const auto& [side, sign] : {std::pair{coil.go, coil.sign}, {coil.back, -coil.sign}})
            if (side == CoilSide{slot, layer}) {
                const Colour c = phases[std::size_t(coil.phase) % std::size(phases)];
                if (sign > 0) return c;
                auto lighter = [](double x) { return 0.5 + 0.5 * x; };
                return {lighter(c.r), lighter(c.g), lighter(c.b)};
            }
    return paper;
}

Colour colour_of(const Machine& machine, const DrawnRegion& r) {
    switch (r.use) {
    case Use::Conductor:
        return side_colour(machine, r.pitch, r.layer);
    case Use::Magnet:
        return r.polarity > 0 ? north : south;
    case Use::Solid:
        return r.material.empty() ? shaft : bar;
    default: // air, or what fills it
        return machine.substance(r.material) ? filled : paper;
    }
}

/// From the outside in, so that each body covers what the one round it leaves open.
void draw_materials(Canvas& canvas, const Machine& machine, const Drawing& drawing, double angle) {
    for (auto body = drawing.bodies.rbegin(); body != drawing.bodies.rend(); ++body) {
        const double turn = body->turns ? angle : 0;
        canvas.turn(turn);
        canvas.disc(body->outer_radius, body->turns ? rotor_iron : stator_iron);
        if (body->hole_radius == 0) canvas.disc(body->inner_radius, paper);
        for (const auto& r : body->regions) canvas.fill(r.polygon, colour_of(machine, r));
        if (body->hole_radius > 0) canvas.disc(body->hole_radius, body->shaft ? shaft : paper);
        canvas.turn(-turn);
    }
}

void draw_outlines(Canvas& canvas, const Drawing& drawing, double angle) {
    for (const DrawnBody& body : drawing.bodies) {
        const double turn = body.turns ? angle : 0;
        canvas.turn(turn);
        for (const auto& line : body.lines) canvas.trace(line);
        canvas.stroke(ink, 1);
        canvas.turn(-turn);
    }
}

/// Every magnet's direction, from tail to head.
void draw_arrows(Canvas& canvas, const Drawing& drawing, double angle) {
    for (const DrawnBody& body : drawing.bodies) {
        const double turn = body.turns ? angle : 0;
        canvas.turn(turn);
        for (const auto& r : body.regions) {
            if (r.use != Use::Magnet) continue;
            const Point middle = centroid(r.polygon);
            const double half = 0.3 * std::sqrt(area(r.polygon));
            const Point along = polar(half, r.direction), head = middle + along;
            canvas.trace({middle - along, head});
            for (double bend : {2.6, -2.6}) canvas.trace({head, head + polar(0.45 * half, r.direction + bend)});
        }
        canvas.stroke(ink, 1);
        canvas.turn(-turn);
    }
}

void draw_flux_density(Canvas& canvas, const FieldPicture& picture) {
    for (int copy = 0; copy < picture.sector.count; ++copy) {
        for (const auto& t : picture.triangles) {
            double b = 0;
            for (int v : t.vertex) b += picture.vertices[std::size_t(v)].size() / 3;
            std::vector<Point> corners;
            for (int v : t.vertex) corners.push_back(picture.vertices[std::size_t(v)].at);
            const Rgb c = field_colour(b / picture.highest_flux_density);
            const Colour colour{c.r / 255.0, c.g / 255.0, c.b / 255.0};
            canvas.fill(corners, colour);
            canvas.trace(corners); // a hair line of its own colour closes the seams of anti-aliasing
            canvas.close();
            canvas.stroke(colour, 0.3);
        }
        canvas.turn(picture.sector.angle());
    }
    canvas.turn(-picture.sector.angle() * picture.sector.count);
}

void draw_segments(Canvas& canvas, const FieldPicture& picture, const std::vector<Segment>& segments,
                   double pixels) {
    for (int copy = 0; copy < picture.sector.count; ++copy) {
        for (const auto& s : segments) canvas.trace({s.a, s.b});
        canvas.stroke(ink, pixels);
        canvas.turn(picture.sector.angle());
    }
    canvas.turn(-picture.sector.angle() * picture.sector.count);
}

void draw_overlay(Canvas& canvas, const Machine& machine, Overlay overlay, const FieldPicture& field) {
    if (overlay == Overlay::Flux) draw_flux_density(canvas, field);
    if (overlay == Overlay::Lines)
        draw_segments(canvas, field, flux_lines(field, 24, machine.section.outer_radius() / 150), 0.8);
    if (overlay != Overlay::Mesh) return;
    std::vector<Segment> edges;
    for (const auto& [a, b] : field.mesh_edges)
        edges.push_back({field.vertices[std::size_t(a)].at, field.vertices[std::size_t(b)].at});
    draw_segments(canvas, field, edges, 0.3);
}

} // namespace

std::string section_picture(const Machine& machine, double angle, Overlay overlay, const FieldPicture* field,
                            Canvas::Form form) {
    const Drawing drawing = make_drawing(machine);
    Canvas canvas(form, Canvas::round(drawing.outer_radius), paper);
    if (overlay != Overlay::Flux) draw_materials(canvas, machine, drawing, angle);
    if (field) draw_overlay(canvas, machine, overlay, *field);
    draw_outlines(canvas, drawing, angle);
    if (overlay != Overlay::Flux) draw_arrows(canvas, drawing, angle);
    return canvas.bytes();
}

namespace {

constexpr double picture_width = 900, label_size = 24, arrow_size = 14; // pixels

/// One pitch of a body with a little of its neighbours, the gap and what faces it.
Canvas::Window window_of(const Machine& machine, const Body& body) {
    const Tile& tile = body.tile;
    const double half = std::min(0.62 * tile.pitch, std::numbers::pi / 2);
    const double sign = tile.outside() ? 1 : -1, opposite = tile.gap_radius - sign * 3 * machine.gap;
    // A shaft's hole, or a yoke far away, need not be seen whole.
    const double deepest = 1.1 * std::max(std::abs(tile.far_radius - tile.gap_radius), 2 * machine.gap);
    const double far =
        tile.gap_radius + sign * std::min(deepest, 1.6 * tile.pitch * tile.gap_radius + 0.3 * deepest);
    const double low = std::min(opposite, far) * std::cos(half), high = std::max(opposite, far),
                 side = high * std::sin(half);
    const double width = std::max(high - low, 2 * side), middle = (low + high) / 2;
    return {{middle - width / 2, -side}, width, 2 * side, picture_width};
}

std::string value_of(const Machine& machine, const DimensionMark& mark) {
    const Parameter* parameter = find_parameter(mark.path);
    if (!parameter || !machine.values.has(mark.path)) return {};
    std::string text = text_for(*parameter, machine.values.number(mark.path), 4);
    if (mark.kind == DimensionMark::Kind::Diameter) text = "⌀ " + text;
    return text;
}

void draw_mark(Canvas& canvas, const DimensionMark& mark, const std::string& value,
               std::vector<std::array<double, 4>>& taken) {
    const Point along = mark.b - mark.a;
    const double length = norm(along);
    if (length == 0 || value.empty()) return;
    const Point unit = (1 / length) * along, across{-unit.y, unit.x};
    const double head = std::min(arrow_size * canvas.pixel(), 0.35 * length);
    canvas.trace({mark.a, mark.b});
    for (const auto& [tip, back] : {std::pair{mark.a, unit}, {mark.b, -1 * unit}})
        for (double side : {0.35, -0.35}) canvas.trace({tip, tip + head * back + (side * head) * across});
    canvas.stroke(ink, 1.1);
    // Beside others it steps aside until its words stand free.
    const double width = canvas.text_width(value, label_size) + 8 * canvas.pixel(),
                 height = 1.35 * label_size * canvas.pixel();
    const Point middle = mark.a + 0.5 * along;
    Point place = middle;
    for (int step = 0; step < 24; ++step) {
        const double away = ((step + 1) / 2) * height * (step % 2 ? 1 : -1);
        place = middle + Point{0, away};
        const std::array<double, 4> box{place.x - width / 2, place.y - height / 2, place.x + width / 2,
                                        place.y + height / 2};
        const bool free = std::none_of(taken.begin(), taken.end(), [&](const auto& t) {
            return box[0] < t[2] && t[0] < box[2] && box[1] < t[3] && t[1] < box[3];
        });
        if (!free) continue;
        taken.push_back(box);
        break;
    }
    if (place != middle) {
        canvas.trace({middle, place});
        canvas.stroke(ink, 0.4);
    }
    const double w = width / 2, h = height / 2;
    canvas.fill({{place.x - w, place.y - h},
                 {place.x + w, place.y - h},
                 {place.x + w, place.y + h},
                 {place.x - w, place.y + h}},
                white);
    canvas.text(place, value, label_size, ink);
}

} // namespace

std::string dimensioned_picture(const Machine& machine, const Body& body) {
    const Drawing drawing = make_drawing(machine);
    const Canvas::Window window = window_of(machine, body);
    Canvas canvas(Canvas::Form::Svg, window, white);
    draw_materials(canvas, machine, drawing, 0);
    draw_outlines(canvas, drawing, 0);
    const auto seen = [&](Point p) {
        return p.x > window.corner.x && p.x < window.corner.x + window.width && p.y > window.corner.y &&
               p.y < window.corner.y + window.height;
    };
    std::vector<std::array<double, 4>> taken;
    for (const DimensionMark& mark : machine.marks) {
        const bool own = !mark.path.starts_with(body.turns ? "stator" : "rotor");
        if (own && seen(mark.a) && seen(mark.b)) draw_mark(canvas, mark, value_of(machine, mark), taken);
    }
    return canvas.bytes();
}

} // namespace mavlo
