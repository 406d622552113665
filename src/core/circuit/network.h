#pragma once
// Circuits as values: elements between nodes.

#include "quantity/problem.h"

#include <limits>
#include <string>
#include <vector>

namespace mavlo {

inline constexpr double never =
    std::numeric_limits<double>::infinity(); ///< s, of an instant that does not come

/// What a source gives over time (s), or over the rotor's electrical angle.
struct SourceWave {
    enum Form {
        Constant, ///< value
        Sine,     ///< offset, amplitude, frequency (Hz), delay, damping (1/s), phase (rad)
        Pulse,    ///< low, high, delay, rise, fall, width, period
        Table,    ///< t0 v0 t1 v1 …, straight between; constant beyond
        Angle,    ///< low, high, from, to (rad electrical): high between the two, once a turn
    };
    Form form = Constant;
    std::vector<double> numbers{0};

    double at(double t, double angle) const;
    /// The next instant after t at which it has a corner or jump; infinity: none.
    double next_corner(double t) const;
    /// Angles of its jumps, in [0, 2 pi).
    std::vector<double> corner_angles() const;
    bool operator==(const SourceWave&) const = default;
};

/// An element between two nodes; its current flows from `from` through it to `to`.
struct Element {
    enum Kind { Resistor, Inductor, Capacitor, VoltageSource, CurrentSource, Switch, Diode, Phase };
    Kind kind = Resistor;
    std::string name; ///< as written, with its letter
    int from = 0, to = 0;
    double value = 0;   ///< Ohm, H, F; of a phase: its resistance
    double initial = 0; ///< A of an inductor, V of a capacitor
    SourceWave wave{};
    int phase = 0;
    /// Switches and diodes: closed, current times `on` beyond the drop; open, through `off`. A switch with a
    /// drop carries current forward only.
    double drop = 0, on = 1e-3, off = 1e8;
    /// What closes a switch: the voltage between two nodes, the current of a source, or a gate from outside.
    struct Control {
        int plus = -1, minus = -1, source = -1, gate = -1;
        double threshold = 0, hysteresis = 0;
        bool operator==(const Control&) const = default;
    } control{};
    int line = 0; ///< of the netlist it was read from
    bool operator==(const Element&) const = default;
};

struct Coupling {
    std::string name;
    int first = 0, second = 0; ///< inductors, places among the elements
    double factor = 0;         ///< between -1 and 1
    bool operator==(const Coupling&) const = default;
};

struct Network {
    std::vector<std::string> nodes{"0"}; ///< the first is what potentials are measured to
    std::vector<Element> elements;
    std::vector<Coupling> couplings;

    int node(const std::string& name);          ///< its number, added where it is new
    int find(const std::string& element) const; ///< -1: there is none
    int gates() const;                          ///< from outside
    bool operator==(const Network&) const = default;
};

/// What cannot work, in sentences: nodes without a way to ground, loops of voltage sources, nodes fed by
/// current sources alone, phases that the machine has not or that stand twice.
Problems network_problems(const Network& network, int phases);

} // namespace mavlo
