// Steady temperature and heat flow with the losses of the current in hand at the rated speed.

#include "question/heat_of_current.h"
#include "section/arrow_head.h"
#include "section/overlay.h"
#include "shell/theme.h"

#include <cmath>
#include <mutex>
#include <optional>
#include <set>

namespace mavlo::app {
namespace {

/// The heat of the model in hand: a whole period of fields where the hand rests, an estimate while it moves.
class HeatInHand {
  public:
    /// Of all nodes, K; empty where they are not known.
    std::optional<Eigen::VectorXd> temperatures(const FieldInHand& field) {
        if (m_model != field.model) take(field);
        if (!m_heat) return std::nullopt;
        if (m_exact && m_current == field.current) return m_exact;
        if (field.hand_moves)
            if (auto quick = m_heat->estimate(field.current)) return quick;
        m_current = field.current;
        m_exact.reset();
        const auto found = m_heat->at(field.current, 1, {});
        if (found && found->coupled.runs_away_from == 0) m_exact = found->coupled.heat.all;
        return m_exact;
    }
    const MachineHeatModel& model() { return m_heat->model(); }
    std::mutex& lock() { return m_lock; }

  private:
    void take(const FieldInHand& field) {
        const auto& model = m_model = field.model;
        m_exact.reset();
        m_heat.reset();
        auto heat = HeatOfCurrent::of(model, field.materials, model->machine.rating.speed);
        if (heat) m_heat = std::move(*heat);
    }

    std::mutex m_lock;
    std::shared_ptr<const MachineModel> m_model;
    std::optional<HeatOfCurrent> m_heat;
    CurrentWave m_current;
    std::optional<Eigen::VectorXd> m_exact;
};

HeatInHand& in_hand() {
    static HeatInHand heat;
    return heat;
}

bool has_heat(const FieldInHand& field) {
    const Facts facts = field.model->machine.facts();
    return facts.wound && !facts.induced;
}

void colour_by_temperature(FieldPicture& picture, const FieldInHand& field) {
    if (!has_heat(field)) return;
    const std::lock_guard lock(in_hand().lock());
    std::vector<Point> nodes;
    if (const auto found = in_hand().temperatures(field))
        for (double celsius : in_hand().model().at_nodes(*found)) nodes.push_back({celsius, 0});
    show_of_nodes(picture, nodes,
                  {"temperature for good at the rated speed, °C", "temperature", "°C", 1, true});
}

void colour_by_flow(FieldPicture& picture, const FieldInHand& field) {
    if (!has_heat(field)) return;
    const std::lock_guard lock(in_hand().lock());
    std::vector<Point> nodes;
    if (const auto found = in_hand().temperatures(field)) nodes = in_hand().model().flux_at_nodes(*found);
    for (std::size_t k = 0; k < nodes.size(); ++k) {
        const Part& part = field.model->part(field.model->elements[k / 6]);
        if (field.model->is_rotor(part.body)) nodes[k] = rotated(nodes[k], field.solution.angle);
    }
    show_of_nodes(picture, nodes, {"heat flow in the section, kW/m²", "heat flow", "kW/m²", 1e-3});
}

/// One arrow in each square of the screen, of the element that comes first there.
void paint_arrows(QPainter& painter, const ViewFrame& frame, const FieldPicture& picture) {
    if (picture.shown.symbol != "heat flow") return;
    constexpr double square = 26, longest = 22, least = 0.02; // pixels, pixels, of the highest
    std::set<std::pair<int, int>> taken;
    const QColor ink(255, 255, 255, 220);
    painter.setPen(QPen(ink, 1.3));
    painter.setBrush(ink);
    for (int copy = 0; copy < picture.sector.count; ++copy) {
        const double turn = copy * picture.sector.angle();
        for (std::size_t e = 0; e < picture.elements; ++e) {
            const auto& v = picture.vertices[6 * e + 4]; // the middle of an edge
            const double share = v.size() / picture.shown.high;
            if (share < least) continue;
            const QPointF at = frame.to_screen(rotated(v.at, turn));
            if (!painter.viewport().contains(at.toPoint()) ||
                !taken.emplace(int(std::floor(at.x() / square)), int(std::floor(at.y() / square))).second)
                continue;
            const double half = 0.5 * longest * std::sqrt(std::min(1.0, share));
            const Point flow = rotated({double(v.x), double(v.y)}, turn + frame.turn());
            const QPointF along = half / v.size() * QPointF(flow.x, -flow.y);
            painter.drawLine(at - along, at + along);
            paint_arrow_head(painter, at + along, at - along, {6, 3});
        }
    }
}

const Register<Overlay> temperature{{
    .name = "temperature",
    .order = 35,
    .needs_field = true,
    .coloured = true,
    .alone = true,
    .colour = colour_by_temperature,
}};

const Register<Overlay> flow{{
    .name = "heat flow",
    .order = 36,
    .needs_field = true,
    .coloured = true,
    .alone = true,
    .colour = colour_by_flow,
    .paint_on_colours = paint_arrows,
}};

} // namespace
} // namespace mavlo::app
