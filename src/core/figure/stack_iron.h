#pragma once
// Iron loss in time of a stack of slices.

#include "figure/iron_in_time.h"
#include "machine/skew.h"

namespace mavlo {

/// IronInTime of each slice; the stack loses their mean.
class StackIron {
  public:
    StackIron(const MachineModel& model, std::vector<Slice> slices)
        : m_slices(std::move(slices))
        , m_iron(m_slices.size(), IronInTime(model)) {}

    std::size_t slices() const { return m_slices.size(); }
    void add(std::size_t slice, double dt, const FieldSolution& field) { m_iron[slice].add(dt, field); }
    IronInTime::Losses losses(const std::optional<PeriodPart>& part) const {
        IronInTime::Losses sum;
        for (std::size_t k = 0; k < m_iron.size(); ++k) {
            const IronInTime::Losses one = m_iron[k].losses(part);
            sum.stator += m_slices[k].share * one.stator;
            sum.rotor += m_slices[k].share * one.rotor;
        }
        return sum;
    }

  private:
    std::vector<Slice> m_slices;
    std::vector<IronInTime> m_iron;
};

} // namespace mavlo
