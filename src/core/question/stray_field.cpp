#include "question/stray_field.h"

#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double worth_telling = 1e-3; ///< T: some twenty times the earth's field

} // namespace

void StrayField::look(const FieldSolution& field) {
    if (!m_model.exterior) return;
    const double here = m_model.exterior->largest_flux_density(
        gather(m_model.exterior->unknowns(), field.potential), m_model.outside_radius);
    const std::lock_guard lock(m_mutex);
    m_largest = std::max(m_largest, here);
}

std::optional<double> StrayField::largest() const {
    return m_model.exterior ? std::optional(m_largest) : std::nullopt;
}

void tell_stray_field(QuestionContext& c, std::optional<double> largest) {
    c.answer.figures.push_back({"stray_flux_density", largest, "T"});
    if (largest.value_or(0) > worth_telling)
        c.answer.sentence +=
            fmt::format(" The yoke leaks: up to {:.3g} mT stand at the outside of the stack.", *largest * 1e3);
}

} // namespace mavlo
