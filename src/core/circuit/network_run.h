#pragma once
// A network in time, together with the machine that is a part of it.

#include "circuit/gate_control.h"
#include "circuit/network.h"
#include "circuit/port_machine.h"

#include <functional>
#include <optional>

namespace mavlo {

/// Speeds that the rotor is turned at, straight from one time to the next and held after the last.
struct SpeedProfile {
    struct Point {
        double t, omega; ///< s; electrical, rad/s
    };
    std::vector<Point> points; ///< times rise; empty: the speed is held
    /// Speed and acceleration of the rotor there, right of a corner.
    void follow(RotorMoment& rotor) const;
    double next_corner(double t) const; ///< infinity: none
};

/// What the rotor is left to.
struct RotorDrive {
    RotorMoment start{};
    int pole_pairs = 1;
    SpeedProfile speed{};
    double inertia = 0; ///< kg.m2; 0: the speed is held, or follows its profile
    /// Load at a mechanical speed (rad/s), N.m, against the machine's own torque.
    std::function<double(double)> load{};
};

struct NetworkOptions {
    RotorDrive rotor{};
    double longest_step = 1e-4; ///< s
    double tolerance = 1e-6;    ///< of a step, over the largest flux linkage or charge
    std::function<bool()> stop{};
};

/// At one instant; at an event there are two, of either side.
struct NetworkSample {
    RotorMoment rotor;
    Eigen::VectorXd potential; ///< of the nodes, V
    Eigen::VectorXd current;   ///< of the elements, A
    Eigen::VectorXd linkage;   ///< of the machine's phases, Wb
    std::vector<char> closed;  ///< switches and diodes that conduct
    double torque = 0;         ///< N.m
};

/// Nodal equations with the currents of sources, inductors and phases as further unknowns (C.-W. Ho, A.E.
/// Ruehli, P.A. Brennan, IEEE Trans. Circuits Syst. 22, 1975), and in time the stiffly accurate SDIRK method of
/// two stages, order two, L-stable (R. Alexander, SIAM J. Numer. Anal. 14, 1977; gamma = 1 - 1/sqrt 2). Steps
/// end on every corner of a source, every edge of the gates, and where a diode or switch changes its state,
/// which is located; a copy goes on by itself from the same state. Steps are as long as the tolerance lets them
/// be, judged by the third derivative that their stages show.
class NetworkRun {
  public:
    /// `network` and `machine` must outlive the run; `control` may be empty.
    NetworkRun(const Network& network, const PortMachine& machine, std::unique_ptr<GateControl> control,
               NetworkOptions options);

    /// On to `end`; samples are appended where there are any wanted. Fails in a sentence where switches find
    /// no state, or where the network cannot be solved.
    std::optional<Problem> run(double end, std::vector<NetworkSample>* samples);

    const RotorMoment& now() const { return m_now; }
    /// Flux linkages and charges, which with the gates are the state.
    const Eigen::VectorXd& state() const { return m_state; }
    void set_state(const Eigen::VectorXd& state) { m_state = state; }
    /// Of the machine's phases alone, Wb.
    void set_linkages(const Eigen::VectorXd& linkage);
    NetworkSample sample() const;
    Eigen::VectorXd phase_currents() const { return phase_currents(m_x); }

  private:
    struct Step {
        Eigen::VectorXd x, state, rate;
        double error = 0;
    };
    struct Crossing {
        double excess = -1; ///< above zero: over its bound
        int element = -1, watch = -1;
    };

    Eigen::Index branch(int element) const { return m_branch[std::size_t(element)]; }
    double potential(const Eigen::VectorXd& x, int node) const { return node == 0 ? 0 : x[node - 1]; }
    double across(const Eigen::VectorXd& x, const Element& e) const {
        return potential(x, e.from) - potential(x, e.to);
    }
    double through(const Eigen::VectorXd& x, std::size_t element) const;
    Eigen::VectorXd phase_currents(const Eigen::VectorXd& x) const;
    bool is_valve(const Element& e) const { return e.kind == Element::Switch || e.kind == Element::Diode; }

    void number();
    void stamp(const RotorMoment& at, double per, const Eigen::VectorXd& memory);
    void stamp_phases(double per, const Eigen::VectorXd& memory, const PortState& machine,
                      const Eigen::VectorXd& currents, Eigen::MatrixXd& a, Eigen::VectorXd& b) const;
    bool solve(const RotorMoment& at, double per, const Eigen::VectorXd& memory, Eigen::VectorXd& x);
    Eigen::VectorXd rates(const Eigen::VectorXd& x, double per, const Eigen::VectorXd& memory) const;
    std::optional<Step> try_step(double h);
    template <typename Take>
    void each_bound(const Eigen::VectorXd& x, bool with_watches, Take take) const;
    std::vector<Crossing> crossings(const Eigen::VectorXd& x, bool with_watches) const;
    double excess_of(const Element& e, std::size_t index, const Eigen::VectorXd& x) const;
    double worst(const Eigen::VectorXd& x) const;
    bool drop_rests(const Eigen::VectorXd& x);
    std::optional<Problem> settle();
    void follow_gates();
    void flip(const Crossing& crossing);
    void note_scales(const Eigen::VectorXd& x);
    double next_edge() const;
    std::optional<Problem> advance(double end, std::vector<NetworkSample>* samples);
    std::optional<Step> locate(double h, double& where);
    void take(const Step& step, double h);

    const Network& m_network;
    const PortMachine& m_machine;
    OwnControl m_control;
    NetworkOptions m_options;
    RotorMoment m_now;
    std::vector<Eigen::Index> m_branch;   ///< of each element: its current among the unknowns, or -1
    std::vector<Eigen::Index> m_slot;     ///< of each element: its place in the state, or -1
    std::vector<int> m_phase_element;     ///< of each port: the element, or -1
    std::vector<std::size_t> m_inductors; ///< elements
    Eigen::MatrixXd m_inductance;         ///< of the inductors, mutual ones too
    std::vector<char> m_closed;
    Eigen::VectorXd m_x, m_state, m_rate, m_scale;
    Eigen::MatrixXd m_a;
    Eigen::VectorXd m_b;
    double m_volts = 1e-3, m_amperes = 1e-6; ///< largest so far
    double m_h = 0;
    bool m_begun = false;
};

} // namespace mavlo
