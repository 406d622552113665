// show: the cross-section as SVG, PDF or PNG, with an overlay of the field.

#include "commands.h"
#include "figure/field_at.h"
#include "figure/palette.h"
#include "figure/picture.h"
#include "machine/drawing.h"

#include <CLI/CLI.hpp>
#include <cairo-pdf.h>
#include <cairo-svg.h>
#include <cmath>
#include <fmt/format.h>
#include <memory>
#include <numbers>

namespace mavlo::cli {
namespace {

constexpr double pi = std::numbers::pi;
constexpr double picture_size = 900; // pixels or points
constexpr double margin = 30;

struct ShowOptions {
    std::string file, output, variant, overlay = "materials";
    std::vector<std::string> settings;
    double angle = 0, id = 0, iq = 0;
};

struct Colour {
    double r, g, b;
};
constexpr Colour hex(unsigned rgb) {
    return {((rgb >> 16) & 255) / 255.0, ((rgb >> 8) & 255) / 255.0, (rgb & 255) / 255.0};
}
constexpr Colour paper = hex(0xF6F4EF), ink = hex(0x1F2A33), stator_iron = hex(0xC7D0D6),
                 rotor_iron = hex(0xB4BFC7), shaft = hex(0xE6E1D8);
constexpr Colour north = hex(0x3E7C86), south = hex(0xA77CA8);
constexpr Colour phases[] = {hex(0xE69F00), hex(0x56B4E9), hex(0x009E73)};

/// A drawing in metres, y upwards, on a Cairo surface.
class Canvas {
  public:
    Canvas(const std::string& file, double radius)
        : m_file(file)
        , m_png(file.ends_with(".png")) {
        if (m_png)
            m_surface = cairo_image_surface_create(CAIRO_FORMAT_RGB24, int(picture_size), int(picture_size));
        else if (file.ends_with(".pdf"))
            m_surface = cairo_pdf_surface_create(file.c_str(), picture_size, picture_size);
        else
            m_surface = cairo_svg_surface_create(file.c_str(), picture_size, picture_size);
        m_cairo = cairo_create(m_surface);
        set(paper);
        cairo_paint(m_cairo);
        cairo_translate(m_cairo, picture_size / 2, picture_size / 2);
        m_scale = (picture_size / 2 - margin) / radius;
        cairo_scale(m_cairo, m_scale, -m_scale);
        cairo_set_line_join(m_cairo, CAIRO_LINE_JOIN_ROUND);
    }
    Canvas(const Canvas&) = delete;
    Canvas& operator=(const Canvas&) = delete;
    ~Canvas() {
        cairo_destroy(m_cairo);
        cairo_surface_destroy(m_surface);
    }

    void set(Colour c) { cairo_set_source_rgb(m_cairo, c.r, c.g, c.b); }
    void turn(double angle) { cairo_rotate(m_cairo, angle); }
    void disc(double radius, Colour c) {
        set(c);
        cairo_arc(m_cairo, 0, 0, radius, 0, 2 * pi);
        cairo_fill(m_cairo);
    }
    void fill(const Polygon& polygon, Colour c) {
        trace(polygon);
        cairo_close_path(m_cairo);
        set(c);
        cairo_fill(m_cairo);
    }
    void trace(const std::vector<Point>& points) {
        cairo_new_sub_path(m_cairo);
        for (const Point& p : points) cairo_line_to(m_cairo, p.x, p.y);
    }
    void stroke(Colour c, double pixels) {
        set(c);
        cairo_set_line_width(m_cairo, pixels / m_scale);
        cairo_stroke(m_cairo);
    }
    cairo_t* raw() { return m_cairo; }

    bool finish() {
        cairo_surface_flush(m_surface);
        if (m_png) return cairo_surface_write_to_png(m_surface, m_file.c_str()) == CAIRO_STATUS_SUCCESS;
        cairo_surface_finish(m_surface);
        return cairo_surface_status(m_surface) == CAIRO_STATUS_SUCCESS;
    }

  private:
    std::string m_file;
    bool m_png;
    cairo_surface_t* m_surface;
    cairo_t* m_cairo;
    double m_scale;
};

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
        return shaft;
    default:
        return paper;
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
        if (body->hole_radius > 0) canvas.disc(body->hole_radius, body->turns ? shaft : paper);
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
            cairo_close_path(canvas.raw());
            canvas.stroke(colour, 0.3);
        }
        canvas.turn(picture.sector.angle());
    }
    canvas.turn(-picture.sector.angle() * picture.sector.count);
}

void draw_segments(Canvas& canvas, const FieldPicture& picture, const std::vector<Segment>& segments,
                   Colour colour, double pixels) {
    for (int copy = 0; copy < picture.sector.count; ++copy) {
        for (const auto& s : segments) canvas.trace({s.a, s.b});
        canvas.stroke(colour, pixels);
        canvas.turn(picture.sector.angle());
    }
    canvas.turn(-picture.sector.angle() * picture.sector.count);
}

Result<FieldPicture> solve_picture(const Machine& machine, const ShowOptions& o) {
    const auto field = field_at(machine, o.angle * pi / 180, Dq{o.id, o.iq});
    if (!field) return field.problems();
    return make_picture(*field->model, field->solution);
}

int run_show(const ShowOptions& o) {
    if (!o.output.ends_with(".svg") && !o.output.ends_with(".png") && !o.output.ends_with(".pdf")) {
        complain({{"-o", "The picture is written as .svg, .pdf or .png."}});
        return wrong_usage;
    }
    const auto chosen = choose(o.file, o.variant, o.settings);
    if (!chosen) return complain(chosen.problems()), wrong_input;
    const auto machine = build_machine(chosen->design, chosen->project.materials);
    if (!machine) return complain(machine.problems()), wrong_input;
    const Drawing drawing = make_drawing(*machine);
    const double angle = o.angle * pi / 180;
    Canvas canvas(o.output, drawing.outer_radius);
    if (o.overlay != "flux") draw_materials(canvas, *machine, drawing, angle);
    if (o.overlay != "materials") {
        const auto picture = solve_picture(*machine, o);
        if (!picture) return complain(picture.problems()), solver_failed;
        if (o.overlay == "flux") draw_flux_density(canvas, *picture);
        if (o.overlay == "lines")
            draw_segments(canvas, *picture, flux_lines(*picture, 24, machine->section.outer_radius() / 150),
                          ink, 0.8);
        if (o.overlay == "mesh") {
            std::vector<Segment> edges;
            for (const auto& [a, b] : picture->mesh_edges)
                edges.push_back({picture->vertices[std::size_t(a)].at, picture->vertices[std::size_t(b)].at});
            draw_segments(canvas, *picture, edges, ink, 0.3);
        }
        if (o.overlay == "flux")
            fmt::print("flux density from 0 (palest) to {:.3f} T (deepest)\n", picture->highest_flux_density);
    }
    draw_outlines(canvas, drawing, angle);
    if (o.overlay != "flux") draw_arrows(canvas, drawing, angle);
    if (!canvas.finish())
        return complain({{o.output, "The picture cannot be written; check the folder and the free space."}}),
               wrong_input;
    return done;
}

} // namespace

void add_show(CLI::App& app, int& exit_code) {
    auto* command = app.add_subcommand("show", "Draw the cross-section.");
    auto o = std::make_shared<ShowOptions>();
    command->add_option("FILE", o->file, "Project file")->required();
    command->add_option("-o,--output", o->output, "Picture, .svg, .pdf or .png")->required();
    command->add_option("--variant", o->variant, "Variant to draw; the one in hand otherwise");
    command->add_option("--set", o->settings, "PATH=VALUE: change the design for this call")
        ->take_all()
        ->expected(1);
    command->add_option("--overlay", o->overlay, "materials, flux, lines or mesh")
        ->check(CLI::IsMember({"materials", "flux", "lines", "mesh"}));
    command->add_option("--angle", o->angle, "Rotor angle, mechanical degrees");
    command->add_option("--id", o->id, "Current on the d axis, A peak");
    command->add_option("--iq", o->iq, "Current on the q axis, A peak");
    command->callback([o, &exit_code] { exit_code = run_show(*o); });
}

} // namespace mavlo::cli
