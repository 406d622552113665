#pragma once
// Values of the elements that a whole period makes: found once, as turning the rotor does not change them.

#include "compute/live_field.h"

#include <functional>
#include <memory>
#include <mutex>
#include <vector>

namespace mavlo::app {

class ElementMemory {
  public:
    using Find = std::function<std::vector<double>(const FieldInHand&)>;
    /// Of this model and current: those kept, or what `find` says.
    std::vector<double> values(const FieldInHand& field, const Find& find) {
        const std::lock_guard lock(m_mutex);
        if (m_model != field.model || !(m_current == field.current)) {
            m_model = field.model;
            m_current = field.current;
            m_values = find(field);
        }
        return m_values;
    }

  private:
    std::mutex m_mutex;
    std::shared_ptr<const MachineModel> m_model;
    CurrentWave m_current;
    std::vector<double> m_values;
};

} // namespace mavlo::app
