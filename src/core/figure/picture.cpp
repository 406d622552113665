#include "figure/picture.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace mavlo {
namespace {

class Maker {
  public:
    Maker(const MachineModel& model, const FieldSolution& solution)
        : m_model(model)
        , m_solution(solution) {
        assert(model.sections.size() == 1 && "a picture is of one section");
        m_out.sector = model.sector;
        m_out.chart = model.sections.front().chart;
    }

    FieldPicture run() {
        const auto potential = nodal_potential(m_model, m_solution);
        const auto density = corner_flux_density(m_model, m_solution);
        std::size_t node = 0;
        for (std::size_t body = 0; body < m_model.meshes.size(); ++body) {
            const BodyMesh& mesh = m_model.meshes[body];
            add_mesh(mesh, m_model.is_rotor(int(body)) ? m_solution.angle : 0, potential, node, density,
                     m_model.first_element[body]);
            node += mesh.nodes.size();
            m_out.elements += mesh.elements.size();
        }
        add_gap();
        find_extremes();
        return std::move(m_out);
    }

  private:
    /// Each element has vertices of its own, since |B| jumps between materials; four triangles follow its
    /// curve.
    void add_mesh(const BodyMesh& mesh, double angle, const std::vector<double>& potential,
                  std::size_t first_node, const std::vector<std::array<Point, 3>>& density,
                  std::size_t first_element) {
        for (std::size_t index = 0; index < mesh.elements.size(); ++index) {
            const auto& e = mesh.elements[index];
            const auto& b = density[first_element + index];
            const std::array<Point, 6> values{
                b[0], b[1], b[2], 0.5 * (b[0] + b[1]), 0.5 * (b[1] + b[2]), 0.5 * (b[2] + b[0])};
            const int first = int(m_out.vertices.size());
            for (std::size_t k = 0; k < 6; ++k) {
                const auto node = std::size_t(e.node[k]);
                const Point p = mesh.nodes[node];
                m_out.vertices.push_back({m_out.chart.turned(p, angle), float(potential[first_node + node]),
                                          float(values[k].x), float(values[k].y)});
            }
            for (const auto& t : {std::array{0, 3, 5}, {3, 1, 4}, {5, 4, 2}, {3, 4, 5}})
                m_out.triangles.push_back({{first + t[0], first + t[1], first + t[2]}});
            if (e.curved)
                m_out.coloured.insert(m_out.coloured.end(), m_out.triangles.end() - 4, m_out.triangles.end());
            else
                m_out.coloured.push_back({{first, first + 1, first + 2}});
            for (const auto& [i, j] : {std::pair{0, 3}, {3, 1}, {1, 4}, {4, 2}, {2, 5}, {5, 0}})
                m_out.mesh_edges.push_back({first + i, first + j});
        }
    }

    void add_gap() {
        constexpr int layers = 3;
        const auto& bodies = m_model.machine.section.bodies;
        const double inner = bodies.front().tile.gap_radius, outer = bodies.back().tile.gap_radius;
        const auto traces = gap_traces(m_model, m_solution);
        const int highest = m_model.gap().orders().back();
        int count = 1024;
        while (2 * count < 3 * highest && count < 8192) count *= 2;
        const int columns = count / m_model.sector.count;
        const int first = int(m_out.vertices.size());
        const auto mesh_triangles = std::ptrdiff_t(m_out.triangles.size());
        for (int layer = 0; layer <= layers; ++layer) {
            const double radius = inner + (outer - inner) * layer / layers;
            const auto ring = m_model.gap().ring(traces, radius, count);
            for (int i = 0; i <= columns; ++i) {
                const auto at = std::size_t(i % count);
                const double angle = 2 * pi * i / count;
                const Point gap = m_out.chart.turned_direction({ring.radial[at], ring.tangential[at]}, angle);
                m_out.vertices.push_back(
                    {m_out.chart.place(radius, angle), float(ring.potential[at]), float(gap.x), float(gap.y)});
            }
        }
        for (int layer = 0; layer < layers; ++layer)
            for (int i = 0; i < columns; ++i) {
                const int a = first + layer * (columns + 1) + i, b = a + columns + 1;
                m_out.triangles.push_back({{a, a + 1, b}});
                m_out.triangles.push_back({{a + 1, b + 1, b}});
            }
        m_out.coloured.insert(m_out.coloured.end(), m_out.triangles.begin() + mesh_triangles,
                              m_out.triangles.end());
    }

    void find_extremes() {
        std::vector<float> b;
        for (const auto& v : m_out.vertices) {
            b.push_back(float(v.size()));
            m_out.highest_potential = std::max(m_out.highest_potential, double(std::abs(v.potential)));
        }
        if (b.empty()) return;
        const auto at = b.begin() + std::ptrdiff_t(0.995 * double(b.size() - 1));
        std::nth_element(b.begin(), at, b.end());
        m_out.highest_flux_density = *at;
    }

    const MachineModel& m_model;
    const FieldSolution& m_solution;
    FieldPicture m_out;
};

} // namespace

FieldPicture make_picture(const MachineModel& model, const FieldSolution& solution) {
    return Maker(model, solution).run();
}

FieldPicture rolled(FieldPicture picture, const MachineModel& model, double angle) {
    const Chart chart = picture.chart;
    if (!chart.is_flat()) return picture;
    const std::size_t of_gap = FieldPicture::of_element * picture.elements;
    for (std::size_t i = 0; i < picture.vertices.size(); ++i) {
        FieldPicture::Vertex& v = picture.vertices[i];
        // Directions stand in their body's frame, the gap's in the resting one.
        const bool turns =
            i < of_gap && model.is_rotor(model.part(model.elements[i / FieldPicture::of_element]).body);
        const Point b = rotated({double(v.x), double(v.y)}, chart.angle(v.at) - (turns ? angle : 0));
        v.x = float(b.x);
        v.y = float(b.y);
        v.at = chart.rolled(v.at);
    }
    picture.chart = {};
    return picture;
}

void show_of_nodes(FieldPicture& picture, const std::vector<Point>& values, const ElementScale& scale) {
    std::vector<double> above_zero;
    for (std::size_t i = 0; i < picture.vertices.size(); ++i) {
        const Point value = i < values.size() ? scale.factor * values[i] : Point{};
        picture.vertices[i].x = float(value.x);
        picture.vertices[i].y = float(value.y);
        if (const double size = norm(value); size > 0) above_zero.push_back(size);
    }
    picture.shown = {scale.label, scale.symbol, scale.unit, 0, 1e-3};
    if (above_zero.empty()) return;
    const auto at = above_zero.begin() + std::ptrdiff_t(0.98 * double(above_zero.size() - 1));
    std::nth_element(above_zero.begin(), at, above_zero.end());
    picture.shown.high = *at;
    if (!scale.from_lowest) return;
    const auto low = above_zero.begin() + std::ptrdiff_t(0.02 * double(above_zero.size() - 1));
    std::nth_element(above_zero.begin(), low, above_zero.end());
    picture.shown.low = std::min(*low, 0.98 * picture.shown.high);
}

void show_of_elements(FieldPicture& picture, const std::vector<double>& values, const ElementScale& scale) {
    std::vector<Point> nodes;
    for (double value : values) nodes.insert(nodes.end(), FieldPicture::of_element, Point{value, 0});
    show_of_nodes(picture, nodes, scale);
}

namespace {

/// Crossings of levels (k + 1/2) step, symmetric about zero as reversed sectors need, with triangles over which
/// A is taken as linear.
class LevelLines {
  public:
    explicit LevelLines(double step)
        : m_step(step) {}

    struct Corner {
        Point at;
        double potential;
    };
    bool crosses(double low, double high) const { return (first_level(low) + 0.5) * m_step < high; }

    void cut(const Corner& v0, const Corner& v1, const Corner& v2) {
        const auto [low, high] = std::minmax({v0.potential, v1.potential, v2.potential});
        for (int k = first_level(low); (k + 0.5) * m_step < high; ++k) {
            const double level = (k + 0.5) * m_step;
            std::array<Point, 3> hits;
            std::size_t found = 0;
            for (const auto& [a, b] : {std::pair{&v0, &v1}, {&v1, &v2}, {&v2, &v0}}) {
                if ((a->potential < level) == (b->potential < level)) continue;
                hits[found++] =
                    a->at + (level - a->potential) / (b->potential - a->potential) * (b->at - a->at);
            }
            if (found >= 2) m_lines.push_back({hits[0], hits[1]});
        }
    }

    /// An element of second order in `parts` squared triangles.
    void cut(const FieldPicture::Vertex* six, int parts) {
        m_row.clear();
        std::vector<Corner> next;
        for (int j = 0; j <= parts; ++j) {
            next.clear();
            for (int i = 0; i <= parts - j; ++i) next.push_back(at(six, double(i) / parts, double(j) / parts));
            for (std::size_t i = 0; j > 0 && i < next.size(); ++i) {
                cut(m_row[i], m_row[i + 1], next[i]);
                if (i + 1 < next.size()) cut(m_row[i + 1], next[i + 1], next[i]);
            }
            m_row.swap(next);
        }
    }

    std::vector<Segment> take() { return std::move(m_lines); }

  private:
    int first_level(double low) const { return int(std::ceil(low / m_step - 0.5)); }

    static Corner at(const FieldPicture::Vertex* six, double a, double b) {
        const double c = 1 - a - b;
        const std::array n{c * (2 * c - 1), a * (2 * a - 1), b * (2 * b - 1), 4 * c * a, 4 * a * b, 4 * b * c};
        Corner out{{0, 0}, 0};
        for (std::size_t k = 0; k < 6; ++k) {
            out.at = out.at + n[k] * six[k].at;
            out.potential += n[k] * double(six[k].potential);
        }
        return out;
    }

    double m_step;
    std::vector<Segment> m_lines;
    std::vector<Corner> m_row;
};

} // namespace

std::vector<Segment> flux_lines(const FieldPicture& picture, int count, double resolution) {
    constexpr int most_parts = 10, element_vertices = 6, element_triangles = 4;
    if (picture.highest_potential <= 0 || count < 1) return {};
    LevelLines lines(2 * picture.highest_potential / (count + 1));
    for (std::size_t e = 0; e < picture.elements; ++e) {
        const FieldPicture::Vertex* six = &picture.vertices[element_vertices * e];
        double low = double(six[0].potential), high = low;
        for (int k = 1; k < element_vertices; ++k) {
            low = std::min(low, double(six[k].potential));
            high = std::max(high, double(six[k].potential));
        }
        // Between its nodes a quadratic function goes beyond them by an eighth of their range at the most.
        const double beyond = (high - low) / 8;
        if (!lines.crosses(low - beyond, high + beyond)) continue;
        const double size = std::max(
            {distance(six[0].at, six[1].at), distance(six[1].at, six[2].at), distance(six[2].at, six[0].at)});
        lines.cut(six, std::clamp(int(std::ceil(size / resolution)), 2, most_parts));
    }
    const auto corner = [&](int vertex) {
        const auto& v = picture.vertices[std::size_t(vertex)];
        return LevelLines::Corner{v.at, double(v.potential)};
    };
    for (std::size_t t = element_triangles * picture.elements; t < picture.triangles.size(); ++t) {
        const auto& v = picture.triangles[t].vertex;
        lines.cut(corner(v[0]), corner(v[1]), corner(v[2]));
    }
    return lines.take();
}

} // namespace mavlo
