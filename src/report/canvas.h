#pragma once
// A drawing in metres, y upwards, on a Cairo surface: a file, or the bytes of one.

#include "shape/faces.h"

#include <string>

struct _cairo;
struct _cairo_surface;

namespace mavlo {

struct Colour {
    double r, g, b;
};
constexpr Colour hex(unsigned rgb) {
    return {((rgb >> 16) & 255) / 255.0, ((rgb >> 8) & 255) / 255.0, (rgb & 255) / 255.0};
}

class Canvas {
  public:
    enum class Form { Svg, Pdf, Png };
    /// What is seen: its lower left corner, its width and height (m); `pixels` along the width.
    struct Window {
        Point corner;
        double width, height, pixels;
    };
    /// The whole of a disc with a margin round it.
    static Window round(double radius);

    Canvas(Form form, const Window& window, Colour paper);
    Canvas(const Canvas&) = delete;
    Canvas& operator=(const Canvas&) = delete;
    ~Canvas();

    void set(Colour c);
    void turn(double angle);
    void disc(double radius, Colour c);
    void fill(const Polygon& polygon, Colour c);
    void trace(const std::vector<Point>& points);
    void close();
    void stroke(Colour c, double pixels);
    double pixel() const { return 1 / m_scale; } ///< m
    /// Upright, its middle at a point.
    void text(Point middle, const std::string& words, double pixels, Colour c);
    double text_width(const std::string& words, double pixels); ///< m

    /// The file's bytes; nothing is drawn afterwards. Empty when it failed.
    std::string bytes();

  private:
    Form m_form;
    std::string m_bytes;
    _cairo_surface* m_surface;
    _cairo* m_cairo;
    double m_scale;
};

} // namespace mavlo
