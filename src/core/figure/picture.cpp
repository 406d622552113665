#include "figure/picture.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;

class Maker {
  public:
    Maker(const MachineModel& model, const FieldSolution& solution)
        : m_model(model)
        , m_solution(solution) {
        m_out.sector = model.sector;
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
        }
        add_gap();
        find_extremes();
        return std::move(m_out);
    }

  private:
    /// Each element has vertices of its own, since |B| jumps between materials; four triangles follow its
    /// curve.
    void add_mesh(const BodyMesh& mesh, double angle, const std::vector<double>& potential,
                  std::size_t first_node, const std::vector<std::array<double, 3>>& density,
                  std::size_t first_element) {
        const double c = std::cos(angle), s = std::sin(angle);
        for (std::size_t index = 0; index < mesh.elements.size(); ++index) {
            const auto& e = mesh.elements[index];
            const auto& b = density[first_element + index];
            const std::array<double, 6> values{
                b[0], b[1], b[2], (b[0] + b[1]) / 2, (b[1] + b[2]) / 2, (b[2] + b[0]) / 2};
            const int first = int(m_out.vertices.size());
            for (std::size_t k = 0; k < 6; ++k) {
                const auto node = std::size_t(e.node[k]);
                const Point p = mesh.nodes[node];
                m_out.vertices.push_back({{c * p.x - s * p.y, s * p.x + c * p.y},
                                          float(potential[first_node + node]),
                                          float(values[k])});
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
        const int highest = m_model.gap->orders().back();
        int count = 1024;
        while (2 * count < 3 * highest && count < 8192) count *= 2;
        const int columns = count / m_model.sector.count;
        const int first = int(m_out.vertices.size());
        const auto mesh_triangles = std::ptrdiff_t(m_out.triangles.size());
        for (int layer = 0; layer <= layers; ++layer) {
            const double radius = inner + (outer - inner) * layer / layers;
            const auto ring = m_model.gap->ring(traces, radius, count);
            for (int i = 0; i <= columns; ++i) {
                const auto at = std::size_t(i % count);
                m_out.vertices.push_back({polar(radius, 2 * pi * i / count), float(ring.potential[at]),
                                          float(std::hypot(ring.radial[at], ring.tangential[at]))});
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
            b.push_back(v.flux_density);
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

void show_loss_density(FieldPicture& picture, const std::vector<double>& density) {
    constexpr std::size_t corners = 6; // vertices of each element, which come first
    std::vector<double> values;
    for (std::size_t i = 0; i < picture.vertices.size(); ++i) {
        const std::size_t element = i / corners;
        const double kilowatts = element < density.size() ? density[element] / 1e3 : 0;
        picture.vertices[i].flux_density = float(kilowatts);
        if (kilowatts > 0) values.push_back(kilowatts);
    }
    picture.shown = {"loss density at the rated speed, kW/m³", 1e-3};
    if (values.empty()) return;
    const auto at = values.begin() + std::ptrdiff_t(0.98 * double(values.size() - 1));
    std::nth_element(values.begin(), at, values.end());
    picture.shown.high = *at;
}

std::vector<Segment> flux_lines(const FieldPicture& picture, int count) {
    std::vector<Segment> lines;
    if (picture.highest_potential <= 0 || count < 1) return lines;
    const double step = 2 * picture.highest_potential / (count + 1);
    for (const auto& t : picture.triangles) {
        const auto &v0 = picture.vertices[std::size_t(t.vertex[0])],
                   &v1 = picture.vertices[std::size_t(t.vertex[1])],
                   &v2 = picture.vertices[std::size_t(t.vertex[2])];
        const auto [low, high] = std::minmax({v0.potential, v1.potential, v2.potential});
        // levels at (k + 1/2) step: symmetric about zero, as reversed sectors need
        for (int k = int(std::ceil(double(low) / step - 0.5)); (k + 0.5) * step < double(high); ++k) {
            const double level = (k + 0.5) * step;
            std::array<Point, 3> hits;
            std::size_t found = 0;
            for (const auto& [a, b] : {std::pair{&v0, &v1}, {&v1, &v2}, {&v2, &v0}}) {
                if ((a->potential < level) == (b->potential < level)) continue;
                const double s = (level - double(a->potential)) / (double(b->potential) - double(a->potential));
                hits[found++] = a->at + s * (b->at - a->at);
            }
            if (found >= 2) lines.push_back({hits[0], hits[1]});
        }
    }
    return lines;
}

} // namespace mavlo
