#pragma once
// The field outside the stack, over the positions of a question.

#include "question/question.h"

#include <mutex>

namespace mavlo {

/// Looks at fields as they are solved, from any thread.
class StrayField {
  public:
    explicit StrayField(const FieldModel& model)
        : m_model(model) {}
    Observer observer() {
        return [this](std::size_t, const FieldSolution& field) { look(field); };
    }
    /// T, of the positions seen; empty where the field ends at the outside.
    std::optional<double> largest() const;

  private:
    void look(const FieldSolution& field);

    const FieldModel& m_model;
    std::mutex m_mutex;
    double m_largest = 0;
};

/// The figure `stray_flux_density`, and a sentence where the yoke leaks so much that the neighbourhood notices.
void tell_stray_field(QuestionContext& context, std::optional<double> largest);

} // namespace mavlo
