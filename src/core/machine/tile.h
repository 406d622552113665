#pragma once
// The pieces a cross-section is made of, as plain values: regions in tiles, tiles round bodies, bodies in a
// section.

#include "material/material.h"
#include "shape/chart.h"

#include <optional>
#include <string>
#include <vector>

namespace mavlo {

/// What a region is for the field. `Solid` conducts currents of its own (a shaft, bars, a sleeve).
enum class Use { Air, Iron, Conductor, Magnet, Solid };

std::string to_string(Use use);

/// What a region is made of, as it is used here.
struct Substance {
    Material material;
    std::string path;            ///< of the parameter that names the material ("rotor.magnet.grade")
    double temperature = 293.15; ///< K
    double stacking = 1;         ///< share of the stack's length that is sheet
    double building = 1;         ///< iron loss over that of the sheet as measured
    double resistivity = 0;      ///< Ohm.m at the temperature; 0: does not conduct
    bool solid = false;          ///< massive steel: its eddy currents are its own, not a sheet's
    double length = 0;           ///< of one axial piece of a magnet, m
    double thickness = 0;        ///< of a magnet along its remanence, m; 0: not known
    double filling = 1;          ///< share of a magnet's pocket, along its remanence, that is magnet
    /// Of the grade at the temperature, T.
    double own_remanence() const { return material.magnet.remanence_at(temperature); }
    /// Of the pocket taken as one: magnet and clearance in series carry the same flux density, so that
    ///   B = mu0 mu (H_mean) + B_r',  1/mu = f/mu_r + (1 - f),  B_r' = B_r f/mu_r / (1/mu)
    /// with f the filling (Ampere's law round the pocket's thickness).
    double recoil_mu_r() const { return 1 / (filling / material.magnet.recoil_mu_r + 1 - filling); }
    double remanence() const { return own_remanence() * filling / material.magnet.recoil_mu_r * recoil_mu_r(); }
    /// What is lost at the temperature beside eddy currents of its own: of massive steel the hysteresis alone.
    /// A power law cannot tell the two apart.
    IronLossLaw core_law() const;
    bool operator==(const Substance&) const = default;
};

/// Direction of a remanence where the polar angle is theta: angle + turn theta. Parallel: turn 0; radial: turn
/// 1; an ideal Halbach array: 1 -+ pole pairs.
struct Remanence {
    double angle = 0, turn = 0;
    double at(double theta) const { return angle + turn * theta; }
    bool operator==(const Remanence&) const = default;
};

/// Whether a region and its image beyond one of the tile's edges are one body (a magnet that the edge cuts).
enum class Spans { Nothing, Axis, Boundary };

/// A part of a tile, named by a point inside it.
struct Region {
    Point seed;
    Use use = Use::Air;
    std::string path;       ///< names it for sheet and selection ("rotor.magnet")
    std::string material{}; ///< path of the parameter that names its material; empty: air
    int part = 0;           ///< conductors: layer of the coil side; magnets: piece within the pole
    Spans spans = Spans::Nothing;
    std::optional<Remanence> magnet{}; ///< of a north pole, in the tile's frame
    int substance = -1;                ///< among the machine's; -1: air
    bool operator==(const Region&) const = default;
};

/// Elements near `at` shall not be larger than `size`, growing with the distance.
struct SizeHint {
    Point at;
    double size = 0;
    bool operator==(const SizeHint&) const = default;
};

/// One pitch (a slot's or a pole's), centred on angle 0. Radii are heights of its chart. A mirrored tile is
/// drawn from its axis to half the pitch, both edges being mirror lines; a whole one from minus to plus half
/// the pitch.
struct Tile {
    Chart chart{};
    double pitch = 0; ///< rad
    bool mirrored = true;
    double gap_radius = 0; ///< of the circle where the exact gap begins
    double face_radius =
        0; ///< of what is nearest to the other side; apart from gap_radius where the face is shaped
    double far_radius = 0; ///< the far side: the outside, or the hole in the middle
    bool open = false;     ///< the field goes on in the air beyond the outside; else A = 0 there
    bool mirror = false; ///< flat: what lies beyond the far side is this body's mirror image (H along it is 0)
    double iron_radius = 0; ///< where the iron ends towards the gap, for drawing
    Outline outline;
    std::vector<Region> regions;
    std::vector<SizeHint> hints;
    double gap_size = 0; ///< element size on the gap circle
    double max_size = 0;
    double coarseness = 1; ///< multiplies all of these sizes
    double turn = 0;       ///< rad, of the first tile's middle in its body's frame

    double half_pitch() const { return pitch / 2; }
    /// The place at a height and an angle.
    Point place(double height, double angle) const { return chart.place(height, angle); }
    bool outside() const { return far_radius > gap_radius; }
    /// Whether its far side bounds the field; the hole in the middle of a round one does not.
    bool bounded() const { return outside() || chart.is_flat(); }
    /// Angle of the edge where the drawing begins: 0, or minus half the pitch.
    double first_angle() const { return mirrored ? 0 : -pitch / 2; }
    bool operator==(const Tile&) const = default;
};

/// A ring of tiles.
struct Body {
    Tile tile;
    int pitches = 0;         ///< tiles in a whole turn
    bool alternates = false; ///< every second tile has its magnets reversed
    bool turns = false;      ///< it is the rotor
    bool operator==(const Body&) const = default;
};

/// Bodies from the inside out (flat ones from below), with a gap between neighbours.
struct Section {
    double depth = 0;  ///< of the whole stack that it belongs to, m: axial, of flat ones along the radius
    double share = 1;  ///< of that depth that it stands for
    bool coils = true; ///< coil sides reach it
    /// Its gap is the other one, beyond what stands in the middle, and it is drawn like the section before it:
    /// what a middle plane cuts is joined there.
    bool second = false;
    std::vector<Body> bodies;

    const Chart& chart() const { return bodies.front().tile.chart; }
    const Body& inner() const { return bodies.front(); }
    const Body& outer() const { return bodies.back(); }
    int rotor_index() const { return bodies.front().turns ? 0 : 1; }
    const Body& rotor() const { return bodies[std::size_t(rotor_index())]; }
    const Body& stator() const { return bodies[std::size_t(1 - rotor_index())]; }
    double outer_radius() const { return outer().tile.far_radius; }
    bool operator==(const Section&) const = default;
};

/// A dimension that stands on the drawing: from `a` to `b`. Moving the handle by a vector v changes the value
/// by dot(v, gradient) in SI.
struct DimensionMark {
    enum class Kind { Length, Diameter, Angle };
    std::string path;
    Kind kind = Kind::Length;
    Point a, b;
    Point handle, gradient;
    bool operator==(const DimensionMark&) const = default;
};

/// The same tile drawn whole: its half and the mirror image.
Tile unmirrored(const Tile& tile);

} // namespace mavlo
