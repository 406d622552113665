#include "machine/tile_drawing.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {
constexpr double here = 1e-9; ///< points nearer than this are one, m
} // namespace

TileDrawing::TileDrawing(const TileFrame& frame, const std::string& side)
    : m_frame(frame)
    , m_side(side)
    , m_half(frame.half_pitch()) {
    m_tile.chart = frame.chart;
    m_tile.pitch = frame.pitch();
    m_tile.gap_radius = m_tile.face_radius = m_tile.iron_radius = frame.gap_radius;
}

void TileDrawing::line(Point a, Point b) {
    const int from = at(a), to = at(b);
    if (from != to) m_tile.outline.line(from, to);
}

void TileDrawing::along(Point a, Point b) {
    if (m_frame.chart.is_flat())
        line(a, b);
    else
        arc(a, b, {});
}

void TileDrawing::arc(Point a, Point b, Point centre) {
    const int from = at(a), to = at(b);
    if (from != to) m_tile.outline.arc(from, to, centre);
}

void TileDrawing::region(Point seed, Use use, const std::string& name, const std::string& material) {
    Region region;
    region.seed = seed;
    region.use = use;
    region.path = name;
    region.material = material;
    m_tile.regions.push_back(region);
}

void TileDrawing::magnet(Point seed, const std::string& name, Remanence remanence, Spans spans, int part) {
    region(seed, Use::Magnet, name, name + ".grade");
    Region& magnet = m_tile.regions.back();
    magnet.magnet = remanence;
    magnet.spans = spans;
    magnet.part = part;
}

void TileDrawing::lift_gap(double layer) {
    m_tile.gap_radius = m_frame.gap_radius - m_frame.dir() * layer;
    air(m_frame.place((m_tile.gap_radius + m_frame.gap_radius) / 2, m_half * (1 - 1e-6)), "face");
}

void TileDrawing::cut_line(double angle) {
    std::vector<double> heights;
    for (const Point& p : m_tile.outline.points)
        if (m_frame.chart.on_line(p, angle)) heights.push_back(m_frame.chart.height(p));
    std::sort(heights.begin(), heights.end());
    for (std::size_t i = 0; i + 1 < heights.size(); ++i)
        line(m_frame.place(heights[i], angle), m_frame.place(heights[i + 1], angle));
}

void TileDrawing::cut_ring(double height) {
    std::vector<double> angles{0, m_half};
    for (const Point& p : m_tile.outline.points)
        if (std::abs(m_frame.chart.height(p) - height) < here) angles.push_back(m_frame.chart.angle(p));
    std::sort(angles.begin(), angles.end());
    for (std::size_t i = 0; i + 1 < angles.size(); ++i)
        along(m_frame.place(height, angles[i]), m_frame.place(height, angles[i + 1]));
}

void TileDrawing::cut_middle() {
    const double far = m_frame.far_radius;
    const bool has_hole = far > 1e-6;
    double inmost = has_hole ? far : m_frame.gap_radius;
    if (!has_hole)
        for (const Point& p : m_tile.outline.points) inmost = std::min(inmost, norm(p));
    m_tile.far_radius = hole_radius(inmost, m_frame.pairs());
    cut_ring(m_tile.far_radius);
    if (!has_hole) return;
    cut_ring(far);
    const Point seed = polar((m_tile.far_radius + far) / 2, m_half / 2);
    if (m_side == "rotor")
        region(seed, Use::Solid, "rotor.shaft");
    else
        air(seed, "bore");
}

Tile TileDrawing::finish() {
    const double far = m_frame.far_radius;
    cut_ring(m_tile.gap_radius);
    if (m_frame.outside() || m_frame.chart.is_flat()) {
        m_tile.far_radius = far;
        cut_ring(far);
    } else {
        cut_middle();
    }
    cut_line(0);
    cut_line(m_half);
    const double r = m_frame.gap_radius;
    if (m_tile.gap_size == 0) m_tile.gap_size = m_half * r / 5;
    if (m_tile.max_size == 0)
        m_tile.max_size = std::min(m_frame.thickness() / 4, m_half * std::max(r, m_frame.far_radius));
    return std::move(m_tile);
}

double hole_radius(double inner_radius, int pole_pairs) {
    return inner_radius * (pole_pairs <= 1 ? 0.03 : pole_pairs == 2 ? 0.15 : pole_pairs < 6 ? 0.3 : 0.6);
}

} // namespace mavlo
