#pragma once
// Iron loss from fields at any instants of a stretch of time.

#include "figure/unfolding.h"
#include "material/material.h"

#include <Eigen/Dense>
#include <vector>

namespace mavlo {

/// Collects what every element of steel sees, step by step, in its own frame; the steps may be of any length,
/// as switchings ask. Single precision: a period of ten thousand steps is kept at some 100 MB.
class IronInTime {
  public:
    explicit IronInTime(const MachineModel& model);

    /// The field `dt` seconds after the last; the first one only begins.
    void add(double dt, const FieldSolution& field);

    /// W of the whole machine, means over the stretch, which is taken to repeat: as it is, or where it is a
    /// part of a period with the pattern moved on from part to part. The laws are those of field_losses with
    /// the flux density straight between two instants: classical and excess as <|dB/dt|^2> and <|dB/dt|^1.5>,
    /// so that a carrier's ripple counts as far as the steps show it; hysteresis by closed loops along the two
    /// principal axes.
    struct Losses {
        double stator = 0, rotor = 0;
    };
    Losses losses(const std::optional<PeriodPart>& part) const;

  private:
    /// Flux density of an element over its own period; one more sample than `steps`.
    struct Locus {
        Eigen::VectorXd x, y;
        Eigen::ArrayXd steps;
    };
    void append(Locus& to, std::size_t element, const Unfolding::Source& source, int stretch) const;
    double side_loss(const Unfolding& side) const;
    static double density(const IronLossLaw& law, const Locus& locus);

    const MachineModel* m_model;
    std::vector<int> m_place;            ///< of each element of the model among them; -1: none
    std::vector<std::size_t> m_elements; ///< of steel with a known loss
    std::vector<double> m_steps;         ///< s, one less than the samples
    std::vector<float> m_bx, m_by;       ///< T, sample by sample
    bool m_begun = false;
};

} // namespace mavlo
