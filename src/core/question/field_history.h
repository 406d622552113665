#pragma once
// The fields of a sweep so far, to guess the next from.

#include "field/solver.h"

#include <deque>

namespace mavlo {

class FieldHistory {
  public:
    void add(FieldSolution solution);

    /// Extrapolates the potentials by polynomials through fields that were solved: at one angle over the line
    /// or the plane of currents, of up to the third degree; over equal steps of the angle a parabola. Past a
    /// jump the last field itself is the best guess. Null: there is none yet.
    const FieldSolution* guess(const Position& next);

  private:
    struct Share {
        const FieldSolution* field;
        double weight;
    };
    std::vector<Share> over_currents(const Position& next) const;
    std::vector<Share> turning(const Position& next) const;
    bool equal_step(std::size_t i, const Position& next) const;

    std::deque<FieldSolution> m_fields; ///< last first
    FieldSolution m_guess;
};

} // namespace mavlo
