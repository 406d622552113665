#include "field/model.h"

#include "field/dense_kernels.h"
#include "field/multifrontal.h"
#include "field/quadrature.h"
#include "mesh/section_tiles.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

namespace mavlo {
namespace {

class Preparation {
  public:
    Preparation(FieldModel& model, const FieldInput& input, const ModelOptions& options)
        : m_input(input)
        , m_options(options)
        , m_model(&model) {}

    Problems run() {
        m_model->quality = m_options.quality;
        m_model->sector = m_input.sector;
        m_model->depth = m_input.sections.front().depth;
        m_model->rotor = m_input.sections.front().rotor_index();
        m_model->substances = m_input.substances;
        if (auto problems = mesh(); !problems.empty()) return problems;
        make_laws();
        m_model->first_element = {0};
        for (std::size_t body = 0; body < m_model->meshes.size(); ++body) {
            collect_elements(m_model->meshes[body], m_model->sections[body / FieldModel::bodies]);
            m_model->first_element.push_back(m_model->elements.size());
        }
        make_pattern();
        assemble_linear();
        load_magnets();
        load_ports();
        m_model->analysed = make_solver();
        return {};
    }

  private:
    std::unique_ptr<Cholesky> make_solver() const {
        if (m_options.library_solver) return make_cholmod(m_model->pattern);
        return make_multifrontal(m_model->pattern, gap_unknowns());
    }

    std::vector<int> gap_unknowns() const {
        std::vector<int> all;
        for (const auto& gap : m_model->gaps) {
            const std::vector<int> here = unknowns_of(*gap);
            all.insert(all.end(), here.begin(), here.end());
        }
        return all;
    }
    static std::vector<int> unknowns_of(const GapElement& gap) {
        std::vector<int> all = gap.outer_unknowns();
        all.insert(all.end(), gap.inner_unknowns().begin(), gap.inner_unknowns().end());
        return all;
    }

    Problems mesh() {
        const double factor = size_factor(m_options.quality) * m_options.extra_factor;
        const auto tiles =
            m_options.tile_meshes ? Result(*m_options.tile_meshes) : tile_meshes(m_input.sections, factor);
        if (!tiles) return tiles.problems();
        for (const Section& section : m_input.sections) {
            m_model->sections.push_back({section.chart(), section.share, section.coils, section.second});
            for (std::size_t k = 0; k < section.bodies.size(); ++k)
                mesh(section, k, (*tiles)[m_model->meshes.size()]);
            join(section);
        }
        return {};
    }

    void mesh(const Section& section, std::size_t k, const TileMesh& tile) {
        const Body& body = section.bodies[k];
        BodyMesh mesh = body_mesh(body, int(m_model->meshes.size()), tile, m_input.sector.pitches[k],
                                  m_input.sector.sign, m_input.side_by_side && !body.turns);
        if (m_options.displacement && body.turns == m_options.displaces_rotor)
            displace(mesh, body.tile, m_options.displacement);
        if (is_joined(section, body))
            count_joined(mesh, m_model->meshes[m_model->meshes.size() - section.bodies.size()], body.tile);
        else
            count(mesh);
        m_model->meshes.push_back(std::move(mesh));
    }

    void count(BodyMesh& mesh) {
        for (int& unknown : mesh.unknown)
            if (unknown >= 0) unknown += m_unknowns;
        m_unknowns += mesh.unknowns;
    }

    /// Nodes on the far side are those of the other half, which is meshed alike.
    void count_joined(BodyMesh& mesh, const BodyMesh& other, const Tile& tile) {
        std::vector<int> of(std::size_t(mesh.unknowns), -1);
        for (std::size_t i = 0; i < mesh.nodes.size(); ++i)
            if (mesh.unknown[i] >= 0 && std::abs(tile.chart.height(mesh.nodes[i]) - tile.far_radius) < 1e-9)
                of[std::size_t(mesh.unknown[i])] = other.unknown[i];
        mesh.unknowns = 0;
        for (int& number : of)
            if (number < 0) number = m_unknowns + mesh.unknowns++;
        m_unknowns += mesh.unknowns;
        for (int& unknown : mesh.unknown)
            if (unknown >= 0) unknown = of[std::size_t(unknown)];
    }

    /// The last two bodies by their gap, and the outer one with what lies beyond it.
    void join(const Section& section) {
        const BodyMesh &inner = m_model->meshes.end()[-2], &outer = m_model->meshes.back();
        const auto& pitches = m_input.sector.pitches;
        m_model->gaps.push_back(
            std::make_unique<GapElement>(GapElement::Body{outer, section.bodies[1].tile.gap_radius, pitches[1]},
                                         GapElement::Body{inner, section.bodies[0].tile.gap_radius, pitches[0]},
                                         m_input.sector, section.chart(), section.share));
        m_model->outside_radius = section.bodies[1].tile.far_radius;
        if (!outer.outside.empty())
            m_model->exterior = std::make_unique<Exterior>(outer, pitches[1], m_input.sector);
    }

    void make_laws() {
        m_model->laws = {BhCurve::linear(1)};
        for (const Substance& s : m_input.substances) m_model->laws.push_back(law_of(s));
    }

    static BhCurve law_of(const Substance& s) {
        switch (s.material.kind) {
        case MaterialKind::Steel:
            return s.material.curve.stacked(s.stacking);
        case MaterialKind::Magnet:
            return BhCurve::linear(s.recoil_mu_r());
        case MaterialKind::Insulator: // a magnetic wedge
            return BhCurve::linear(std::max(1.0, s.material.curve.linear_mu_r()));
        default:
            return BhCurve::linear(1);
        }
    }

    void collect_elements(const BodyMesh& mesh, const FieldModel::SectionPlace& section) {
        const int first_part = int(m_model->parts.size());
        m_model->parts.insert(m_model->parts.end(), mesh.parts.begin(), mesh.parts.end());
        for (std::size_t k = std::size_t(first_part); k < m_model->parts.size(); ++k) {
            Part& part = m_model->parts[k];
            if (part.magnet >= 0) part.magnet += m_magnets;
            if (part.use == Use::Conductor && !section.coils)
                part.use = Use::Air, part.substance = -1; // the coils end before it
        }
        m_magnets += mesh.magnets;
        for (const auto& source : mesh.elements) {
            FieldModel::ElementData e;
            e.part = first_part + source.part;
            e.law = mesh.parts[std::size_t(source.part)].substance + 1;
            e.first = int(m_model->points.size());
            std::array<Point, 6> nodes;
            for (std::size_t k = 0; k < 6; ++k) {
                const auto node = std::size_t(source.node[k]);
                nodes[k] = mesh.nodes[node];
                e.unknown[k] = mesh.unknown[node];
                e.sign[k] = mesh.sign[node];
            }
            for (const auto& rule : source.curved ? curved_rule() : straight_rule()) {
                const ShapeAt shape = quadratic_shape(nodes, rule.a, rule.b);
                m_model->points.push_back(
                    {shape.gx, shape.gy, shape.n, section.share * shape.jacobian * rule.weight, shape.at});
            }
            e.count = int(m_model->points.size()) - e.first;
            m_model->elements.push_back(e);
        }
    }

    void make_pattern() {
        int size = 0;
        for (const BodyMesh& mesh : m_model->meshes) size += mesh.unknowns;
        std::vector<std::vector<int>> rows{std::size_t(size)};
        auto join = [&](int i, int j) {
            if (i >= 0 && j >= 0) rows[std::size_t(std::min(i, j))].push_back(std::max(i, j));
        };
        for (const auto& e : m_model->elements)
            for (std::size_t a = 0; a < 6; ++a)
                for (std::size_t b = 0; b <= a; ++b) join(e.unknown[a], e.unknown[b]);
        const auto join_all = [&](std::vector<int> unknowns) {
            std::sort(unknowns.begin(), unknowns.end());
            for (std::size_t j = 0; j < unknowns.size(); ++j) {
                auto& column = rows[std::size_t(unknowns[j])];
                column.insert(column.end(), unknowns.begin() + std::ptrdiff_t(j), unknowns.end());
            }
        };
        for (const auto& gap : m_model->gaps) join_all(unknowns_of(*gap));
        if (m_model->exterior) join_all(m_model->exterior->unknowns());
        m_model->pattern = std::make_shared<SparsePattern>();
        SparsePattern& pattern = *m_model->pattern;
        pattern.size = size;
        pattern.column.push_back(0);
        for (auto& column : rows) {
            std::sort(column.begin(), column.end());
            column.erase(std::unique(column.begin(), column.end()), column.end());
            pattern.row.insert(pattern.row.end(), column.begin(), column.end());
            pattern.column.push_back(int(pattern.row.size()));
        }
        for (auto& e : m_model->elements) place(e);
    }

    int entry(int i, int j) const { return m_model->pattern->position(std::max(i, j), std::min(i, j)); }

    void place(FieldModel::ElementData& e) const {
        std::size_t k = 0;
        for (std::size_t a = 0; a < 6; ++a)
            for (std::size_t b = 0; b <= a; ++b, ++k) {
                const int i = e.unknown[a], j = e.unknown[b];
                e.entry[k] = i >= 0 && j >= 0 ? entry(i, j) : -1;
                // Two nodes of one element that share an unknown would both add to its diagonal; that needs a
                // sector one element wide, which the size field never makes.
                e.entry_sign[k] = e.sign[a] * e.sign[b];
            }
    }

    void assemble_linear() {
        FieldModel& m = *m_model;
        m.linear_values.assign(m.pattern->row.size(), 0.0);
        for (std::size_t index = 0; index < m.elements.size(); ++index) {
            const auto& e = m.elements[index];
            const BhCurve& curve = m.laws[std::size_t(e.law)];
            if (!curve.is_linear()) {
                m.nonlinear.push_back(int(index));
                continue;
            }
            const double nu = curve.at(1).dh_db;
            for (int q = e.first; q < e.first + e.count; ++q) {
                const auto& p = m.points[std::size_t(q)];
                std::size_t k = 0;
                for (std::size_t a = 0; a < 6; ++a)
                    for (std::size_t b = 0; b <= a; ++b, ++k)
                        if (e.entry[k] >= 0)
                            m.linear_values[std::size_t(e.entry[k])] +=
                                e.entry_sign[k] * nu * p.weight * (p.gx[a] * p.gx[b] + p.gy[a] * p.gy[b]);
            }
        }
        m.blocks = make_element_blocks(m);
        if (m.exterior) add_block(m.exterior->unknowns(), m.exterior->block());
        keep_linear_part();
        for (const auto& gap : m.gaps) add_gap(*gap);
    }

    void add_gap(const GapElement& gap) {
        add_block(gap.outer_unknowns(), gap.outer_block());
        add_block(gap.inner_unknowns(), gap.inner_block());
        // The inner body's unknowns come before the outer's: column i, row o.
        const auto &outer = gap.outer_unknowns(), &inner = gap.inner_unknowns();
        std::vector<int>& entry = m_model->coupling_entry.emplace_back(outer.size() * inner.size());
        for (std::size_t i = 0; i < inner.size(); ++i) {
            const std::vector<int>& at = places_in_column(inner[i]);
            for (std::size_t o = 0; o < outer.size(); ++o)
                entry[i * outer.size() + o] = at[std::size_t(outer[o])];
        }
    }

    /// The diagonal and what else is not zero, for products that pass over the steel's places and the gap's.
    void keep_linear_part() {
        FieldModel& m = *m_model;
        SparsePattern& kept = m.linear_pattern;
        kept.size = m.pattern->size;
        kept.column = {0};
        for (int j = 0; j < kept.size; ++j) {
            for (int k = m.pattern->column[std::size_t(j)]; k < m.pattern->column[std::size_t(j) + 1]; ++k) {
                const int row = m.pattern->row[std::size_t(k)];
                const double value = m.linear_values[std::size_t(k)];
                if (value == 0 && row != j) continue;
                kept.row.push_back(row);
                m.linear_part.push_back(value);
            }
            kept.column.push_back(int(kept.row.size()));
        }
    }

    /// Place of every row of one column of the matrix. The table is as long as the matrix and used again; what
    /// it says of rows that are not in the column has no meaning.
    const std::vector<int>& places_in_column(int column) {
        const SparsePattern& p = *m_model->pattern;
        m_places.resize(std::size_t(p.size));
        for (int k = p.column[std::size_t(column)]; k < p.column[std::size_t(column) + 1]; ++k)
            m_places[std::size_t(p.row[std::size_t(k)])] = k;
        return m_places;
    }

    void add_block(const std::vector<int>& unknowns, const Eigen::MatrixXd& block) {
        for (std::size_t j = 0; j < unknowns.size(); ++j) {
            const std::vector<int>& at = places_in_column(unknowns[j]);
            for (std::size_t i = 0; i < unknowns.size(); ++i)
                if (unknowns[i] >= unknowns[j])
                    m_model->linear_values[std::size_t(at[std::size_t(unknowns[i])])] +=
                        block(Eigen::Index(i), Eigen::Index(j));
        }
    }

    void load_magnets() {
        FieldModel& m = *m_model;
        m.magnet_load.assign(std::size_t(m.unknowns()), 0.0);
        for (std::size_t index = 0; index < m.elements.size(); ++index) {
            const auto& e = m.elements[index];
            const Part& part = m.part(e);
            if (part.use != Use::Magnet) continue;
            const double nu = m.laws[std::size_t(e.law)].at(1).dh_db,
                         remanence = m.substance(part)->remanence();
            for (int q = e.first; q < e.first + e.count; ++q) {
                const auto& p = m.points[std::size_t(q)];
                const double share = m_options.remanence_share ? (*m_options.remanence_share)[index] : 1;
                const Point br = (remanence * share) * polar(1, part.direction.at(m.chart(part).angle(p.at)));
                for (std::size_t a = 0; a < 6; ++a)
                    if (e.unknown[a] >= 0)
                        m.magnet_load[std::size_t(e.unknown[a])] +=
                            e.sign[a] * nu * p.weight * (br.x * p.gy[a] - br.y * p.gx[a]);
            }
        }
    }

    void load_ports() {
        FieldModel& m = *m_model;
        m.port_load.assign(std::size_t(m_input.ports), std::vector<double>(std::size_t(m.unknowns()), 0.0));
        // A coil side may be split over two halves of a slot: its area is that of all its parts.
        std::map<std::tuple<std::size_t, int, int>, double> area;
        const auto side = [&](const Part& part) {
            return std::tuple(m.section_of(part), part.pitch, part.layer);
        };
        auto each_conductor = [&](auto act) {
            for (const auto& e : m.elements)
                if (const Part& part = m.part(e); part.use == Use::Conductor) act(e, part);
        };
        each_conductor([&](const auto& e, const Part& part) { area[side(part)] += m.area(e) / m.share(part); });
        m.turns_density.assign(m.parts.size(), {});
        for (std::size_t k = 0; k < m.parts.size(); ++k) {
            const Part& part = m.parts[k];
            if (part.use != Use::Conductor) continue;
            for (const PortTurns& t : m_input.turns) {
                if (t.pitch != part.pitch || t.layer != part.layer) continue;
                m.turns_density[k].resize(std::size_t(m_input.ports));
                m.turns_density[k][std::size_t(t.port)] += t.turns / area[side(part)];
            }
        }
        each_conductor([&](const auto& e, const Part&) {
            const PortValues& turns = m.turns_density[std::size_t(e.part)];
            if (turns.empty()) return;
            for (int q = e.first; q < e.first + e.count; ++q) {
                const auto& p = m.points[std::size_t(q)];
                for (std::size_t a = 0; a < 6; ++a)
                    for (std::size_t port = 0; port < m.port_load.size(); ++port)
                        if (e.unknown[a] >= 0)
                            m.port_load[port][std::size_t(e.unknown[a])] +=
                                e.sign[a] * p.weight * turns[port] * p.n[a];
            }
        });
    }

    const FieldInput& m_input;
    const ModelOptions& m_options;
    std::vector<int> m_places;
    int m_unknowns = 0, m_magnets = 0; ///< so far
    FieldModel* m_model;
};

} // namespace

double FieldModel::area(const ElementData& e) const {
    double sum = 0;
    for (int q = e.first; q < e.first + e.count; ++q) sum += points[std::size_t(q)].weight;
    return sum;
}

int FieldModel::magnets() const {
    int sum = 0;
    for (const BodyMesh& mesh : meshes) sum += mesh.magnets;
    return sum;
}

double FieldModel::smallest_angle() const {
    double least = 4;
    for (const BodyMesh& mesh : meshes) least = std::min(least, mesh.smallest_angle);
    return least;
}

Problems prepare(FieldModel& model, const FieldInput& input, const ModelOptions& options) {
    use_one_blas_thread();
    return Preparation(model, input, options).run();
}

std::array<double, 6> local_values(const FieldModel::ElementData& e, const std::vector<double>& potential) {
    std::array<double, 6> a{};
    for (std::size_t k = 0; k < 6; ++k)
        if (e.unknown[k] >= 0) a[k] = e.sign[k] * potential[std::size_t(e.unknown[k])];
    return a;
}

Eigen::VectorXd gather(const std::vector<int>& unknowns, const std::vector<double>& potential) {
    Eigen::VectorXd values{Eigen::Index(unknowns.size())};
    for (std::size_t i = 0; i < unknowns.size(); ++i)
        values[Eigen::Index(i)] = potential[std::size_t(unknowns[i])];
    return values;
}

} // namespace mavlo
