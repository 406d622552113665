#pragma once
// What magnets keep after a field that drove them beyond their knee.

#include "figure/magnet_field.h"

#include <memory>
#include <vector>

namespace mavlo {

/// Finds the remanence that each element keeps, on a demagnetisation curve that falls straight down at the
/// knee: H stays at the knee's, and the new recoil line of the same slope goes through the working point (B.D.
/// Cullity, C.D. Graham, Introduction to Magnetic Materials, 2nd ed., sec. 13.3). What one element loses
/// relieves or loads the others, so the field is solved anew with the shares found so far until all agree; each
/// element's next share follows the slope that its last two showed (secants).
class Weakening {
  public:
    /// Remanence of the whole grade and its knee (T), permeability of the recoil line (V.s/(A.m)), elements of
    /// the model.
    Weakening(double remanence, double knee, double permeability, std::size_t elements);

    using Share = std::shared_ptr<const std::vector<double>>;
    /// Of the remanence, for every element of the model; empty before the first update: all of it.
    const Share& share() const { return m_share; }
    /// Takes the least flux densities that the present shares gave. True when all stand on their curves.
    bool update(const std::vector<MagnetElement>& elements);
    /// How far the worst element was from its curve at the last update, as a share of the remanence.
    double residual() const { return m_residual; }

  private:
    double m_remanence, m_mu, m_h_knee;
    std::size_t m_elements;
    Share m_share;
    std::vector<double> m_before, m_beyond_before;
    double m_residual = 0;
};

} // namespace mavlo
