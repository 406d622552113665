#include "shape/dxf/writer.h"

#include "quantity/constants.h"

#include <cmath>
#include <fmt/format.h>
#include <iterator>
#include <numbers>

namespace mavlo {
namespace {

/// One group: its code and its value.
template <class T>
void group(std::string& out, int code, const T& value) {
    fmt::format_to(std::back_inserter(out), "{:3d}\n{}\n", code, value);
}
void real(std::string& out, int code, double value) {
    fmt::format_to(std::back_inserter(out), "{:3d}\n{:.15g}\n", code, value);
}

void tables(std::string& out, const std::vector<std::string>& layers) {
    group(out, 0, "SECTION");
    group(out, 2, "TABLES");
    group(out, 0, "TABLE");
    group(out, 2, "LAYER");
    group(out, 70, layers.size());
    int colour = 1;
    for (const std::string& layer : layers) {
        group(out, 0, "LAYER");
        group(out, 2, layer);
        group(out, 70, 0);
        group(out, 62, colour++ % 7 + 1);
        group(out, 6, "CONTINUOUS");
    }
    group(out, 0, "ENDTAB");
    group(out, 0, "ENDSEC");
}

void entity(std::string& out, const Piece& p, const std::string& layer) {
    group(out, 0, p.straight() ? "LINE" : "ARC");
    group(out, 8, layer);
    if (p.straight()) {
        real(out, 10, p.a.x / mm);
        real(out, 20, p.a.y / mm);
        real(out, 11, p.b.x / mm);
        real(out, 21, p.b.y / mm);
        return;
    }
    const Circle c = circle_of(p);
    const Point from = p.bulge > 0 ? p.a : p.b, to = p.bulge > 0 ? p.b : p.a; // arcs run counter-clockwise
    real(out, 10, c.centre.x / mm);
    real(out, 20, c.centre.y / mm);
    real(out, 40, c.radius / mm);
    real(out, 50, angle_of(from - c.centre) / degree);
    real(out, 51, angle_of(to - c.centre) / degree);
}

} // namespace

std::string dxf_text(const std::vector<Piece>& pieces, const std::vector<std::string>& layers) {
    std::string out;
    group(out, 0, "SECTION");
    group(out, 2, "HEADER");
    group(out, 9, "$ACADVER");
    group(out, 1, "AC1009");
    group(out, 9, "$INSUNITS");
    group(out, 70, 4);
    group(out, 0, "ENDSEC");
    tables(out, layers);
    group(out, 0, "SECTION");
    group(out, 2, "ENTITIES");
    for (const Piece& p : pieces) entity(out, p, layers[std::size_t(p.layer)]);
    group(out, 0, "ENDSEC");
    group(out, 0, "EOF");
    return out;
}

} // namespace mavlo
