// Pulse-width modulation: references against a triangle, sampled naturally or once or twice a carrier period;
// the space-vector kind adds half the sum of the largest and the smallest reference with reversed sign.

#include "circuit/gated_supply.h"
#include "circuit/supply_kind.h"

#include <algorithm>
#include <cmath>

namespace mavlo::supply_modulation {
namespace {

/// ref_k = -M sin(theta + delta - phi_k), less the common part where there is one.
struct References {
    double modulation, angle;
    bool space_vector;
    double at(int k, double theta) const {
        std::array<double, 3> all{};
        for (int n = 0; n < 3; ++n) all[std::size_t(n)] = -modulation * std::sin(theta + angle - phase_lag(n));
        const auto [low, high] = std::minmax_element(all.begin(), all.end());
        return all[std::size_t(k)] - (space_vector ? (*low + *high) / 2 : 0);
    }
};

/// The legs' potentials without their carrier.
class Averaged : public Supply {
  public:
    Averaged(const References& references, const Clock& clock, double dc)
        : m_references(references)
        , m_clock(clock)
        , m_dc(dc) {}
    std::unique_ptr<Supply> copy() const override { return std::make_unique<Averaged>(*this); }
    bool repeats_in_sixths() const override { return true; }
    std::array<LegLaw, 3> legs(double t) const override {
        std::array<LegLaw, 3> laws;
        for (int k = 0; k < 3; ++k) {
            // About the middle of the link, as sources have it.
            const double v = m_dc / 2 * std::clamp(m_references.at(k, m_clock.angle(t)), -1.0, 1.0);
            laws[std::size_t(k)] = {v, 0, v, 0};
        }
        return laws;
    }

  private:
    References m_references;
    Clock m_clock;
    double m_dc;
};

/// The triangle is +1 at t = 0 and -1 half a carrier period later.
class Modulation : public GatedSupply {
  public:
    Modulation(const SupplySettings& s, bool space_vector)
        : GatedSupply(s.bridge, s.clock, s.dead_time)
        , m_settings(s)
        , m_references{s.modulation, s.voltage_angle, space_vector} {}
    std::unique_ptr<Supply> copy() const override { return std::make_unique<Modulation>(*this); }
    std::unique_ptr<Supply> averaged() const override {
        return std::make_unique<Averaged>(m_references, m_clock, m_settings.bridge.dc);
    }
    /// The carrier need not fit the period: then there is no orbit of one period.
    bool is_scheduled() const override {
        const double carriers = m_settings.carrier_frequency * m_clock.period();
        return std::abs(carriers - std::rint(carriers)) < 1e-9 * carriers;
    }

  protected:
    double next_scheduled(double t) const override {
        const double half = 0.5 / m_settings.carrier_frequency;
        // Within this half period of the carrier or the next, the first crossing or corner.
        double j = std::floor(t / half + 1e-9);
        double next = (j + 1) * half;
        for (int k = 0; k < 3; ++k) {
            const double at = crossing(k, j, half);
            if (at > t + 1e-10 * half && at < next) next = at;
        }
        return next;
    }
    void at_scheduled(double t, const Currents&) override {
        const double half = 0.5 / m_settings.carrier_frequency, j = std::floor(t / half + 1e-7);
        for (int k = 0; k < 3; ++k) {
            const double at = crossing(k, j, half);
            const bool falling = std::fmod(j, 2) == 0; // the triangle falls from +1
            const bool past = t >= at - 1e-7 * half;
            want(k, past == falling ? 1 : -1, t);
        }
    }

  private:
    double triangle(double t, double j, double half) const {
        const double share = t / half - j;
        return std::fmod(j, 2) == 0 ? 1 - 2 * share : -1 + 2 * share;
    }
    double reference(int k, double t) const { return m_references.at(k, m_clock.angle(t)); }
    /// Where leg k's reference meets the triangle in half period j: its start where the reference lies above
    /// all of it, its end where it lies below. (Falling: the leg is on after it; rising: before it.)
    double crossing(int k, double j, double half) const {
        const double start = j * half, end = start + half;
        const bool falling = std::fmod(j, 2) == 0;
        if (m_settings.sampling != Sampling::Natural) {
            const double sampled =
                m_settings.sampling == Sampling::Symmetric && !falling ? start - half : start;
            const double ref = std::clamp(reference(k, sampled), -1.0, 1.0);
            return start + half * (falling ? (1 - ref) / 2 : (1 + ref) / 2);
        }
        const auto above = [&](double t) { return reference(k, t) - triangle(t, j, half); };
        // The reference moves more slowly than the triangle: one crossing at most.
        if (falling ? above(start) >= 0 : above(start) <= 0) return start;
        if (falling ? above(end) <= 0 : above(end) >= 0) return end;
        double low = start, high = end;
        for (int n = 0; n < 60; ++n) {
            const double middle = (low + high) / 2;
            ((above(middle) > 0) == falling ? high : low) = middle;
        }
        return (low + high) / 2;
    }
    SupplySettings m_settings;
    References m_references;
};

Result<std::unique_ptr<Supply>> make_with(const SupplySettings& s, bool space_vector) {
    if (s.bridge.dc <= 0) return Problem{"--with dc_voltage", "A voltage above 0 V is wanted."};
    const double carriers = s.carrier_frequency * s.clock.period();
    if (!(s.carrier_frequency > 0))
        return Problem{"--with carrier_frequency", "A carrier frequency above 0 Hz is wanted."};
    if (carriers < 4)
        return Problem{
            "--with carrier_frequency",
            "The carrier must have at least four periods in an electrical one; raise its frequency."};
    if (s.modulation <= 0 || s.modulation > 4)
        return Problem{"--with modulation", "A modulation index between 0 and 4 is wanted."};
    if (s.dead_time < 0 || s.dead_time > 0.2 / s.carrier_frequency)
        return Problem{"--with dead_time", "The dead time must be less than a fifth of the carrier's period."};
    return std::unique_ptr<Supply>(std::make_unique<Modulation>(s, space_vector));
}

Result<std::unique_ptr<Supply>> make_sine(const SupplySettings& s) {
    return make_with(s, false);
}
Result<std::unique_ptr<Supply>> make_vector(const SupplySettings& s) {
    return make_with(s, true);
}

const Register<SupplyKind> sine_triangle{{"sine-triangle",
                                          "Sinusoidal references against a triangular carrier.", make_sine, 50,
                                          Fundamental::Modulation}};
const Register<SupplyKind> space_vector{{"space-vector",
                                         "The same with the common part of space-vector modulation.",
                                         make_vector, 60, Fundamental::Modulation, VoltageRule::SpaceVector}};

} // namespace
} // namespace mavlo::supply_modulation
