#pragma once
// What a mesh was, as an answer's effort tells it.

#include "field/model.h"
#include "question/answer.h"

#include <numbers>

namespace mavlo {

inline void count_mesh(Effort& effort, const FieldModel& model) {
    effort.unknowns = model.unknowns();
    effort.elements = int(model.elements.size());
    effort.smallest_angle = model.smallest_angle() * 180 / std::numbers::pi;
}

} // namespace mavlo
