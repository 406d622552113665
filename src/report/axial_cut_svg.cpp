#include "report/axial_cut_svg.h"

#include "figure/palette.h"
#include "report/plot_svg.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double cut_width = 700, cut_height = 210, widest = 16;
constexpr const char* font = "font-family=\"Inter, DejaVu Sans, sans-serif\" font-size=\"10\"";

std::string body_svg(const AxialCut& cut, const AxialCut::Body& body) {
    const Rgb rgb = field_colour(0.1 + 0.75 * cut.warmth(body.celsius));
    const char* ink = 0.3 * rgb.r + 0.59 * rgb.g + 0.11 * rgb.b > 140 ? "#14181e" : "#fafafa";
    std::string out;
    for (double left : {body.x, 1 - body.x - body.width}) {
        const double x = left * cut_width, y = body.y * cut_height, w = body.width * cut_width,
                     h = body.height * cut_height;
        out += fmt::format(R"(<rect x="{:.1f}" y="{:.1f}" width="{:.1f}" height="{:.1f}" )"
                           R"(fill="#{:02x}{:02x}{:02x}" stroke="#ffffff"/>)",
                           x, y, w, h, rgb.r, rgb.g, rgb.b);
        const bool upright = w<h / 2, wide = w> 120;
        const double mx = wide ? x + 8 : x + w / 2, my = y + h / 2 + 3.5;
        const std::string turn =
            upright ? fmt::format(R"x( transform="rotate(-90 {:.1f} {:.1f})")x", x + w / 2, y + h / 2) : "";
        out +=
            fmt::format(R"(<text {} fill="{}" text-anchor="{}" x="{:.1f}" y="{:.1f}"{}>{} {:.0f}°</text>)",
                        font, ink, wide ? "start" : "middle", mx, my, turn, escaped(body.name), body.celsius);
        if (!body.mirrored) break;
    }
    return out;
}

std::string flow_svg(const AxialCut& cut, const AxialCut::Flow& flow) {
    constexpr double least = 0.004; // of the largest: less is not drawn
    if (flow.watts < least * cut.most_watts) return {};
    const double x = flow.from_x * cut_width, y = flow.from_y * cut_height, dx = flow.to_x * cut_width - x,
                 dy = flow.to_y * cut_height - y, length = std::hypot(dx, dy),
                 thick = std::max(2.5, widest * std::sqrt(flow.watts / cut.most_watts)),
                 head = std::min(length / 2, 0.8 * thick + 3);
    const double a = thick / 2, b = length - head;
    return fmt::format(
               R"x(<path transform="translate({:.1f} {:.1f}) rotate({:.2f})" fill="#ffffff" )x"
               R"(fill-opacity="0.92" stroke="#1f2a33" d="M0 {:.1f}H{:.1f}v-3L{:.1f} 0L{:.1f} {:.1f}v-3H0z"/>)",
               x, y, std::atan2(dy, dx) * 57.29578, -a, b, length, b, a + 3) +
           fmt::format(R"(<text {} fill="#1f2a33" x="{:.1f}" y="{:.1f}">{} W</text>)", font,
                       x + dx + thick / 2 + 5, std::min(y, y + dy) + 9,
                       flow.watts < 9.95 ? fmt::format("{:.1f}", flow.watts)
                                         : fmt::format("{:.0f}", flow.watts));
}

} // namespace

std::string axial_cut_svg(const AxialCut& cut) {
    std::string out =
        fmt::format(R"(<svg class="plot" viewBox="0 0 {} {}" role="img">)", cut_width, cut_height);
    for (const AxialCut::Body& body : cut.bodies) out += body_svg(cut, body);
    out += fmt::format(R"(<path d="M0 {0:.1f}H{1}" stroke="#66727c" stroke-dasharray="10 3 2 3"/>)",
                       0.955 * cut_height, cut_width);
    for (const AxialCut::Flow& flow : cut.flows) out += flow_svg(cut, flow);
    return out + "</svg>";
}

} // namespace mavlo
