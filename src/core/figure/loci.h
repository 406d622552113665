#pragma once
// What every element sees over an electrical period: the locus of its flux density, and its potential.

#include "figure/machine_model.h"

#include <Eigen/Dense>
#include <optional>
#include <vector>

namespace mavlo {

/// Means over an element, in its own body's frame: T, Wb/m.
struct ElementMean {
    double bx, by, a;
};
ElementMean element_mean(const FieldModel& model, const FieldModel::ElementData& element,
                         const std::vector<double>& potential);

/// Means over each element of one field; the rotor's in the rotor's own frame.
struct ElementField {
    std::vector<double> bx, by; ///< T
    std::vector<double> a;      ///< Wb/m
};
ElementField element_field(const FieldModel& model, const FieldSolution& solution);

/// Series of the elements of one side until they repeat: one row a position, one column an element.
struct SideLoci {
    std::size_t first = 0; ///< place of its first element in the model
    double period = 1;     ///< in electrical periods
    Eigen::MatrixXd bx, by, a;
    int samples() const { return int(bx.rows()); }
};

/// The stator's elements see one electrical period. The rotor's see it go on over other slots where the slots
/// per pole are no whole number: after a period a pole has the field that the next of its kind had, so their
/// series goes on until it is back at its own pole; where the slots are whole it may repeat within the part
/// that is solved.
struct Loci {
    SideLoci stator, rotor;
};

/// From the fields of a whole electrical period, or of its first part and how they go on.
Loci make_loci(const MachineModel& model, const std::vector<ElementField>& fields,
               const std::optional<PeriodPart>& part);

/// The matrix that takes `samples` values of one period (its length 2 pi) to their derivative: that of the
/// band-limited series through them (L.N. Trefethen, Spectral Methods in MATLAB, 2000, ch. 3).
Eigen::MatrixXd differentiation(int samples);

} // namespace mavlo
