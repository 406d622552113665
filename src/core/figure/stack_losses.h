#pragma once
// What the steel and the strands of a stack of slices lose in time.

#include "figure/iron_in_time.h"
#include "figure/strands_in_time.h"
#include "machine/skew.h"

namespace mavlo {

/// IronInTime and StrandsInTime of each slice; the stack loses their mean.
class StackLosses {
  public:
    /// `omega`: of the currents' fundamental, rad/s.
    StackLosses(const MachineModel& model, std::vector<Slice> slices, double omega)
        : m_slices(std::move(slices))
        , m_iron(m_slices.size(), IronInTime(model))
        , m_strands(m_slices.size(), StrandsInTime(model, omega)) {}

    std::size_t slices() const { return m_slices.size(); }
    void add(std::size_t slice, double dt, const FieldSolution& field) {
        m_iron[slice].add(dt, field);
        m_strands[slice].add(dt, field);
    }
    IronInTime::Losses iron(const std::optional<PeriodPart>& part) const {
        IronInTime::Losses sum;
        for (std::size_t k = 0; k < m_iron.size(); ++k) {
            const IronInTime::Losses one = m_iron[k].losses(part);
            sum.stator += m_slices[k].share * one.stator;
            sum.rotor += m_slices[k].share * one.rotor;
        }
        return sum;
    }
    /// FieldLosses::strands.
    std::optional<double> strands(const std::optional<PeriodPart>& part) const {
        double sum = 0;
        for (std::size_t k = 0; k < m_strands.size(); ++k) {
            const auto one = m_strands[k].at_1hz(part);
            if (!one) return std::nullopt;
            sum += m_slices[k].share * *one;
        }
        return sum;
    }

  private:
    std::vector<Slice> m_slices;
    std::vector<IronInTime> m_iron;
    std::vector<StrandsInTime> m_strands;
};

} // namespace mavlo
