#include "map/stroke_planner.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr double levels[] = {0.1, 0.2, 0.35, 0.55, 0.8, 1}; ///< of the largest current
constexpr double close_enough = 2e-3;                       ///< of the wanted torque
constexpr int angle_steps = 24;                             ///< of a period
constexpr double overshoot = 1.01; ///< of the largest current: what the steps of a stroke may leave undecided

} // namespace

StrokeIron::StrokeIron(const StrokePeriod& solved, const FieldLosses& losses)
    : m_stator(losses.stator)
    , m_rotor(losses.rotor) {
    std::vector<double> angle, linkage;
    for (const NetworkSample& s : solved.samples) {
        angle.push_back(s.rotor.angle);
        linkage.push_back(s.linkage[0]);
    }
    m_solved = flux_of(angle, linkage);
}

StrokeIron::Flux StrokeIron::flux_of(const std::vector<double>& angle, const std::vector<double>& linkage) {
    Flux flux;
    for (std::size_t k = 1; k < angle.size(); ++k) {
        flux.peak = std::max(flux.peak, linkage[k]);
        const double step = (angle[k] - angle[k - 1]) / (2 * pi);
        if (step < 1e-12) continue;
        const double rate = std::abs(linkage[k] - linkage[k - 1]) / step;
        flux.square += step * rate * rate;
        flux.power += step * rate * std::sqrt(rate);
    }
    return flux;
}

std::pair<double, double> StrokeIron::at(const IdealStroke& stroke, double f) const {
    if (m_solved.peak <= 0) return {0, 0};
    const Flux flux = flux_of(stroke.angle, stroke.linkage);
    const double peak = std::pow(flux.peak / m_solved.peak, 2), square = flux.square / m_solved.square,
                 power = flux.power / m_solved.power;
    const auto of = [&](const IronLoss& loss) {
        IronLoss here{loss.hysteresis * peak, loss.classical * square, loss.excess * power, loss.power,
                      loss.skin};
        for (IronLoss::Power& p : here.power) p.loss *= std::pow(square, p.alpha / 2);
        return here.at(f);
    };
    return {of(m_stator), of(m_rotor)};
}

StrokePlanner::StrokePlanner(const Machine& machine, const LinkageMap& map, StrokeDrive drive, StrokeIron iron,
                             double max_current, Aim aim)
    : m_machine(machine)
    , m_map(map)
    , m_drive(std::move(drive))
    , m_iron(iron)
    , m_max_current(max_current)
    , m_aim(aim)
    , m_unknown(unknown_losses(machine)) {
    m_drive.steps = 180;
}

std::optional<StrokePoint> StrokePlanner::run(double speed, double on, double off, double chop) const {
    StrokeDrive drive = m_drive;
    drive.speed = speed;
    drive.stroke.turn_on = on;
    drive.stroke.turn_off = off;
    const IdealStroke stroke = ideal_stroke(m_map, drive, chop);
    if (!stroke.periodic) return std::nullopt;
    StrokePoint p;
    p.speed = speed;
    p.torque = stroke.torque_mean;
    p.ripple = stroke.ripple(drive.phases);
    p.turn_on = on;
    p.turn_off = off;
    p.chop = chop;
    p.current_rms = stroke.current_rms;
    p.current_peak = stroke.current_peak;
    p.power[LossPart::Copper] = p.power.copper_dc = stroke.copper;
    std::tie(p.power[LossPart::IronStator], p.power[LossPart::IronRotor]) =
        m_iron.at(stroke, drive.periods * speed / (2 * pi));
    p.power.set(mechanical_loss(m_machine, speed));
    p.power.unknown = m_unknown;
    p.power.air_gap = stroke.torque_mean * speed;
    p.power.electrical = stroke.input;
    return p;
}

double StrokePlanner::cost(const StrokePoint& p) const {
    switch (m_aim) {
    case Aim::LeastCurrent:
        return p.current_rms;
    case Aim::LeastRipple:
        return p.ripple;
    case Aim::LeastLoss:
        break;
    }
    return p.power.known_total();
}

StrokePlan StrokePlanner::plan(double speed, int sign) const {
    StrokePlan plan{speed, {}};
    const double period = 2 * pi / m_drive.periods, step = period / angle_steps, most = m_max_current;
    // Motors are on while the inductance rises, generators while it falls.
    const double first = sign > 0 ? -0.5 * period : -0.2 * period,
                 last = sign > 0 ? -0.08 * period : 0.2 * period,
                 latest = sign > 0 ? 0.08 * period : 0.4 * period;
    const auto steps = [&](double from, double to) { return int((to - from) / step + 1e-6); };
    for (int i = 0; i <= steps(first, last); ++i) {
        const double on = first + i * step;
        for (int k = 2; k <= steps(on, std::min(latest, on + 0.5 * period)); ++k) {
            const double off = on + k * step;
            std::vector<StrokePoint> row;
            for (double level : levels) {
                const auto point = run(speed, on, off, level * most);
                if (!point || exceeds(*point)) break;
                if (point->torque * sign > 0) row.push_back(*point);
                if (point->current_peak < 0.97 * level * most) break; // a single pulse: more changes nothing
            }
            if (!row.empty()) plan.points.push_back(std::move(row));
        }
    }
    return plan;
}

std::optional<StrokePoint> StrokePlanner::strongest(const StrokePlan& plan, int sign) const {
    std::optional<StrokePoint> most;
    for (const auto& row : plan.points)
        for (const StrokePoint& p : row)
            if (!most || p.torque * sign > most->torque * sign) most = p;
    return most;
}

std::optional<StrokePoint> StrokePlanner::best(const StrokePlan& plan, double torque) const {
    const double size = std::abs(torque);
    struct Guess {
        double cost, chop, on, off;
    };
    std::vector<Guess> guesses;
    for (const auto& row : plan.points) {
        // Below the smallest current everything goes with its square, as in a field without saturation.
        const StrokePoint& least = row.front();
        if (std::abs(least.torque) >= size) {
            const double share = size / std::abs(least.torque);
            guesses.push_back(
                {share * cost(least), std::sqrt(share) * least.chop, least.turn_on, least.turn_off});
            continue;
        }
        for (std::size_t k = 1; k < row.size(); ++k) {
            const double low = std::abs(row[k - 1].torque), high = std::abs(row[k].torque);
            if (!(low < size && size <= high)) continue;
            const double share = (size - low) / (high - low);
            guesses.push_back({cost(row[k - 1]) + share * (cost(row[k]) - cost(row[k - 1])),
                               row[k - 1].chop + share * (row[k].chop - row[k - 1].chop), row[k].turn_on,
                               row[k].turn_off});
            break;
        }
    }
    std::sort(guesses.begin(), guesses.end(), [](const Guess& a, const Guess& b) { return a.cost < b.cost; });
    for (std::size_t g = 0; g < std::min<std::size_t>(guesses.size(), 3); ++g)
        if (const auto found = held_at(plan.speed, size, guesses[g].on, guesses[g].off, guesses[g].chop);
            found && !exceeds(*found))
            return found;
    return std::nullopt;
}

/// The current that gives a torque of this size between two angles, from a guess on; the torque rises with it.
std::optional<StrokePoint> StrokePlanner::held_at(double speed, double size, double on, double off,
                                                  double chop) const {
    double low = 0, high = m_max_current, low_torque = 0, high_torque = -1;
    for (int n = 0; n < 16; ++n) {
        const auto found = run(speed, on, off, chop);
        if (!found) return std::nullopt;
        const double here = std::abs(found->torque);
        if (std::abs(here - size) < close_enough * size) return found;
        if (here < size)
            low = chop, low_torque = here;
        else
            high = chop, high_torque = here;
        const double next = high_torque < 0
                                ? chop * std::pow(size / here, 0.7)
                                : low + (high - low) * (size - low_torque) / (high_torque - low_torque);
        const bool within = next > low + 0.02 * (high - low) && next < high - 0.02 * (high - low);
        chop = within ? next : (low + high) / 2;
    }
    return std::nullopt;
}

bool StrokePlanner::exceeds(const StrokePoint& p) const {
    return p.current_peak > overshoot * m_max_current;
}

} // namespace mavlo
