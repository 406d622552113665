#pragma once
// What every element sees over an electrical period: the locus of its flux density, and what magnets see of the
// potential.

#include "figure/machine_model.h"

#include <Eigen/Dense>
#include <optional>
#include <vector>

namespace mavlo {

/// Series of one side until they repeat, one row a position; the rotor's in the rotor's own frame. Columns go
/// element by element.
struct SideLoci {
    std::vector<std::size_t> elements; ///< of the model, pitch by pitch
    double period = 1;                 ///< in electrical periods
    /// Of each pitch, the first one whose steel sees the same, later or turned: that one's steel stands for it.
    std::vector<int> twin;
    Eigen::MatrixXd mean_bx, mean_by;   ///< means over its magnets' and conductors' elements, T
    Eigen::MatrixXd steel_bx, steel_by; ///< at the points of quadrature of the steel of first twins, T
    Eigen::MatrixXd solid_a;            ///< at those of its magnets and solid parts, Wb/m

    int samples() const { return int(mean_bx.rows()); }
    std::size_t each() const { return elements.size() / twin.size(); } ///< of a pitch
};

/// Of so many positions, all zero.
SideLoci empty_loci(const FieldModel& model, std::vector<std::size_t> elements, std::vector<int> twin,
                    double period, Eigen::Index samples);

/// Mean flux density over an element with these potentials at its nodes.
Point element_mean(const FieldModel& model, const FieldModel::ElementData& element,
                   const std::array<double, 6>& values);

/// Whether means, or points, of an element are kept.
bool has_mean(const Part& part);
bool has_solid_points(const Part& part);

/// The stator's elements see one electrical period. The rotor's see it go on over other slots where the slots
/// per pole are no whole number: after a period a pole has the field that the next of its kind had, so their
/// series goes on until it is back at its own pole; where the slots are whole it may repeat within the part
/// that is solved.
struct Loci {
    SideLoci stator, rotor;
};

/// From the potentials of the fields of a whole electrical period, or of its first part and how they go on.
Loci make_loci(const MachineModel& model, const std::vector<std::vector<double>>& potentials,
               const std::optional<PeriodPart>& part);

/// The matrix that takes `samples` values of one period (its length 2 pi) to their derivative: that of the
/// band-limited series through them (L.N. Trefethen, Spectral Methods in MATLAB, 2000, ch. 3).
Eigen::MatrixXd differentiation(int samples);

} // namespace mavlo
