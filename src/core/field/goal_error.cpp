#include "field/goal_error.h"

#include "field/quadrature.h"

#include <cmath>

namespace mavlo {
namespace {

/// The four cubic functions that a triangle adds: on its edges 0-1, 1-2, 2-0 the odd ones
/// la lb (la - lb), and the bubble l0 l1 l2.
struct Cubic {
    std::array<double, 4> n{}, gx{}, gy{};
};

Cubic cubic_at(const RulePoint& at, const ShapeAt& shape) {
    // Barycentric coordinates are sums of the quadratic functions, and so are their gradients.
    const auto sum = [](const std::array<double, 6>& g) {
        return std::array{g[0] + (g[3] + g[5]) / 2, g[1] + (g[3] + g[4]) / 2, g[2] + (g[4] + g[5]) / 2};
    };
    const std::array l{1 - at.a - at.b, at.a, at.b}, x = sum(shape.gx), y = sum(shape.gy);
    Cubic c;
    for (std::size_t k = 0; k < 3; ++k) {
        const std::size_t i = k, j = (k + 1) % 3;
        const double di = l[j] * (2 * l[i] - l[j]), dj = l[i] * (l[i] - 2 * l[j]);
        c.n[k] = l[i] * l[j] * (l[i] - l[j]);
        c.gx[k] = di * x[i] + dj * x[j];
        c.gy[k] = di * y[i] + dj * y[j];
    }
    c.n[3] = l[0] * l[1] * l[2];
    c.gx[3] = l[1] * l[2] * x[0] + l[0] * l[2] * x[1] + l[0] * l[1] * x[2];
    c.gy[3] = l[1] * l[2] * y[0] + l[0] * l[2] * y[1] + l[0] * l[1] * y[2];
    return c;
}

/// What one element gives to its four functions.
struct Shares {
    std::array<double, 4> stiffness{}, field{};
    std::vector<std::array<double, 4>> adjoint; ///< of each goal
};

class Estimate {
  public:
    Estimate(const FieldModel& model, const GapElement::Edges& gap, const FieldSolution& field,
             const std::vector<Goal>& goals, const std::vector<std::vector<double>>& adjoints)
        : m_model(model)
        , m_gap(gap)
        , m_field(field)
        , m_goals(goals)
        , m_adjoints(adjoints) {}

    std::vector<TileErrors> run() {
        for (std::size_t body = 0; body < m_model.meshes.size(); ++body)
            for (std::size_t i = m_model.first_element[body]; i < m_model.first_element[body + 1]; ++i)
                m_shares.push_back(shares(body, i));
        add_up_edges();
        add_gap();
        add_exterior();
        std::vector<TileErrors> errors;
        for (std::size_t goal = 0; goal < m_goals.size(); ++goal) errors.push_back(shared_out(goal));
        return errors;
    }

  private:
    std::array<Point, 6> nodes(std::size_t body, std::size_t element) const {
        const BodyMesh& mesh = m_model.meshes[body];
        const auto& source = mesh.elements[element - m_model.first_element[body]];
        std::array<Point, 6> at;
        for (std::size_t k = 0; k < 6; ++k) at[k] = mesh.nodes[std::size_t(source.node[k])];
        return at;
    }

    /// Current density at the field, A/m2.
    double current_density(const FieldModel::ElementData& e) const {
        const PortValues& turns = m_model.turns_density[std::size_t(e.part)];
        double sum = 0;
        for (std::size_t port = 0; port < turns.size(); ++port) sum += turns[port] * m_field.current[port];
        return sum;
    }

    /// nu B_r as the magnet's load has it.
    Point remanence(const FieldModel::ElementData& e, Point at) const {
        const Part& part = m_model.part(e);
        if (part.use != Use::Magnet) return {};
        return m_model.substance(part)->remanence() *
               polar(1, part.direction.at(m_model.chart(part).angle(at)));
    }

    Shares shares(std::size_t body, std::size_t index) const {
        const auto& e = m_model.elements[index];
        const BhCurve& law = m_model.laws[std::size_t(e.law)];
        const auto at = nodes(body, index);
        const auto a = local_values(e, m_field.potential);
        const double density = current_density(e);
        Shares out;
        out.adjoint.resize(m_goals.size());
        std::vector<std::array<double, 6>> z;
        for (const auto& adjoint : m_adjoints) z.push_back(local_values(e, adjoint));
        for (const RulePoint& rule : curved_rule()) {
            const ShapeAt shape = quadratic_shape(at, rule.a, rule.b);
            const Cubic cubic = cubic_at(rule, shape);
            const double weight = shape.jacobian * rule.weight;
            const Point g = gradient(shape, a), br = remanence(e, shape.at);
            const double b = std::hypot(g.x, g.y);
            const auto value = law.at(law.is_linear() ? 1.0 : b);
            const double nu = law.is_linear() || b < 1e-12 ? value.dh_db : value.h / b,
                         extra = law.is_linear() || b < 1e-12 ? 0 : (value.dh_db - nu) / (b * b);
            for (std::size_t f = 0; f < 4; ++f) {
                const double x = cubic.gx[f], y = cubic.gy[f], along = g.x * x + g.y * y;
                out.stiffness[f] += weight * (nu * (x * x + y * y) + extra * along * along);
                out.field[f] += weight * (density * cubic.n[f] + nu * (br.x * y - br.y * x) - nu * along);
            }
            for (std::size_t goal = 0; goal < m_goals.size(); ++goal) {
                const Point d = gradient(shape, z[goal]);
                const double along = extra * (g.x * d.x + g.y * d.y), source = goal_density(e, goal);
                for (std::size_t f = 0; f < 4; ++f)
                    out.adjoint[goal][f] +=
                        weight * (source * cubic.n[f] - (nu * d.x + along * g.x) * cubic.gx[f] -
                                  (nu * d.y + along * g.y) * cubic.gy[f]);
            }
        }
        return out;
    }

    double goal_density(const FieldModel::ElementData& e, std::size_t goal) const {
        const PortValues& turns = m_model.turns_density[std::size_t(e.part)];
        const int port = m_goals[goal].port;
        return port < 0 || turns.empty() ? 0 : m_model.depth * m_model.sector.count * turns[std::size_t(port)];
    }

    /// An edge goes by the unknown in its middle; its function has a sign that both triangles agree on. No
    /// function where A = 0.
    static int edge(const FieldModel::ElementData& e, std::size_t k) {
        return e.unknown[k] == e.unknown[(k + 1) % 3] ? -1 : e.unknown[3 + k];
    }
    static double sense(const FieldModel::ElementData& e, std::size_t k) {
        return e.sign[3 + k] * (e.unknown[k] < e.unknown[(k + 1) % 3] ? 1 : -1);
    }

    void add_up_edges() {
        const auto n = std::size_t(m_model.unknowns());
        m_stiffness.assign(n, 0.0);
        m_residual.assign(n, 0.0);
        m_adjoint.assign(m_goals.size(), std::vector<double>(n, 0.0));
        each_edge([&](const Shares& s, std::size_t k, std::size_t at, double sign) {
            m_stiffness[at] += s.stiffness[k];
            m_residual[at] += sign * s.field[k];
            for (std::size_t goal = 0; goal < m_goals.size(); ++goal)
                m_adjoint[goal][at] += sign * s.adjoint[goal][k];
        });
    }

    /// The gap's part in the functions on its circles.
    void add_gap() {
        const GapElement& gap = m_model.gap();
        const double alpha = m_model.turns(m_field.angle).relative();
        const auto at_gap = [&](const std::vector<double>& potential, auto products) {
            return products(gather(gap.outer_unknowns(), potential), gather(gap.inner_unknowns(), potential));
        };
        const auto products = [&](const auto& outer, const auto& inner) {
            return m_gap.products(outer, inner, alpha);
        };
        const auto slopes = at_gap(m_field.potential, [&](const auto& outer, const auto& inner) {
            return m_gap.coupling_slopes(outer, inner, alpha);
        });
        add_to_gap(at_gap(m_field.potential, products), -1, m_residual);
        for (std::size_t goal = 0; goal < m_goals.size(); ++goal) {
            add_to_gap(at_gap(m_adjoints[goal], products), -1, m_adjoint[goal]);
            if (m_goals[goal].port < 0) add_to_gap(slopes, torque_scale(m_model), m_adjoint[goal]);
        }
        m_share.assign(m_stiffness.size(), 0.5);
        add_stiffness(m_gap.edges());
    }

    /// Of edges on a circle, which nobody shares.
    void add_stiffness(const std::vector<CircleEdges::Edge>& edges) {
        for (const auto& edge : edges) {
            m_stiffness[std::size_t(edge.middle)] += edge.stiffness;
            m_share[std::size_t(edge.middle)] = 1;
        }
    }

    static void add_to_circle(const std::vector<CircleEdges::Edge>& edges, const std::vector<double>& values,
                              double scale, std::vector<double>& to) {
        for (std::size_t k = 0; k < values.size(); ++k)
            to[std::size_t(edges[k].middle)] += scale * (edges[k].from < edges[k].to ? values[k] : -values[k]);
    }
    void add_to_gap(const std::vector<double>& values, double scale, std::vector<double>& to) const {
        add_to_circle(m_gap.edges(), values, scale, to);
    }

    /// Likewise that of the air outside.
    void add_exterior() {
        if (!m_model.exterior) return;
        const Exterior& outside = *m_model.exterior;
        const CircleEdges edges(outside.circle(), outside.orders(), outside.weights());
        const auto add = [&](const std::vector<double>& potential, std::vector<double>& to) {
            std::vector<double> products;
            edges.spread(edges.sums(gather(outside.unknowns(), potential))
                             .cwiseProduct(outside.weights().cast<std::complex<double>>()),
                         products);
            add_to_circle(edges.edges(), products, -1, to);
        };
        add(m_field.potential, m_residual);
        for (std::size_t goal = 0; goal < m_goals.size(); ++goal) add(m_adjoints[goal], m_adjoint[goal]);
        add_stiffness(edges.edges());
    }

    template <typename Act>
    void each_edge(Act act) const {
        for (std::size_t index = 0; index < m_shares.size(); ++index) {
            const auto& e = m_model.elements[index];
            for (std::size_t k = 0; k < 3; ++k)
                if (const int at = edge(e, k); at >= 0) act(m_shares[index], k, std::size_t(at), sense(e, k));
        }
    }

    TileErrors shared_out(std::size_t goal) const {
        TileErrors errors;
        for (std::size_t body = 0; body < m_model.meshes.size(); ++body) {
            const std::size_t first = m_model.first_element[body],
                              count = m_model.first_element[body + 1] - first,
                              triangles = count / std::size_t(m_model.meshes[body].copies);
            std::vector<double> sum(triangles, 0.0);
            for (std::size_t i = 0; i < count; ++i) sum[i % triangles] += error(first + i, goal);
            errors.push_back(std::move(sum));
        }
        return errors;
    }

    /// The bubble's part, and half of what stands on each edge (all of it at the gap: nobody shares it).
    double error(std::size_t index, std::size_t goal) const {
        const Shares& s = m_shares[index];
        double sum = s.field[3] * s.adjoint[goal][3] / s.stiffness[3];
        for (std::size_t k = 0; k < 3; ++k)
            if (const int at = edge(m_model.elements[index], k); at >= 0)
                sum += m_share[std::size_t(at)] * m_residual[std::size_t(at)] *
                       m_adjoint[goal][std::size_t(at)] / m_stiffness[std::size_t(at)];
        return sum;
    }

    const FieldModel& m_model;
    const GapElement::Edges& m_gap;
    const FieldSolution& m_field;
    const std::vector<Goal>& m_goals;
    const std::vector<std::vector<double>>& m_adjoints;
    std::vector<Shares> m_shares;
    std::vector<double> m_stiffness, m_residual, m_share;
    std::vector<std::vector<double>> m_adjoint;
};

} // namespace

Result<std::vector<TileErrors>> GoalErrors::operator()(FieldSolver& solver, const FieldSolution& field,
                                                       const std::vector<Goal>& goals) const {
    const FieldModel& model = *m_model;
    std::vector<std::vector<double>> slopes;
    for (const Goal& goal : goals) {
        slopes.push_back(goal.port < 0 ? torque_slope(model, field) : model.port_load[std::size_t(goal.port)]);
        if (goal.port >= 0)
            for (double& slope : slopes.back()) slope *= model.depth * model.sector.count;
    }
    const auto adjoints = solver.adjoints(field, std::move(slopes));
    if (!adjoints) return adjoints.problems();
    return Estimate(model, m_edges, field, goals, *adjoints).run();
}

} // namespace mavlo
