#pragma once
// Who opens and closes a network's switches, and how the rotor goes.

#include <Eigen/Dense>
#include <limits>
#include <memory>
#include <vector>

namespace mavlo {

/// The rotor at one instant; angle and speed electrical.
struct RotorMoment {
    double t = 0, angle = 0, omega = 0, acceleration = 0;
    RotorMoment after(double dt) const {
        return {t + dt, angle + dt * (omega + dt * acceleration / 2), omega + dt * acceleration, acceleration};
    }
    /// Time from now until the angle (rad, modulo a turn) is next reached, at this speed; infinity when it
    /// stands.
    double time_to(double angle) const;
};

/// Gates of the switches that are driven from outside; a copy goes on from there.
class GateControl {
  public:
    virtual ~GateControl() = default;
    virtual std::unique_ptr<GateControl> copy() const = 0;

    const std::vector<char>& gates() const { return m_gates; }

    /// When at_edge() next wants to be called; the state never steps over it.
    virtual double next_edge(const RotorMoment& /*now*/) const {
        return std::numeric_limits<double>::infinity();
    }
    virtual void at_edge(const RotorMoment& /*now*/, const Eigen::VectorXd& /*phase currents*/) {}

    /// Functions of the phases' currents whose rise through zero calls on_watch() there.
    virtual int watches() const { return 0; }
    virtual double watch(int /*which*/, const Eigen::VectorXd& /*phase currents*/) const { return -1; }
    virtual void on_watch(int /*which*/) {}

  protected:
    std::vector<char> m_gates;
};

/// A control, or none, that is copied with what holds it.
class OwnControl {
  public:
    OwnControl(
        std::unique_ptr<GateControl> control = nullptr) // NOLINT(google-explicit-constructor): takes it over
        : m_control(std::move(control)) {}
    OwnControl(const OwnControl& other)
        : m_control(other ? other->copy() : nullptr) {}
    OwnControl(OwnControl&&) = default;
    OwnControl& operator=(OwnControl other) {
        m_control = std::move(other.m_control);
        return *this;
    }
    ~OwnControl() = default;
    GateControl* operator->() const { return m_control.get(); }
    explicit operator bool() const { return m_control != nullptr; }

  private:
    std::unique_ptr<GateControl> m_control;
};

} // namespace mavlo
