#pragma once
// Currents of a machine on a supply at constant speed, from event to event.

#include "circuit/supply.h"
#include "quantity/problem.h"

#include <functional>
#include <optional>
#include <vector>

namespace mavlo {

/// At one instant; at an event there are two, of either side.
struct TransientSample {
    double t = 0, angle = 0;                           ///< s; electrical, rad
    Eigen::Vector3d current = Eigen::Vector3d::Zero(); ///< of the phases, A
    Eigen::Vector3d line = current;                    ///< out of the legs, A: in star the same
    Eigen::Vector3d voltage = current;                 ///< across the phases, V
    Eigen::Vector3d potential = current; ///< of the legs to the negative rail (of sources: their voltage), V
    double torque = 0;
    Eigen::Vector3d linkage = current; ///< of the phases, Wb
    Gates gates{0, 0, 0};
    /// The currents that the run had here.
    Currents state() const { return line.array() + current.mean(); }
};

struct TransientOptions {
    double resistance = 0; ///< of a phase, Ohm
    int steps = 360;       ///< a period at least
    std::function<bool()> stop{};
    bool delta = false; ///< the machine is a delta as its terminals see it
};

/// The state of a run, which goes on where it stopped.
class Transient {
  public:
    Transient(const PhaseMachine& machine, const Clock& clock, std::unique_ptr<Supply> supply,
              TransientOptions options);
    Transient(const Transient& other);

    double time() const { return m_t; }
    const Currents& currents() const { return m_current; }
    void set_currents(const Currents& currents);
    const Supply& supply() const { return *m_supply; }
    /// As if it had run to t, with the gates as they stand.
    void start_at(double t, const Currents& currents);

    /// Runs on to `end`; samples are appended where there are any wanted. Steps end on every edge of the supply
    /// and on every event, which is located: a current that reaches zero, a leg without current whose potential
    /// leaves the rails, a bound of the supply. Between them the classical Runge-Kutta method of fourth order.
    ///
    ///   u_k - u_N = R i_k + sum_j L_kj di_j/dt + omega dpsi_k/dtheta,   sum of di_j/dt = 0
    ///
    /// over the phases that conduct. Of a delta the legs carry l = i - c, c being the mean of i, with R/3 each,
    /// and c obeys 0 = R c + dpsi_0/dt with the mean linkage psi_0. Fails with a sentence when events pile up
    /// (a band of nothing).
    std::optional<Problem> run(double end, std::vector<TransientSample>* samples);

    /// The same, but only as far as the first edge or event, and what waits there; pass() lets it happen.
    enum class At { End, Edge, Event };
    Result<At> advance(double end, std::vector<TransientSample>* samples);
    void pass(At what);
    /// What stands here.
    TransientSample sample() const;
    /// From here on by another supply.
    void feed_by(std::unique_ptr<Supply> supply);
    /// Takes the place of a copy of itself that has gone on.
    void go_on_from(const Transient& copy);

  private:
    enum class Way { None, Out, In };
    using Ways = std::array<Way, 3>;
    struct Slope {
        Currents rate = Currents::Zero(); ///< of the legs
        double round = 0;                 ///< rate of what goes round a delta
        double star = 0;
        Eigen::Vector3d open =
            Eigen::Vector3d::Zero(); ///< potential of phases that do not conduct, less the star's
        int conducting = 0;
        double torque = 0;
        Eigen::Vector3d linkage = Eigen::Vector3d::Zero();
    };
    Slope slope(double t, const Currents& i, const Ways& ways) const;
    double potential(std::size_t leg, const LegLaw& law, const Currents& i, const Ways& ways,
                     const Slope& s) const;
    void choose_ways();
    double beyond_rails(double t, const Ways& ways, const Slope& s) const;
    double violation(const Ways& ways) const;
    double going_round(const Currents& i) const { return m_options.delta ? i.mean() : 0; }
    Currents of_legs(const Currents& i) const { return i.array() - going_round(i); }
    double leg_resistance() const { return m_options.delta ? m_options.resistance / 3 : m_options.resistance; }
    Currents stepped(const Currents& from, double t, double h) const;
    bool bound_crossed(double t, const Currents& i, const Currents& before, double from) const;
    void settle();
    const PhaseMachine& m_machine;
    Clock m_clock;
    std::unique_ptr<Supply> m_supply;
    TransientOptions m_options;
    double m_t = 0;
    Currents m_current = Currents::Zero(), m_before = m_current; ///< here, and where the last step began
    double m_since = 0;                                          ///< time from which events are counted
    int m_events = 0;
    Ways m_ways{Way::None, Way::None, Way::None};
};

} // namespace mavlo
