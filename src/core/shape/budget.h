#pragma once
// What a look through a drawing may cost, so that a damaged or malicious one ends with a sentence.

#include "quantity/problem.h"

#include <functional>
#include <stop_token>

namespace mavlo {

/// Thrown by `spend`.
struct Overspent {
    Problem problem;
};

/// While it lives, what this thread spends on drawings is counted; it ends with Overspent when that is more
/// than a lamination's drawing needs, or when it is stopped. One inside another counts for itself alone.
class Budget {
  public:
    /// `progress` is told the share of what is allowed, now and then.
    explicit Budget(std::stop_token stop = {}, std::function<void(double)> progress = {});
    ~Budget();
    Budget(const Budget&) = delete;
    Budget& operator=(const Budget&) = delete;

  private:
    friend void spend(double steps);
    std::stop_token m_stop;
    std::function<void(double)> m_progress;
    double m_spent = 0, m_told = 0;
    Budget* m_outer;
};

/// Counts steps of some ten nanoseconds each; nothing where there is no budget.
void spend(double steps);

} // namespace mavlo
