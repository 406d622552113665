#include "field/model.h"

#include "field/dense_kernels.h"
#include "field/multifrontal.h"
#include "field/quadrature.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace mavlo {
namespace {

class Preparation {
  public:
    Preparation(const Machine& machine, ModelOptions options)
        : m_options(options)
        , m_model(std::make_shared<FieldModel>()) {
        m_model->machine = machine;
        m_model->quality = options.quality;
    }

    Result<std::shared_ptr<const FieldModel>> run() {
        if (auto problems = mesh(); !problems.empty()) return problems;
        const Machine& machine = m_model->machine;
        m_model->steel = {machine.stator_steel.curve.stacked(machine.stator_stacking),
                          machine.rotor_steel.curve.stacked(machine.rotor_stacking)};
        m_model->recoil = machine.magnet.curve;
        collect_elements(m_model->stator);
        m_model->stator_elements = m_model->elements.size();
        collect_elements(m_model->rotor);
        make_pattern();
        assemble_linear();
        load_magnets();
        load_phases();
        m_model->analysed = make_solver();
        return std::shared_ptr<const FieldModel>(std::move(m_model));
    }

  private:
    std::unique_ptr<Cholesky> make_solver() const {
        if (m_options.library_solver) return make_cholmod(m_model->pattern);
        std::vector<int> root = m_model->gap->stator_unknowns();
        root.insert(root.end(), m_model->gap->rotor_unknowns().begin(), m_model->gap->rotor_unknowns().end());
        return make_multifrontal(m_model->pattern, root);
    }

    Problems mesh() {
        const Machine& machine = m_model->machine;
        const double factor = size_factor(m_options.quality) * m_options.extra_factor;
        auto stator = triangulate(machine.stator, factor);
        if (!stator) return stator.problems();
        auto rotor = triangulate(machine.rotor, factor);
        if (!rotor) return {{"rotor", rotor.problems().front().sentence}};
        m_model->stator = stator_mesh(machine, *stator);
        m_model->rotor = rotor_mesh(machine, *rotor);
        for (int& unknown : m_model->rotor.unknown)
            if (unknown >= 0) unknown += m_model->stator.unknowns;
        m_model->gap = std::make_unique<GapElement>(m_model->stator, machine.bore_radius, machine.sector.slots,
                                                    m_model->rotor, machine.rotor_radius(),
                                                    machine.sector.poles, machine.sector);
        return {};
    }

    void collect_elements(const SectorMesh& mesh) {
        for (const auto& source : mesh.elements) {
            FieldModel::ElementData e;
            e.part = source.part;
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
                    {shape.gx, shape.gy, shape.n, shape.jacobian * rule.weight, shape.at});
            }
            e.count = int(m_model->points.size()) - e.first;
            m_model->elements.push_back(e);
        }
    }

    void make_pattern() {
        const int size = m_model->stator.unknowns + m_model->rotor.unknowns;
        std::vector<std::vector<int>> rows{std::size_t(size)};
        auto join = [&](int i, int j) {
            if (i >= 0 && j >= 0) rows[std::size_t(std::min(i, j))].push_back(std::max(i, j));
        };
        for (const auto& e : m_model->elements)
            for (std::size_t a = 0; a < 6; ++a)
                for (std::size_t b = 0; b <= a; ++b) join(e.unknown[a], e.unknown[b]);
        std::vector<int> gap = m_model->gap->stator_unknowns();
        gap.insert(gap.end(), m_model->gap->rotor_unknowns().begin(), m_model->gap->rotor_unknowns().end());
        std::sort(gap.begin(), gap.end());
        for (std::size_t j = 0; j < gap.size(); ++j) {
            auto& column = rows[std::size_t(gap[j])];
            column.insert(column.end(), gap.begin() + std::ptrdiff_t(j), gap.end());
        }
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
            const BhCurve& curve = m.curve(m.part(e, index).role);
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
        keep_linear_part();
        add_block(m.gap->stator_unknowns(), m.gap->stator_block());
        add_block(m.gap->rotor_unknowns(), m.gap->rotor_block());
        // The stator's unknowns come before the rotor's: column s, row r.
        const auto &stators = m.gap->stator_unknowns(), &rotors = m.gap->rotor_unknowns();
        m.coupling_entry.resize(stators.size() * rotors.size());
        for (std::size_t s = 0; s < stators.size(); ++s) {
            const std::vector<int>& at = places_in_column(stators[s]);
            for (std::size_t r = 0; r < rotors.size(); ++r)
                m.coupling_entry[r * stators.size() + s] = at[std::size_t(rotors[r])];
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
        const double nu = m.recoil.at(1).dh_db, remanence = m.machine.remanence;
        for (std::size_t index = m.stator_elements; index < m.elements.size(); ++index) {
            const auto& e = m.elements[index];
            const Part& part = m.part(e, index);
            if (part.role != Role::Magnet) continue;
            for (int q = e.first; q < e.first + e.count; ++q) {
                const auto& p = m.points[std::size_t(q)];
                const double angle = part.magnetisation == Magnetisation::Radial ? angle_of(p.at) : part.axis;
                const double share = m_options.remanence_share ? (*m_options.remanence_share)[index] : 1;
                const Point br = (part.polarity * remanence * share) * polar(1, angle);
                for (std::size_t a = 0; a < 6; ++a)
                    if (e.unknown[a] >= 0)
                        m.magnet_load[std::size_t(e.unknown[a])] +=
                            e.sign[a] * nu * p.weight * (br.x * p.gy[a] - br.y * p.gx[a]);
            }
        }
    }

    /// Net turns (times sign) of each phase in a coil side, divided by the parallel paths.
    double turns_in(const Part& part, int phase) const {
        const Machine& machine = m_model->machine;
        double turns = 0;
        for (const Coil& coil : machine.winding.coils) {
            if (coil.phase != phase) continue;
            auto here = [&](const CoilSide& side) {
                return side.slot == part.index && side.layer == part.layer;
            };
            if (here(coil.go)) turns += coil.sign;
            if (here(coil.back)) turns -= coil.sign;
        }
        return turns * machine.turns / machine.paths;
    }

    void load_phases() {
        FieldModel& m = *m_model;
        for (auto& load : m.phase_load) load.assign(std::size_t(m.unknowns()), 0.0);
        // A coil side may be split over two halves of a slot: its area is that of all its parts.
        std::map<std::pair<int, int>, double> area;
        auto each_conductor = [&](auto act) {
            for (std::size_t index = 0; index < m.stator_elements; ++index) {
                const Part& part = m.part(m.elements[index], index);
                if (part.role == Role::Conductor) act(m.elements[index], part);
            }
        };
        each_conductor([&](const auto& e, const Part& part) {
            for (int q = e.first; q < e.first + e.count; ++q)
                area[{part.index, part.layer}] += m.points[std::size_t(q)].weight;
        });
        std::map<std::pair<int, int>, PhaseValues> density;
        for (const auto& [side, size] : area)
            for (int phase = 0; phase < 3; ++phase)
                density[side][std::size_t(phase)] =
                    turns_in(Part{Role::Conductor, side.first, side.second}, phase) / size;
        each_conductor([&](const auto& e, const Part& part) {
            const PhaseValues& turns = density.at({part.index, part.layer});
            for (int q = e.first; q < e.first + e.count; ++q) {
                const auto& p = m.points[std::size_t(q)];
                for (std::size_t a = 0; a < 6; ++a)
                    for (std::size_t phase = 0; phase < 3; ++phase)
                        if (e.unknown[a] >= 0)
                            m.phase_load[phase][std::size_t(e.unknown[a])] +=
                                e.sign[a] * p.weight * turns[phase] * p.n[a];
            }
        });
    }

    ModelOptions m_options;
    std::vector<int> m_places;
    std::shared_ptr<FieldModel> m_model;
};

} // namespace

const BhCurve& FieldModel::curve(Role role) const {
    switch (role) {
    case Role::StatorIron:
        return steel[0];
    case Role::RotorIron:
        return steel[1];
    case Role::Magnet:
        return recoil;
    default:
        return air;
    }
}

Result<std::shared_ptr<const FieldModel>> prepare_field(const Machine& machine, ModelOptions options) {
    use_one_blas_thread();
    return Preparation(machine, options).run();
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
