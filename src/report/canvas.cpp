#include "report/canvas.h"

#include <cairo-pdf.h>
#include <cairo-svg.h>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double picture_size = 900, margin = 30; // pixels or points

cairo_status_t keep_bytes(void* closure, const unsigned char* data, unsigned length) {
    static_cast<std::string*>(closure)->append(reinterpret_cast<const char*>(data), length);
    return CAIRO_STATUS_SUCCESS;
}

} // namespace

Canvas::Window Canvas::round(double radius) {
    const double side = 2 * radius * picture_size / (picture_size - 2 * margin);
    return {{-side / 2, -side / 2}, side, side, picture_size};
}

Canvas::Canvas(Form form, const Window& window, Colour paper)
    : m_form(form)
    , m_scale(window.pixels / window.width) {
    const double width = window.pixels, height = std::round(window.height * m_scale);
    if (form == Form::Png)
        m_surface = cairo_image_surface_create(CAIRO_FORMAT_RGB24, int(width), int(height));
    else if (form == Form::Pdf)
        m_surface = cairo_pdf_surface_create_for_stream(keep_bytes, &m_bytes, width, height);
    else
        m_surface = cairo_svg_surface_create_for_stream(keep_bytes, &m_bytes, width, height);
    m_cairo = cairo_create(m_surface);
    set(paper);
    cairo_paint(m_cairo);
    cairo_translate(m_cairo, -window.corner.x * m_scale, height + window.corner.y * m_scale);
    cairo_scale(m_cairo, m_scale, -m_scale);
    cairo_set_line_join(m_cairo, CAIRO_LINE_JOIN_ROUND);
    cairo_select_font_face(m_cairo, "Inter", CAIRO_FONT_SLANT_NORMAL, CAIRO_FONT_WEIGHT_NORMAL);
}

Canvas::~Canvas() {
    cairo_destroy(m_cairo);
    cairo_surface_destroy(m_surface);
}

void Canvas::set(Colour c) {
    cairo_set_source_rgb(m_cairo, c.r, c.g, c.b);
}

void Canvas::turn(double angle) {
    cairo_rotate(m_cairo, angle);
}

void Canvas::close() {
    cairo_close_path(m_cairo);
}

void Canvas::disc(double radius, Colour c) {
    set(c);
    cairo_arc(m_cairo, 0, 0, radius, 0, 2 * std::numbers::pi);
    cairo_fill(m_cairo);
}

void Canvas::fill(const Polygon& polygon, Colour c) {
    trace(polygon);
    cairo_close_path(m_cairo);
    set(c);
    cairo_fill(m_cairo);
}

void Canvas::trace(const std::vector<Point>& points) {
    cairo_new_sub_path(m_cairo);
    for (const Point& p : points) cairo_line_to(m_cairo, p.x, p.y);
}

void Canvas::stroke(Colour c, double pixels) {
    set(c);
    cairo_set_line_width(m_cairo, pixels / m_scale);
    cairo_stroke(m_cairo);
}

double Canvas::text_width(const std::string& words, double pixels) {
    cairo_set_font_size(m_cairo, pixels / m_scale);
    cairo_text_extents_t extents;
    cairo_text_extents(m_cairo, words.c_str(), &extents);
    return extents.x_advance;
}

void Canvas::text(Point middle, const std::string& words, double pixels, Colour c) {
    const double width = text_width(words, pixels);
    cairo_save(m_cairo);
    cairo_translate(m_cairo, middle.x - width / 2, middle.y - 0.36 * pixels / m_scale);
    cairo_scale(m_cairo, 1, -1);
    set(c);
    cairo_move_to(m_cairo, 0, 0);
    cairo_text_path(m_cairo, words.c_str()); // as shapes: printers of HTML leave an SVG's glyphs out
    cairo_fill(m_cairo);
    cairo_restore(m_cairo);
}

std::string Canvas::bytes() {
    cairo_surface_flush(m_surface);
    if (m_form == Form::Png)
        cairo_surface_write_to_png_stream(m_surface, keep_bytes, &m_bytes);
    else
        cairo_surface_finish(m_surface);
    return cairo_surface_status(m_surface) == CAIRO_STATUS_SUCCESS ? std::move(m_bytes) : std::string();
}

} // namespace mavlo
