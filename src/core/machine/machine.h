#pragma once
// The machine: everything a field needs, as plain values, built from a design.

#include "machine/design.h"
#include "machine/end_ring.h"
#include "machine/machine_winding.h"
#include "machine/skew.h"
#include "machine/symmetry.h"
#include "machine/tile.h"

#include <span>
#include <vector>

namespace mavlo {

struct Rating {
    double speed = 0;                 ///< rad/s
    double current = 0;               ///< A, phase, peak
    double advance = 0;               ///< rad electrical, from +q towards -d
    double turn_on = 0, turn_off = 0; ///< of switched phases: rad mechanical, from their aligned position
    double max_current = 0, dc_voltage = 0, max_speed = 0;
    std::optional<double> torque{}; ///< N.m; empty: what the rated current gives
};

/// What can be said of a machine without asking for its kind.
struct Facts {
    bool wound = false, magnets = false, mirrored = false;
    bool dq_frame = false; ///< currents can turn with the rotor's field
    bool shell = false;    ///< a rotor of a conducting shell
    bool cage = false;     ///< a rotor of bars that rings join
    bool induced = false;  ///< either of them: the rotor's own currents give the torque
    bool axial = false;    ///< the gap's field runs along the axis
    bool linear = false;   ///< it moves along a line
    bool switched = false; ///< phases take their currents by position, one after the other
    int phases = 0;
};

struct Machine {
    Values values;
    int slots = 0, poles = 0;
    double stack_length = 0, gap = 0;
    Section section; ///< as it is drawn; of axial machines at the middle radius
    /// Where the field is solved, if that is not `section` alone: at several radii. One machine's sections are
    /// alike but for what follows the radius.
    std::vector<Section> slices{};
    SkewedStack skew;
    std::vector<Substance> substances;
    std::optional<EndRing> rings{}; ///< of a cage
    MachineWinding winding;
    Symmetry symmetry;
    Rating rating;
    double friction_torque = 0;
    double pole_depth = 0; ///< of the air between poles that stand out; 0: the rotor is round
    std::vector<DimensionMark> marks;

    Facts facts() const;
    bool wound() const { return winding.phases > 0; }
    bool outer_rotor() const { return section.rotor_index() == 1; }
    /// Electrical periods in a turn: of phases that are switched by position one for each rotor pole.
    int pole_pairs() const { return symmetry.periods; }
    const Sector& sector() const { return symmetry.sector; }
    std::span<const Section> solved() const {
        return slices.empty() ? std::span(&section, 1) : std::span(slices);
    }
    /// Radii of the mechanical gap, and of its middle.
    double rotor_radius() const { return section.rotor().tile.face_radius; }
    double stator_radius() const { return section.stator().tile.face_radius; }
    double middle_of_gap() const { return (rotor_radius() + stator_radius()) / 2; }
    const Substance*
    substance(std::string_view path) const; ///< by its material's parameter; null: there is none
    const Substance* magnet() const;        ///< of the first layer; null: there is none
};

/// Hz at a shaft speed (rad/s), never negative.
double electrical_frequency(const Machine& machine, double speed);

struct MachineOptions {
    bool whole = false;      ///< compute the whole machine instead of its smallest sector
    bool unmirrored = false; ///< mesh whole pitches instead of mirrored halves
};

/// Builds the machine or says all that is wrong, each with its path.
Result<Machine> build_machine(const Design& design, const MaterialLibrary& own = {},
                              MachineOptions options = {});
/// The same from values that are resolved already.
Result<Machine> build_machine(const Values& values, const MaterialLibrary& own = {},
                              MachineOptions options = {});

/// The machine as its drawn section alone shows it: of an axial one the slice at the mean radius.
Machine of_section(Machine machine);

/// A design with all that follows from it; what desktop, terminal and questions share.
struct Built {
    Design design;
    MaterialLibrary materials;
    Machine machine;
    std::string hash; ///< of everything the design's figures depend on
};
Result<Built> build(const Design& design, const MaterialLibrary& own = {}, MachineOptions options = {});

/// The machine with other temperatures (K) of its magnets, its winding and its steels; empty ones stay. Steels
/// keep the magnetisation curve of their own temperature; their resistivity and loss follow.
struct Temperatures {
    std::optional<double> magnets{}, winding{}, stator_steel{}, rotor_steel{};
};
Machine at_temperatures(Machine machine, const Temperatures& temperatures);

/// The frames its tiles are drawn in.
struct TileFrame;
TileFrame stator_frame(const Values& values, SlotSharing sharing = SlotSharing::Whole, int layers = 1);
TileFrame rotor_frame(const Values& values);

} // namespace mavlo
