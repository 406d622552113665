// Iron loss of each element at the rated speed, from a coarse sweep of the period.

#include "figure/loss.h"
#include "question/period.h"
#include "section/overlay.h"

#include <mutex>

namespace mavlo::app {
namespace {

/// The last losses and what they belong to: turning the rotor does not change them.
class LossMemory {
  public:
    /// W/m3 of each element; empty where the sweep fails.
    std::vector<double> density(const FieldInHand& field) {
        const std::lock_guard lock(m_mutex);
        if (m_model != field.model || !(m_current == field.current)) {
            m_model = field.model;
            m_current = field.current;
            m_density = swept(field);
        }
        return m_density;
    }

  private:
    static std::vector<double> swept(const FieldInHand& field) {
        constexpr int points = 48;
        const auto period = sweep_period_with_loci(field.model, points, field.current, 1, {});
        if (!period) return {};
        const Machine& machine = field.model->machine;
        const double f = electrical_frequency(machine, machine.rating.speed);
        std::vector<double> list;
        for (const IronLoss& loss : field_losses(*field.model, period->loci).density)
            list.push_back(loss.at(f));
        return list;
    }

    std::mutex m_mutex;
    std::shared_ptr<const MachineModel> m_model;
    CurrentWave m_current;
    std::vector<double> m_density;
};

void colour(FieldPicture& picture, const FieldInHand& field) {
    static LossMemory memory;
    if (field.model->machine.wound())
        show_of_elements(picture, memory.density(field),
                         {"loss density at the rated speed, kW/m³", "loss", "kW/m³", 1e-3});
}

const Register<Overlay> loss_density{{
    .name = "loss density",
    .order = 30,
    .needs_field = true,
    .coloured = true,
    .colour = colour,
}};

} // namespace
} // namespace mavlo::app
