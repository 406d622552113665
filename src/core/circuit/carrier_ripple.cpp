#include "circuit/carrier_ripple.h"

#include "circuit/delta.h"
#include "circuit/dq_frame.h"
#include "quantity/constants.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace mavlo {
namespace {

constexpr int angles = 96; ///< of a turn

/// Phase values from those of the terminals, and back where they sum to zero.
Eigen::Vector3d phases_of(const Eigen::Vector3d& terminals, bool delta) {
    if (!delta) return terminals.array() - terminals.mean();
    return {terminals[0] - terminals[1], terminals[1] - terminals[2], terminals[2] - terminals[0]};
}
Eigen::Vector3d terminals_of(const Eigen::Vector3d& phases, bool delta) {
    return delta ? Eigen::Vector3d(terminals_of_delta(phases) / 3) : phases;
}

/// Shares of the carrier period in which the upper switches are on.
Eigen::Vector3d duties(const Carrier& carrier, const Eigen::Vector3d& phases) {
    Eigen::Vector3d wanted = terminals_of(phases, carrier.delta);
    if (carrier.space_vector) wanted.array() -= (wanted.maxCoeff() + wanted.minCoeff()) / 2;
    return (0.5 + wanted.array() / carrier.bridge.dc).cwiseMax(0.0).cwiseMin(1.0);
}

/// Half a carrier period from its middle on, in which the legs fall one after the other.
class HalfPeriod {
  public:
    HalfPeriod(const Carrier& carrier, const Eigen::Vector3d& duty, const DqFrame& frame)
        : m_ends{0, 0, 0, 0.5} {
        std::array<int, 3> order{0, 1, 2};
        std::sort(order.begin(), order.end(), [&](int a, int b) { return duty[a] < duty[b]; });
        Eigen::Vector3d high = Eigen::Vector3d::Ones();
        double from = 0;
        Eigen::Vector2d mean = Eigen::Vector2d::Zero();
        for (std::size_t k = 0; k < 4; ++k) {
            m_ends[k] = k < 3 ? duty[order[k]] / 2 : 0.5;
            m_voltage[k] = frame.in() * phases_of(carrier.bridge.dc * high, carrier.delta);
            mean += 2 * (m_ends[k] - from) * m_voltage[k];
            from = m_ends[k];
            if (k < 3) high[order[k]] = 0;
        }
        for (Eigen::Vector2d& v : m_voltage) v -= mean;
    }

    /// Adds the means over the whole period, which is the mirror image of its half.
    void add(const Eigen::Matrix2d& admittance, double period, double weight, CarrierRipple& out) const {
        Eigen::Vector2d i = Eigen::Vector2d::Zero();
        double from = 0;
        for (std::size_t k = 0; k < 4; ++k) {
            const double share = 2 * (m_ends[k] - from);
            const Eigen::Vector2d rate = admittance * m_voltage[k], next = i + rate * period * share / 2,
                                  middle = (i + next) / 2;
            out.rate += weight * share * rate * rate.transpose();
            // Simpson's rule is exact for the square of what goes straight.
            out.current += weight * share / 6 *
                           (i * i.transpose() + 4 * middle * middle.transpose() + next * next.transpose());
            i = next;
            from = m_ends[k];
        }
    }

  private:
    std::array<double, 4> m_ends;
    std::array<Eigen::Vector2d, 4> m_voltage;
};

/// W of one leg whose upper switch is on for a share of the time.
double leg(const Bridge& bridge, double duty, double current) {
    return duty * leg_loss(bridge, 1, current) + (1 - duty) * leg_loss(bridge, -1, current);
}

} // namespace

double CarrierRipple::phase_rms() const {
    return std::sqrt(current.trace() / 2);
}

double CarrierRipple::frequency() const {
    return current.trace() > 0 ? std::sqrt(rate.trace() / current.trace()) / (2 * pi) : 0;
}

CarrierRipple carrier_ripple(const Carrier& carrier, const Eigen::Vector2d& voltage,
                             const Eigen::Vector2d& current, const Eigen::Matrix2d& inductance) {
    CarrierRipple out;
    const Eigen::Matrix2d admittance = inductance.inverse();
    for (int n = 0; n < angles; ++n) {
        const DqFrame frame(2 * pi * n / angles);
        const Eigen::Vector3d duty = duties(carrier, frame.out * voltage), phases = frame.out * current;
        HalfPeriod(carrier, duty, frame).add(admittance, 1 / carrier.frequency, 1.0 / angles, out);
        const Eigen::Vector3d line = carrier.delta ? terminals_of_delta(phases) : phases;
        for (int k = 0; k < 3; ++k) out.valves += leg(carrier.bridge, duty[k], line[k]) / angles;
    }
    return out;
}

} // namespace mavlo
