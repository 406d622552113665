#pragma once
// The finite-element model of one section's smallest sector, prepared once and solved at any rotor angle and
// currents of its ports. It knows bodies, substances and ports, but no machine, phases or axes.

#include "field/cholesky.h"
#include "field/element_blocks.h"
#include "field/exterior.h"
#include "field/gap.h"
#include "machine/tile.h"
#include "mesh/body_mesh.h"

#include <array>
#include <functional>
#include <memory>
#include <span>
#include <vector>

namespace mavlo {

/// One value for each port: currents, flux linkages.
using PortValues = std::vector<double>;

/// Turns (with their sense) of a port's coils in a conductor: the layer `layer` of the stator's tile `pitch`.
struct PortTurns {
    int port = 0, pitch = 0, layer = 0;
    double turns = 0;
};

/// What a model is made from.
struct FieldInput {
    std::span<const Section> sections; ///< of the stack; they share the currents and the rotor's angle
    const std::vector<Substance>& substances;
    const Sector& sector;
    int ports = 0;
    std::vector<PortTurns> turns{};
    bool side_by_side = false; ///< coil sides of a slot are parted by the slot's axis
};

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
        int first = 0, count = 0;     ///< its points of quadrature
        int part = 0;                 ///< in `parts`
        int law = 0;                  ///< in `laws`
        std::array<int, 6> unknown{}; ///< -1 where A = 0
        std::array<double, 6> sign{};
        std::array<int, 21>
            entry{}; ///< places of the lower triangle (a >= b) in the matrix values; -1 for none
        std::array<double, 21> entry_sign{};
    };

    Quality quality = Quality::Normal;
    Sector sector;
    double depth = 0; ///< length of the stack, m
    int rotor = 0;    ///< of a section's bodies the one that turns
    /// Each section of the stack: its chart, and its share of the length, which its points' weights are
    /// multiplied by, so that all sums go over the whole stack.
    struct SectionPlace {
        Chart chart;
        double share;
        bool coils;  ///< coil sides reach it
        bool second; ///< of the other gap
    };
    std::vector<SectionPlace> sections;
    std::vector<BodyMesh> meshes; ///< of the bodies, section by section, inside out; unknowns counted through
    std::vector<std::unique_ptr<GapElement>> gaps; ///< of the sections
    std::unique_ptr<Exterior> exterior;            ///< beyond the outer body; null: A = 0 on its outside
    std::vector<Point6> points;
    std::vector<ElementData> elements;      ///< body by body
    std::vector<std::size_t> first_element; ///< of each body, and the end
    std::vector<Part> parts;                ///< of all bodies
    std::vector<PortValues> turns_density;  ///< of each part, of each port (1/m2); empty where none
    std::vector<Substance> substances;
    std::vector<BhCurve> laws;  ///< 0: air; then the substances', stacked
    std::vector<int> nonlinear; ///< indices of elements with a curve
    ElementBlocks blocks;       ///< the same elements, for vector units
    std::shared_ptr<SparsePattern> pattern;
    std::vector<double> linear_values; ///< stiffness of all linear parts and of the gap without its coupling
    SparsePattern linear_pattern;      ///< where elements of linear parts stand, without the gap
    std::vector<double> linear_part;   ///< their stiffness
    /// Of each gap, the place of each (outer, inner) pair of its unknowns, column by column of the coupling.
    std::vector<std::vector<int>> coupling_entry;
    std::vector<double> magnet_load;
    std::vector<std::vector<double>>
        port_load; ///< int of turns density: load for 1 A, and weights of the flux linkage
    std::unique_ptr<Cholesky> analysed;

    static constexpr int bodies = 2; ///< of a section
    const GapElement& gap(std::size_t section = 0) const { return *gaps[section]; }
    std::size_t section_of(const Part& part) const { return std::size_t(part.body / bodies); }
    const Chart& chart(const Part& part) const { return sections[section_of(part)].chart; }
    double share(const Part& part) const { return sections[section_of(part)].share; }
    std::size_t rotor_body(std::size_t section = 0) const { return bodies * section + std::size_t(rotor); }
    std::size_t stator_body(std::size_t section = 0) const { return bodies * section + std::size_t(1 - rotor); }
    int magnets() const; ///< bodies of magnet in one sector of all sections
    int unknowns() const { return pattern->size; }
    int ports() const { return int(port_load.size()); }
    const Part& part(const ElementData& e) const { return parts[std::size_t(e.part)]; }
    const Substance* substance(const Part& part) const {
        return part.substance < 0 ? nullptr : &substances[std::size_t(part.substance)];
    }
    int body_of(const ElementData& e) const { return part(e).body; }
    const BodyMesh& rotor_mesh() const { return meshes[rotor_body()]; }
    bool is_rotor(int body) const { return body % bodies == rotor; }
    /// Area of an element, m2, times its section's share.
    double area(const ElementData& e) const;
    /// How far the bodies have turned when the rotor stands at this angle.
    GapElement::Turns turns(double angle) const {
        return rotor == 0 ? GapElement::Turns{0, angle} : GapElement::Turns{angle, 0};
    }
    double smallest_angle() const; ///< of all triangles, rad
    double outside_radius = 0;     ///< of the outer body, m
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
    /// Meshes of the bodies' tiles, taken instead of new ones; empty: none.
    std::shared_ptr<const std::vector<TileMesh>> tile_meshes{};
    /// Of the body that stands, or of the one that turns in its own frame (machine/displacement.h): only of
    /// whole machines in which it has a layer of air (machine/off_centre.h). Empty: none.
    std::function<Point(Point)> displacement{};
    bool displaces_rotor = false;
};

/// Meshes and prepares `model`. Problems only when the section cannot be meshed.
Problems prepare(FieldModel& model, const FieldInput& input, const ModelOptions& options = {});

} // namespace mavlo
