#pragma once
// Iron loss from fields at any instants of a stretch of time.

#include "figure/unfolding.h"
#include "material/material.h"

#include <Eigen/Dense>
#include <vector>

namespace mavlo {

/// Collects the potentials of the steel, step by step, each body's in its own frame; the steps may be of any
/// length, as switchings ask. Single precision: a period of ten thousand steps is kept at some 100 MB.
class IronInTime {
  public:
    explicit IronInTime(const MachineModel& model);

    /// The field `dt` seconds after the last; the first one only begins.
    void add(double dt, const FieldSolution& field);

    /// W of the whole machine, means over the stretch, which is taken to repeat: as it is, or where it is a
    /// part of a period with the pattern moved on from part to part. The laws are those of field_losses with
    /// the flux density straight between two instants: classical and excess as <|dB/dt|^2> and <|dB/dt|^1.5>,
    /// so that a carrier's ripple counts as far as the steps show it, with the sheet's skin effect; hysteresis
    /// by closed loops along the two principal axes.
    struct Losses {
        double stator = 0, rotor = 0;
    };
    Losses losses(const std::optional<PeriodPart>& part) const;

  private:
    /// Flux density (T) at an element's points of quadrature over its own period, one column each.
    struct PointLoci {
        Eigen::ArrayXXd x, y;
    };
    void put(PointLoci& to, std::size_t element, const Unfolding::Source& source, int stretch) const;
    double side_loss(const Unfolding& side) const;
    /// From a locus with one more sample than `steps` (s).
    static double density(const IronLossLaw& law, double left, const Eigen::ArrayXd& steps,
                          const Eigen::ArrayXd& x, const Eigen::ArrayXd& y);
    static double share_left(const IronLossLaw& law, const Eigen::ArrayXd& steps, const PointLoci& loci);

    const MachineModel* m_model;
    std::vector<IronLossLaw> m_laws;  ///< of the substances
    std::vector<char> m_loses;        ///< of each element: whether it is steel with a known loss
    std::vector<int> m_place;         ///< of each unknown among those of such elements; -1: of none
    std::vector<std::size_t> m_kept;  ///< those unknowns
    std::vector<double> m_steps;      ///< s, one less than the samples
    std::vector<float> m_potential{}; ///< Wb/m, sample by sample
    bool m_begun = false;
};

} // namespace mavlo
