#pragma once
// Machines whose gap's field runs along the axis, as flat sections at several radii.

#include "machine/design.h"

#include <string>
#include <vector>

namespace mavlo {

bool is_axial(const Design& design);
bool is_axial(const Values& values);
/// A straight machine: what would be a turn of it is its length, endless by repetition.
bool is_linear(const Design& design);
bool is_linear(const Values& values);
/// Either of them: sections are drawn on a flat chart.
bool is_flat(const Design& design);
bool is_flat(const Values& values);
bool is_radial(const Design& design); ///< the gap lies round the axis, its field runs along radii

bool has_stator_between(const Design& design); ///< two rotors, or secondaries, round it
bool has_rotor_between(const Design& design);  ///< two stators, or primaries, round it

/// How discs and stators stand along the axis (of straight machines both sides across the gap), and what of
/// them is computed: where the machine is its own mirror image about a middle plane, the half on one side of
/// it.
struct AxialForm {
    double inner = 0, outer = 0;  ///< radii of the active ring, m; of straight machines 0
    int halves = 1;               ///< alike, of which one is computed
    bool mirrored_stator = false; ///< the middle plane cuts the stator, and flux goes straight through it
    bool mirrored_rotor = false;  ///< likewise the rotor
    bool stator_between = false;  ///< two discs
    bool rotor_between = false;   ///< two stators
    bool coreless = false;        ///< coils alone between the discs
    bool magnets_alone = false;   ///< no iron behind them: they reach through the disc
    double length() const { return outer - inner; }
};
AxialForm axial_form(const Values& values);
/// Beyond what stands in the middle, m; of machines with one gap that.
double other_gap(const Values& values);

/// What is wrong with a flat machine's main dimensions and kinds, or not computed yet.
Problems flat_problems(const Values& values);

/// A radius at which the field is solved, and the share of the active length that it stands for.
struct RadialSlice {
    double radius, share;
};
/// Points of Gauss and Legendre on every stretch over which nothing begins or ends, denser towards radii where
/// a magnet's arc begins like a root; or rings of equal width, each at its middle. Shares sum to 1.
std::vector<RadialSlice> radial_slices(const Values& values);

/// The values of the flat section at a radius: the magnets' arc there is a fraction of the pole pitch, whatever
/// their outline.
Values at_radius(Values values, double radius);
double section_radius(const Values& values);

/// sector, rectangle or round; magnets that have no outline of their own are sectors.
std::string magnet_outline(const Values& values);

/// Magnets' arc at a radius, rad: of sectors one angle, of rectangles and rounds the arc of the circle inside
/// the outline. Rectangles stand with their middle on the ring's mean radius.
double magnet_arc(const Values& values, double radius);

struct Machine;
struct Body;
/// Rotor and stator at another radius, as they are drawn; none where they do not fit there.
std::vector<Body> bodies_at(const Machine& machine, double radius);

/// From where coil sides begin to where they end, m.
double coil_side_length(const Values& values);
/// Whether coil sides stand at this radius.
bool has_coils_at(const Values& values, double radius);

} // namespace mavlo
