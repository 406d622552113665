#include "map/ideal_stroke.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace mavlo {
namespace {

constexpr int most_rounds = 80, ripple_points = 240;

class Runner {
  public:
    Runner(const LinkageMap& map, const StrokeDrive& drive, double limit)
        : m_map(map)
        , m_drive(drive)
        , m_limit(limit)
        , m_omega(drive.periods * drive.speed)
        , m_step(2 * pi / drive.steps) {}

    IdealStroke run() {
        const double on = m_drive.periods * m_drive.stroke.turn_on,
                     off = m_drive.periods * m_drive.stroke.turn_off;
        for (int n = 0; n < most_rounds && !m_out.periodic; ++n) {
            const double before = m_i;
            start(on);
            stretch(off, true);
            stretch(on + 2 * pi, false);
            m_out.periodic = std::abs(m_i - before) <= 1e-3 * std::max(1e-9, m_out.current_peak);
        }
        finish();
        return std::move(m_out);
    }

  private:
    /// Linkage with what stands in series.
    double linkage(double angle, double i) const {
        return m_map.at(angle / m_drive.periods, i).linkage + m_drive.inductance * i;
    }
    /// The current of a linkage, by Newton's method from one that is near.
    double current(double angle, double psi, double near) const {
        double i = near;
        for (int n = 0; n < 12; ++n) {
            const auto p = m_map.at(angle / m_drive.periods, i);
            const double slope = p.inductance + m_drive.inductance,
                         off = p.linkage + m_drive.inductance * i - psi;
            if (slope <= 0) break;
            i -= off / slope;
            if (std::abs(off) <= 1e-9 * std::abs(psi) + 1e-15) return i;
        }
        return i;
    }

    void start(double angle) {
        m_out.angle.clear();
        m_out.current.clear();
        m_out.linkage.clear();
        m_out.torque.clear();
        m_input = m_work = m_square = 0;
        m_out.current_peak = 0;
        m_theta = angle;
        m_psi = linkage(angle, m_i);
        keep();
    }

    void keep() {
        const auto p = m_map.at(m_theta / m_drive.periods, m_i);
        m_out.angle.push_back(m_theta);
        m_out.current.push_back(m_i);
        m_out.linkage.push_back(m_psi);
        m_out.torque.push_back(p.torque);
        m_out.current_peak = std::max(m_out.current_peak, m_i);
    }

    void stretch(double end, bool on) {
        while (m_theta < end - 1e-12) {
            const double h = std::min(m_step, end - m_theta);
            if (!on && m_i <= 0) {
                m_i = m_psi = 0;
                advance(h, 0, 0);
            } else if (on && m_i >= m_limit * (1 - 1e-9)) {
                hold(h);
            } else {
                free(h, on ? m_drive.bridge.dc : -m_drive.bridge.dc, on);
            }
        }
    }

    /// At a given voltage, as far as the limit or the current's end.
    void free(double h, double v, bool on) {
        const auto trial = [&](double step) {
            const double dt = step / m_omega, middle = m_psi + dt / 2 * (v - m_drive.resistance * m_i),
                         i = current(m_theta + step / 2, middle, m_i);
            return std::pair{m_psi + dt * (v - m_drive.resistance * i), i};
        };
        auto [psi, middle] = trial(h);
        double next = current(m_theta + h, psi, middle);
        const double bound = on ? m_limit : 0;
        const auto over = [&](double i) { return on ? i - bound : bound - i; };
        // The crossing by false position, twice.
        for (int n = 0; n < 2 && over(next) > 1e-6 * m_limit; ++n) {
            h *= std::clamp((bound - m_i) / (next - m_i), 1e-3, 1.0);
            std::tie(psi, middle) = trial(h);
            next = current(m_theta + h, psi, middle);
        }
        const double i = over(next) > -1e-4 * m_limit && over(next) < 1e-2 * m_limit ? bound : next;
        m_psi = i == bound && !on ? 0 : psi;
        m_next = std::max(0.0, i);
        advance(h, v, middle);
    }

    void hold(double h) {
        const double ahead = linkage(m_theta + h, m_limit);
        const double v = m_drive.resistance * m_limit + (ahead - m_psi) / h * m_omega;
        if (v > m_drive.bridge.dc) {
            free(h, m_drive.bridge.dc, true);
            return;
        }
        m_psi = ahead;
        m_next = m_limit;
        advance(h, v, m_limit);
    }

    void advance(double h, double v, double middle) {
        const double dt = h / m_omega, before = m_out.torque.back(), first = m_i;
        m_theta += h;
        m_i = v == 0 && middle == 0 ? 0 : m_next;
        keep();
        m_work += dt * (before + m_out.torque.back()) / 2;
        const double square = (first * first + 4 * middle * middle + m_i * m_i) / 6;
        m_square += dt * square;
        m_input += dt * v * (first + 4 * middle + m_i) / 6;
    }

    void finish() {
        const double length = 2 * pi / m_omega, n = m_drive.phases;
        m_out.torque_mean = n * m_work / length;
        m_out.current_rms = std::sqrt(m_square / length);
        m_out.copper = n * m_drive.resistance * m_square / length;
        m_out.input = n * m_input / length;
    }

    const LinkageMap& m_map;
    const StrokeDrive& m_drive;
    double m_limit, m_omega, m_step;
    double m_theta = 0, m_psi = 0, m_i = 0, m_next = 0;
    double m_input = 0, m_work = 0, m_square = 0;
    IdealStroke m_out;
};

} // namespace

double IdealStroke::ripple(int phases) const {
    return ripple_of_phases({angle, torque}, phases, ripple_points);
}

IdealStroke ideal_stroke(const LinkageMap& map, const StrokeDrive& drive, double limit) {
    return Runner(map, drive, limit).run();
}

} // namespace mavlo
