#include "shape/budget.h"

#include "quantity/stop_point.h"

#include <utility>

namespace mavlo {
namespace {

constexpr double most_steps = 2e8, each_look = 2e5;
thread_local Budget* in_force = nullptr;

} // namespace

Budget::Budget(std::stop_token stop, std::function<void(double)> progress)
    : m_stop(std::move(stop))
    , m_progress(std::move(progress))
    , m_outer(std::exchange(in_force, this)) {}

Budget::~Budget() {
    in_force = m_outer;
}

void spend(double steps) {
    Budget* budget = in_force;
    if (!budget) return;
    budget->m_spent += steps;
    if (budget->m_spent - budget->m_told < each_look) return;
    budget->m_told = budget->m_spent;
    if (budget->m_stop.stop_requested()) throw Overspent{{"", stopped_sentence}};
    if (budget->m_progress) budget->m_progress(budget->m_spent / most_steps);
    if (budget->m_spent > most_steps)
        throw Overspent{{"",
                         "The drawing has too many lines and crossings to be one of a lamination; leave out "
                         "hatches, texts and what is not the cross-section."}};
}

} // namespace mavlo
