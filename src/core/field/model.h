#pragma once
// The finite-element model of one sector, prepared once and solved at any rotor angle and current.

#include "field/cholesky.h"
#include "field/element_blocks.h"
#include "field/gap.h"
#include "machine/machine.h"
#include "mesh/sector_mesh.h"

#include <array>
#include <memory>
#include <vector>

namespace mavlo {

using PhaseValues = std::array<double, 3>;

/// Second-order isoparametric elements for A_z; weak form
///   int nu(|grad A|) grad A . grad v = int J v + int nu_m (B_rx dv/dy - B_ry dv/dx)
/// with the gap as GapElement (S.J. Salon, Finite Element Analysis of Electrical Machines, 1995, ch. 2;
/// quadrature: G. Strang, G. Fix, An Analysis of the Finite Element Method, 1973, of degree 2 on straight and 4
/// on curved elements). All quantities are per metre of length and per sector; figures are scaled to the
/// machine. Immutable once made; shared by all threads.
struct FieldModel {
    /// A point of quadrature: gradients of the six shape functions and the weight (area).
    struct Point6 {
        std::array<double, 6> gx, gy, n;
        double weight;
        Point at;
    };
    struct ElementData {
        int first = 0, count = 0; ///< its points of quadrature
        int part = 0;
        std::array<int, 6> unknown{}; ///< -1 where A = 0
        std::array<double, 6> sign{};
        std::array<int, 21>
            entry{}; ///< places of the lower triangle (a >= b) in the matrix values; -1 for none
        std::array<double, 21> entry_sign{};
    };

    Machine machine;
    Quality quality = Quality::Normal;
    SectorMesh stator, rotor; ///< the rotor's unknowns follow the stator's
    std::unique_ptr<GapElement> gap;
    std::vector<Point6> points;
    std::vector<ElementData> elements; ///< stator's first, then rotor's
    std::size_t stator_elements = 0;
    std::vector<int> nonlinear; ///< indices of elements in steel with a curve
    ElementBlocks blocks;       ///< the same elements, for vector units
    std::array<BhCurve, 2> steel{BhCurve::linear(1), BhCurve::linear(1)}; ///< stator, rotor, stacked
    std::shared_ptr<SparsePattern> pattern;
    std::vector<double> linear_values; ///< stiffness of all linear parts and of the gap without its coupling
    SparsePattern linear_pattern;      ///< where elements of linear parts stand, without the gap
    std::vector<double> linear_part;   ///< their stiffness
    std::vector<int> coupling_entry;   ///< place of each (stator, rotor) pair of gap unknowns, column by column
                                       ///< of the coupling
    std::vector<double> magnet_load;
    std::array<std::vector<double>, 3>
        phase_load; ///< int of turns density: load for 1 A, and weights of the flux linkage
    std::unique_ptr<Cholesky> analysed;

    int unknowns() const { return pattern->size; }
    const Part& part(const ElementData& e, std::size_t index) const {
        return index < stator_elements ? stator.parts[std::size_t(e.part)] : rotor.parts[std::size_t(e.part)];
    }
    /// Reluctivity curve of an element's material.
    const BhCurve& curve(Role role) const;
    BhCurve air = BhCurve::linear(1), recoil = BhCurve::linear(1);
};

/// Potentials of an element's six nodes, from those of all unknowns.
std::array<double, 6> local_values(const FieldModel::ElementData& element,
                                   const std::vector<double>& potential);
/// Potentials of some unknowns in their order.
Eigen::VectorXd gather(const std::vector<int>& unknowns, const std::vector<double>& potential);

struct ModelOptions {
    Quality quality = Quality::Normal;
    double extra_factor = 1;     ///< multiplies every element size once more
    bool library_solver = false; ///< factorise with CHOLMOD instead of Mavlo's own code, as a check
    /// Remanence of each element as a share of the grade's, for magnets that lost some; empty: all of it.
    std::shared_ptr<const std::vector<double>> remanence_share{};
};

/// Meshes and prepares. Fails only when the section cannot be meshed.
Result<std::shared_ptr<const FieldModel>> prepare_field(const Machine& machine, ModelOptions options = {});

} // namespace mavlo
