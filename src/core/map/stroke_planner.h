#pragma once
// Which angles and current give a switched machine a torque at a speed, and at what loss.

#include "figure/balance.h"
#include "map/drive.h"
#include "map/ideal_stroke.h"

namespace mavlo {

/// Loss in the iron of any stroke from that of one whose fields were solved. The flux of a pole stands for all
/// of it: hysteresis goes with the square of its peak, classical and excess loss with the mean powers 2 and 1.5
/// of its rate (the sums of figure/loss.h, taken in proportion).
class StrokeIron {
  public:
    StrokeIron() = default; ///< no loss
    StrokeIron(const StrokePeriod& solved, const FieldLosses& losses);
    /// Of stator and rotor, W, at an electrical frequency (Hz).
    std::pair<double, double> at(const IdealStroke& stroke, double frequency) const;

  private:
    struct Flux {
        double peak = 0, square = 0, power = 0;
    };
    static Flux flux_of(const std::vector<double>& angle, const std::vector<double>& linkage);
    Flux m_solved{};
    IronLoss m_stator{}, m_rotor{};
};

struct StrokePoint : OperatingPoint {
    double turn_on = 0, turn_off = 0; ///< rad mechanical, from the aligned position
    double chop = 0;                  ///< A, at which the current is held
    double current_rms = 0, current_peak = 0;
};

struct StrokePlan {
    double speed = 0;                             ///< rad/s
    std::vector<std::vector<StrokePoint>> points; ///< of each pair of angles, by rising current
};

/// Currents are held at a limit without ripple (ideal_stroke); at high speed they never reach it.
class StrokePlanner {
  public:
    StrokePlanner(const Machine& machine, const LinkageMap& map, StrokeDrive drive, StrokeIron iron,
                  double max_current, Aim aim);

    /// All pairs of angles on a grid and currents, as motor (sign 1) or generator (-1).
    StrokePlan plan(double speed, int sign) const;
    std::optional<StrokePoint> strongest(const StrokePlan& plan, int sign) const;
    /// The best of the plan for a torque, its current then found for it; empty where none gives so much.
    std::optional<StrokePoint> best(const StrokePlan& plan, double torque) const;

  private:
    std::optional<StrokePoint> run(double speed, double on, double off, double chop) const;
    std::optional<StrokePoint> held_at(double speed, double size, double on, double off, double chop) const;
    /// Whether the current passes its limit: a generator's may rise after the switches have opened.
    bool exceeds(const StrokePoint& point) const;
    double cost(const StrokePoint& point) const;

    const Machine& m_machine;
    const LinkageMap& m_map;
    StrokeDrive m_drive;
    StrokeIron m_iron;
    double m_max_current;
    Aim m_aim;
    LossParts m_unknown;
};

} // namespace mavlo
