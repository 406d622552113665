// Rasterises |B| straight into an image, since a path a triangle would be far too slow: the components of B are
// linear in an element, their size is not.

#include "field/side_by_side.h"
#include "figure/palette.h"
#include "section/section_layers.h"

#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

struct Corner {
    float x, y, u, v; ///< pixels; components of what is shown, as colour indices
};

/// A linear function over a triangle: its value at the first corner and slopes along x and y.
struct Plane {
    float at_a, slope_x, slope_y;
};

Plane plane(const Corner& a, const Corner& b, const Corner& c, float area, float Corner::*of) {
    const float ab = b.*of - a.*of, ac = c.*of - a.*of;
    return {a.*of, (ab * (c.y - a.y) - ac * (b.y - a.y)) / area, (ac * (b.x - a.x) - ab * (c.x - a.x)) / area};
}

/// Rows of the image that one thread paints.
struct Band {
    QRgb* pixels;
    int width, first, last;
};

void raster(const Band& band, const std::array<QRgb, 256>& colours, float low, const Corner& a, const Corner& b,
            const Corner& c) {
    const int top = std::max(band.first, int(std::ceil(std::min({a.y, b.y, c.y}) - 0.5F)));
    const int bottom = std::min(band.last, int(std::floor(std::max({a.y, b.y, c.y}) - 0.5F)));
    if (top > bottom) return;
    const float area = (b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y);
    if (area == 0) return;
    const Plane u = plane(a, b, c, area, &Corner::u), v = plane(a, b, c, area, &Corner::v);
    struct Side {
        float low, high, x, slope; ///< rows it spans; its x at the low end and per row
    };
    const auto side = [](const Corner& p, const Corner& q) {
        const Corner &first = p.y < q.y ? p : q, &last = p.y < q.y ? q : p;
        return Side{first.y, last.y, first.x, (last.x - first.x) / std::max(1e-6F, last.y - first.y)};
    };
    const Side sides[] = {side(a, b), side(b, c), side(c, a)};
    for (int y = top; y <= bottom; ++y) {
        const float line = float(y) + 0.5F;
        float left = 1e9F, right = -1e9F;
        for (const Side& s : sides) {
            if (line < s.low || line >= s.high) continue;
            const float x = s.x + (line - s.low) * s.slope;
            left = std::min(left, x);
            right = std::max(right, x);
        }
        const int from = std::max(0, int(std::ceil(left - 0.5F))),
                  to = std::min(band.width - 1, int(std::ceil(right - 0.5F)) - 1);
        if (from > to) continue;
        QRgb* pixel = band.pixels + long(y) * band.width + from;
        const float dx = float(from) + 0.5F - a.x, dy = line - a.y;
        float p = u.at_a + u.slope_x * dx + u.slope_y * dy, q = v.at_a + v.slope_x * dx + v.slope_y * dy;
        for (int x = from; x <= to; ++x, p += u.slope_x, q += v.slope_x)
            *pixel++ = colours[std::size_t(std::clamp(int(std::sqrt(p * p + q * q) - low), 0, 255))];
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
    const int height = image.height(), width = image.width();
    std::vector<Corner> corners;
    for (int copy = 0; copy < picture.sector.count; ++copy) {
        const double angle = copy * picture.sector.angle(), c = std::cos(angle), s = std::sin(angle);
        for (const auto& v : picture.vertices) {
            const QPointF p = pixel_ratio * frame.to_screen({c * v.at.x - s * v.at.y, s * v.at.x + c * v.at.y});
            corners.push_back(
                {float(p.x()), float(p.y()), float(double(v.x) * scale), float(double(v.y) * scale)});
        }
    }
    auto* pixels = reinterpret_cast<QRgb*>(image.bits()); // 32 bits a pixel: no padding between the lines
    constexpr int bands = 4;
    each_side_by_side(bands, [&](int k) {
        const Band band{pixels, width, height * k / bands, height * (k + 1) / bands - 1};
        for (int copy = 0; copy < picture.sector.count; ++copy) {
            const Corner* from = corners.data() + std::size_t(copy) * picture.vertices.size();
            for (const auto& t : picture.coloured)
                raster(band, colours, float(low * scale), from[t.vertex[0]], from[t.vertex[1]],
                       from[t.vertex[2]]);
        }
    });
    return image;
}

} // namespace mavlo::app
