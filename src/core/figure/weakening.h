#pragma once
// What magnets keep after a field that drove them beyond their knee.

#include "figure/magnet_field.h"

#include <memory>
#include <vector>

namespace mavlo {

/// Finds the remanence that each element keeps on its grade's curve (MagnetLine): the line of the share that is
/// left goes through the working point. What one element loses relieves or loads the others, so the field is
/// solved anew with the shares found so far until all agree; each element's next share follows the slope that
/// its last two showed (secants).
class Weakening {
  public:
    /// Lines of the model's substances; elements of the model.
    Weakening(std::vector<MagnetLine> lines, std::size_t elements);

    using Share = std::shared_ptr<const std::vector<double>>;
    /// Of the remanence, for every element of the model; empty before the first update: all of it.
    const Share& share() const { return m_share; }
    /// Takes the least flux densities that the present shares gave. True when all stand on their curves.
    bool update(const std::vector<MagnetElement>& elements);
    /// How far the worst element was from its curve at the last update, as a share of the remanence.
    double residual() const { return m_residual; }

  private:
    std::vector<MagnetLine> m_lines;
    std::size_t m_elements;
    Share m_share;
    std::vector<double> m_before, m_beyond_before;
    double m_residual = 0;
};

} // namespace mavlo
