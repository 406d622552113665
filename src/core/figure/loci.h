#pragma once
// What every element sees over an electrical period: the locus of its flux density, and its potential.

#include "field/solver.h"

#include <Eigen/Dense>
#include <optional>
#include <vector>

namespace mavlo {

/// Means over each element of one field; the rotor's in the rotor's own frame.
struct ElementField {
    std::vector<double> bx, by; ///< T
    std::vector<double> a;      ///< Wb/m
};
ElementField element_field(const FieldModel& model, const FieldSolution& solution);

/// How the field of a balanced machine goes on after a sixth of the electrical period: it is the field of
/// before, turned by so many slots and with this sign; the rotor has then gone on by as many poles more than
/// a sixth of the period. (The currents change places with reversed sign, the winding and the poles follow.)
struct SixthShift {
    int slots = 0, poles = 0, sign = 1;
};
/// Empty where slots, poles and winding have no such turn: then the whole period must be solved.
std::optional<SixthShift> sixth_shift(const Machine& machine);

/// Series of the elements of one side until they repeat: one row a position, one column an element.
struct SideLoci {
    std::size_t first = 0; ///< place of its first element in the model
    double period = 1;     ///< in electrical periods
    Eigen::MatrixXd bx, by, a;
    int samples() const { return int(bx.rows()); }
};

/// The stator's elements see one electrical period. The rotor's see it go on over other slots where the slots
/// per pole are no whole number: after a period a pole has the field that the next of its kind had, so their
/// series goes on until it is back at its own pole; where the slots are whole it may repeat within the sixth.
struct Loci {
    SideLoci stator, rotor;
};

/// From the fields of a whole electrical period, or of its first sixth and how they go on.
Loci make_loci(const FieldModel& model, const std::vector<ElementField>& fields,
               const std::optional<SixthShift>& sixth);

/// The matrix that takes `samples` values of one period (its length 2 pi) to their derivative: that of the
/// band-limited series through them (L.N. Trefethen, Spectral Methods in MATLAB, 2000, ch. 3).
Eigen::MatrixXd differentiation(int samples);

} // namespace mavlo
