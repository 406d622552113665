// Rasterises |B|: Gouraud triangles straight into an image, since a path a triangle would be far too slow.

#include "figure/palette.h"
#include "section/section_layers.h"

#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

struct Corner {
    float x, y, value; ///< pixels; colour index 0 … 255
};

void raster(QImage& image, const std::array<QRgb, 256>& colours, const Corner& a, const Corner& b,
            const Corner& c) {
    const float area = (b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y);
    if (area == 0) return;
    const int top = std::max(0, int(std::ceil(std::min({a.y, b.y, c.y}) - 0.5F)));
    const int bottom = std::min(image.height() - 1, int(std::floor(std::max({a.y, b.y, c.y}) - 0.5F)));
    const float slope_x = ((b.value - a.value) * (c.y - a.y) - (c.value - a.value) * (b.y - a.y)) / area;
    const float slope_y = ((c.value - a.value) * (b.x - a.x) - (b.value - a.value) * (c.x - a.x)) / area;
    for (int y = top; y <= bottom; ++y) {
        const float line = float(y) + 0.5F;
        float left = 1e9F, right = -1e9F;
        auto edge = [&](const Corner& p, const Corner& q) {
            if ((p.y <= line) == (q.y <= line)) return;
            const float x = p.x + (line - p.y) * (q.x - p.x) / (q.y - p.y);
            left = std::min(left, x);
            right = std::max(right, x);
        };
        edge(a, b);
        edge(b, c);
        edge(c, a);
        const int from = std::max(0, int(std::ceil(left - 0.5F))),
                  to = std::min(image.width() - 1, int(std::ceil(right - 0.5F)) - 1);
        if (from > to) continue;
        auto* pixel = reinterpret_cast<QRgb*>(image.scanLine(y)) + from;
        float value = a.value + slope_x * (float(from) + 0.5F - a.x) + slope_y * (line - a.y);
        for (int x = from; x <= to; ++x, value += slope_x)
            *pixel++ = colours[std::size_t(std::clamp(int(value), 0, 255))];
    }
}

} // namespace

QImage flux_density_image(const FieldPicture& picture, const ViewFrame& frame, QSize size, double pixel_ratio,
                          double low, double high) {
    QImage image(size * pixel_ratio, QImage::Format_ARGB32_Premultiplied);
    image.setDevicePixelRatio(pixel_ratio);
    image.fill(Qt::transparent);
    std::array<QRgb, 256> colours{};
    for (std::size_t i = 0; i < 256; ++i) {
        const Rgb c = field_colours()[i];
        colours[i] = qRgb(c.r, c.g, c.b);
    }
    const double scale = 255.99 / std::max(1e-12, high - low);
    std::vector<Corner> corners(picture.vertices.size());
    for (int copy = 0; copy < picture.sector.count; ++copy) {
        const double angle = copy * picture.sector.angle(), c = std::cos(angle), s = std::sin(angle);
        for (std::size_t i = 0; i < corners.size(); ++i) {
            const auto& v = picture.vertices[i];
            const QPointF p = pixel_ratio * frame.to_screen({c * v.at.x - s * v.at.y, s * v.at.x + c * v.at.y});
            corners[i] = {float(p.x()), float(p.y()), float((double(v.flux_density) - low) * scale)};
        }
        for (const auto& t : picture.triangles)
            raster(image, colours, corners[std::size_t(t.vertex[0])], corners[std::size_t(t.vertex[1])],
                   corners[std::size_t(t.vertex[2])]);
    }
    return image;
}

} // namespace mavlo::app
