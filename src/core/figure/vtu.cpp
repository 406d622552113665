#include "figure/vtu.h"

#include "figure/picture.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int quadratic_triangle = 22; // VTK's number of the cell

class Writer {
  public:
    using More = std::vector<std::pair<std::string, std::vector<double>>>;
    Writer(const MachineModel& model, const FieldSolution& solution, bool whole, const More& more)
        : m_model(model)
        , m_solution(solution)
        , m_more(more)
        , m_picture(make_picture(model, solution))
        , m_copies(whole ? model.sector.count : 1) {}

    std::string run() {
        const std::size_t cells = m_picture.elements * std::size_t(m_copies);
        m_out = fmt::format("<?xml version=\"1.0\"?>\n<VTKFile type=\"UnstructuredGrid\" version=\"1.0\" "
                            "byte_order=\"LittleEndian\">\n<UnstructuredGrid>\n"
                            "<Piece NumberOfPoints=\"{}\" NumberOfCells=\"{}\">\n",
                            6 * cells, cells);
        m_out += "<Points>\n";
        array("Float64", "points", 3, [&] { each_node([&](const Node& n) { add(n.at); }); });
        m_out += "</Points>\n<Cells>\n";
        array("Int32", "connectivity", 1, [&] {
            for (std::size_t i = 0; i < 6 * cells; ++i) m_out += fmt::format("{} ", i);
        });
        array("Int32", "offsets", 1, [&] {
            for (std::size_t i = 1; i <= cells; ++i) m_out += fmt::format("{} ", 6 * i);
        });
        array("UInt8", "types", 1, [&] {
            for (std::size_t i = 0; i < cells; ++i) m_out += fmt::format("{} ", quadratic_triangle);
        });
        m_out += "</Cells>\n<PointData Scalars=\"A\" Vectors=\"B\">\n";
        array("Float64", "A", 1,
              [&] { each_node([&](const Node& n) { m_out += fmt::format("{:.9g} ", n.potential); }); });
        array("Float64", "B", 3, [&] { each_node([&](const Node& n) { add(n.b); }); });
        m_out += "</PointData>\n<CellData>\n";
        cell_data();
        m_out += "</CellData>\n</Piece>\n</UnstructuredGrid>\n</VTKFile>\n";
        return std::move(m_out);
    }

  private:
    struct Node {
        Point at, b;
        double potential;
    };

    void add(Point p) { m_out += fmt::format("{:.9g} {:.9g} 0\n", p.x, p.y); }

    void array(const char* type, const char* name, int components, const auto& fill) {
        m_out += fmt::format("<DataArray type=\"{}\" Name=\"{}\" NumberOfComponents=\"{}\" format=\"ascii\">\n",
                             type, name, components);
        fill();
        m_out += "\n</DataArray>\n";
    }

    int body_of(std::size_t element) const { return m_model.part(m_model.elements[element]).body; }
    /// How far the element's body is turned, rad.
    double turn_of(std::size_t element) const {
        return m_model.is_rotor(body_of(element)) ? m_solution.angle : 0;
    }

    void each_node(const auto& take) {
        for (int copy = 0; copy < m_copies; ++copy) {
            const double angle = copy * m_picture.sector.angle(), sign = copy % 2 ? m_picture.sector.sign : 1;
            for (std::size_t e = 0; e < m_picture.elements; ++e)
                for (std::size_t k = 0; k < 6; ++k) {
                    const auto& v = m_picture.vertices[6 * e + k];
                    const Point b{double(v.x), double(v.y)};
                    const Chart& chart = m_picture.chart;
                    take(Node{chart.turned(v.at, angle), sign * chart.turned_direction(b, turn_of(e) + angle),
                              sign * double(v.potential)});
                }
        }
    }

    void each_cell(const auto& take) {
        for (int copy = 0; copy < m_copies; ++copy)
            for (std::size_t e = 0; e < m_picture.elements; ++e) take(e, copy);
    }

    void cell_data() {
        array("Int32", "use", 1, [&] {
            each_cell([&](std::size_t e, int) {
                m_out += fmt::format("{} ", int(m_model.part(m_model.elements[e]).use));
            });
        });
        array("Int32", "body", 1,
              [&] { each_cell([&](std::size_t e, int) { m_out += fmt::format("{} ", body_of(e)); }); });
        array("Float64", "mu_r", 1, [&] {
            each_cell([&](std::size_t e, int) { m_out += fmt::format("{:.6g} ", permeability(e)); });
        });
        array("Float64", "remanence", 3,
              [&] { each_cell([&](std::size_t e, int copy) { add(remanence(e, copy)); }); });
        for (const auto& [name, values] : m_more)
            array("Float64", name.c_str(), 1, [&, &of = values] {
                each_cell([&](std::size_t e, int) { m_out += fmt::format("{:.9g} ", of[e]); });
            });
    }

    double permeability(std::size_t element) const {
        double b = 0; // at the middle
        for (std::size_t k = 0; k < 3; ++k) b += m_picture.vertices[6 * element + k].size() / 3;
        const auto law = m_model.laws[std::size_t(m_model.elements[element].law)].at(b);
        return 1 / (mu0 * (b > 1e-9 ? law.h / b : law.dh_db));
    }

    Point remanence(std::size_t element, int copy) const {
        const Part& part = m_model.part(m_model.elements[element]);
        if (part.use != Use::Magnet) return {};
        Point middle{};
        for (std::size_t k = 0; k < 3; ++k)
            middle = middle + (1.0 / 3) * m_picture.vertices[6 * element + k].at;
        const double sign = copy % 2 ? m_picture.sector.sign : 1, turn = turn_of(element);
        const Chart& chart = m_picture.chart;
        const double own = part.direction.at(chart.angle(chart.turned(middle, -turn)));
        return sign * chart.turned_direction(polar(m_model.substance(part)->own_remanence(), own),
                                             turn + copy * m_picture.sector.angle());
    }

    const MachineModel& m_model;
    const FieldSolution& m_solution;
    const More& m_more;
    FieldPicture m_picture;
    int m_copies;
    std::string m_out;
};

} // namespace

std::string vtu_text(const MachineModel& model, const FieldSolution& solution, bool whole,
                     const std::vector<std::pair<std::string, std::vector<double>>>& more) {
    return Writer(model, solution, whole, more).run();
}

} // namespace mavlo
