// What the machine bears for good over speed: the torque at which winding or magnets reach their limit.

#include "heat/heat_responses.h"
#include "quantity/constants.h"
#include "question/drive_inputs.h"
#include "question/heat_setup.h"
#include "question/overload.h"
#include "question/range_columns.h"
#include "question/unknown_losses.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <mutex>
#include <utility>

namespace mavlo::question_continuous_torque {
namespace {

constexpr int film_rounds = 3, coupling_rounds = 60, halvings = 24, overload_levels = 7, map_rows = 24;
constexpr double same_films = 1e-4; ///< of the torque, between two rounds of films

enum class Which { Winding, Magnets, Both };

/// Of one speed: what the drive gives, and what is borne for good; empty where not even idling is.
struct Borne {
    std::optional<OperatingPoint> drive, both, winding, magnets;
    std::vector<double> for_a_while{}; ///< N.m, for each of the times asked for
};

/// Times to bear overload for, s, and whether the machine is warm from what it bears for good.
struct Whiles {
    std::vector<double> times;
    bool warm = false;
};

class Envelope {
  public:
    Envelope(const QuestionContext& context, const Drive& drive, TemperatureLimits limits,
             std::shared_ptr<const MachineModel> model, CoolingData cooling, Whiles whiles)
        : c(context)
        , m_drive(drive)
        , m_limits(limits)
        , m_model(std::move(model))
        , m_cooling(std::move(cooling))
        , m_whiles(std::move(whiles)) {}

    Result<Borne> at(double speed) const {
        Borne out;
        out.drive = m_drive.strongest(speed);
        if (!out.drive) return out;
        auto model = borrowed(speed);
        if (!model) return model.problems();
        const double share = (*model)->slot_share();
        HeatLosses guess = losses_of(out.drive->power, c.machine, share).as_found();
        double before = out.drive->torque;
        for (int round = 0;; ++round) {
            if (const auto heat = (*model)->steady(guess); !heat) return heat.problems();
            const auto responses = HeatResponses::of(**model, guess);
            if (!responses) return responses.problems();
            const auto within = [&](Which which) {
                return strongest_within(*responses, share, speed, *out.drive, which);
            };
            out.both = within(Which::Both);
            const double now = out.both ? out.both->torque : 0;
            const bool found = std::abs(now - std::exchange(before, now)) <= same_films * out.drive->torque;
            if (!out.both || found || round + 1 == film_rounds) {
                out.winding = within(Which::Winding);
                out.magnets = within(Which::Magnets);
                break;
            }
            guess = coupled(*responses, share, *out.both)
                        .value_or(losses_of(out.both->power, c.machine, share).as_found());
        }
        if (auto problems = add_whiles(**model, out, speed); !problems.empty()) return problems;
        const std::lock_guard lock(m_lock);
        m_idle.push_back(std::move(*model));
        return out;
    }

  private:
    /// One that is not in use, at this speed.
    Result<std::unique_ptr<MachineHeatModel>> borrowed(double speed) const {
        std::unique_ptr<MachineHeatModel> model;
        {
            const std::lock_guard lock(m_lock);
            if (!m_idle.empty()) {
                model = std::move(m_idle.back());
                m_idle.pop_back();
            }
        }
        if (!model) return MachineHeatModel::of(m_model, m_cooling, speed);
        model->set_speed(speed);
        return model;
    }

    /// The torques from what is borne for good up to the drive's, and how long each is borne.
    Problems add_whiles(MachineHeatModel& model, Borne& out, double speed) const {
        if (m_whiles.times.empty()) return {};
        const auto overload = Overload::of(model, c.machine.winding.conductor_material, m_limits);
        if (!overload) return overload.problems();
        Eigen::VectorXd from = overload->cold();
        if (const auto before =
                m_whiles.warm && out.both ? m_drive.best(torque_before(*out.both), speed) : std::nullopt) {
            const auto responses = HeatResponses::of(model, losses_of(before->power, c.machine, 1).as_found());
            if (!responses) return responses.problems();
            const auto losses = coupled(*responses, model.slot_share(), *before);
            const auto warm = overload->warm(model, losses.value_or(HeatLosses{}));
            if (!warm) return warm.problems();
            from = *warm;
        }
        const double low = out.both ? out.both->torque : 0, high = out.drive->torque,
                     longest = 1.5 * m_whiles.times.back();
        std::vector<double> torques, times;
        for (int k = 0; k <= overload_levels; ++k) {
            const double torque = low + (high - low) * k / overload_levels;
            const auto point = k == overload_levels ? out.drive : m_drive.best(torque, speed);
            if (!point) continue;
            const auto time =
                overload->time(model, losses_of(point->power, c.machine, model.slot_share()), from, longest);
            if (!time) return time.problems();
            torques.push_back(torque);
            times.push_back(*time);
        }
        for (double wanted : m_whiles.times) out.for_a_while.push_back(torque_for(wanted, torques, times));
        return {};
    }

    /// The rated torque; where there is none, half of what is borne for good.
    double torque_before(const OperatingPoint& for_good) const {
        return std::min(c.machine.rating.torque.value_or(for_good.torque / 2), for_good.torque);
    }

    /// Between the levels by the logarithm of the time.
    static double torque_for(double wanted, const std::vector<double>& torques,
                             const std::vector<double>& times) {
        if (torques.empty() || times.front() < wanted) return torques.empty() ? 0 : torques.front();
        for (std::size_t k = 1; k < torques.size(); ++k) {
            if (times[k] >= wanted) continue;
            const double a = std::log(times[k - 1]), b = std::log(std::max(times[k], 1e-3));
            return torques[k - 1] + (torques[k] - torques[k - 1]) * (a - std::log(wanted)) / (a - b);
        }
        return torques.back();
    }

    /// The losses of a point with the winding as warm as they make it; empty where they run away.
    std::optional<HeatLosses> coupled(const HeatResponses& responses, double share,
                                      const OperatingPoint& point) const {
        const KnownLosses known = losses_of(point.power, c.machine, share);
        HeatLosses losses = known.as_found();
        double before = 0;
        for (int k = 0; k < coupling_rounds; ++k) {
            const double slots = responses.slots(losses);
            if (!(slots < 1500)) return std::nullopt;
            const WindingHeat w = winding_heat(known.winding, c.machine.winding.conductor_material, slots,
                                               responses.ends(losses));
            losses.slots = w.slots;
            losses.ends = w.ends;
            losses.added = w.added;
            if (std::abs(slots - before) < 1e-3) return losses;
            before = slots;
        }
        return std::nullopt;
    }

    bool bears(const HeatResponses& responses, double share, const OperatingPoint& point, Which which) const {
        const auto losses = coupled(responses, share, point);
        return losses && (which == Which::Magnets || responses.winding_highest(*losses) <= m_limits.winding) &&
               (which == Which::Winding || responses.magnets_highest(*losses) <= m_limits.magnets);
    }

    std::optional<OperatingPoint> strongest_within(const HeatResponses& responses, double share, double speed,
                                                   const OperatingPoint& most, Which which) const {
        if (bears(responses, share, most, which)) return most;
        const auto idle = m_drive.best(0, speed);
        if (!idle || !bears(responses, share, *idle, which)) return std::nullopt;
        double low = 0, high = most.torque;
        OperatingPoint best = *idle;
        for (int k = 0; k < halvings && high - low > 1e-4 * most.torque; ++k) {
            const double middle = (low + high) / 2;
            const auto point = m_drive.best(middle, speed);
            if (point && bears(responses, share, *point, which)) {
                low = middle;
                best = *point;
            } else {
                high = middle;
            }
        }
        return best;
    }

    const QuestionContext& c;
    const Drive& m_drive;
    TemperatureLimits m_limits;
    std::shared_ptr<const MachineModel> m_model;
    CoolingData m_cooling;
    Whiles m_whiles;
    mutable std::mutex m_lock;
    mutable std::vector<std::unique_ptr<MachineHeatModel>> m_idle;
};

TemperatureLimits limits_of(const QuestionContext& c) {
    TemperatureLimits limits;
    const double winding = c.input("winding_limit"), magnets = c.input("magnet_limit");
    limits.winding = std::isnan(winding) ? insulation_limit(c.machine.values).value() : winding;
    const Substance* magnet = c.machine.magnet();
    if (!std::isnan(magnets))
        limits.magnets = magnets;
    else if (magnet && magnet->material.highest_temperature > 0)
        limits.magnets = magnet->material.highest_temperature;
    return limits;
}

Curve over_speed(const char* name, const char* unit) {
    return {name, unit, "speed", "rpm", {}, {}};
}

/// Speeds up to where voltage or drag leaves nothing.
std::vector<double> reached(const QuestionContext& c, const Drive& drive) {
    std::vector<double> speeds = c.inputs.list("speeds");
    const auto out_of_reach = std::find_if(speeds.begin(), speeds.end(), [&](double speed) {
        const auto most = drive.strongest(speed);
        return !most || (speed > 0 && most->power.known_shaft() <= 0);
    });
    speeds.erase(out_of_reach, speeds.end());
    return speeds;
}

Result<std::vector<Borne>> borne_at(const QuestionContext& c, const Envelope& envelope,
                                    const std::vector<double>& speeds) {
    std::vector<Borne> borne(speeds.size());
    std::vector<Problems> problems(speeds.size());
    on_threads(int(speeds.size()), c.threads, [&](int k) {
        if (c.watch.stop.stop_requested()) return;
        auto found = envelope.at(speeds[std::size_t(k)]);
        if (found)
            borne[std::size_t(k)] = std::move(*found);
        else
            problems[std::size_t(k)] = found.problems();
    });
    if (c.watch.stop.stop_requested()) return stopped();
    for (const Problems& p : problems)
        if (!p.empty()) return p;
    return borne;
}

void add_curves(Answer& answer, const std::vector<double>& speeds, const std::vector<Borne>& borne,
                bool magnets) {
    struct Column {
        const char *name, *unit;
        std::optional<OperatingPoint> Borne::*point;
        bool power;
    };
    const Column columns[] = {{"torque", "N.m", &Borne::both, false},
                              {"power", "W", &Borne::both, true},
                              {"torque_winding", "N.m", &Borne::winding, false},
                              {"torque_drive", "N.m", &Borne::drive, false},
                              {"torque_magnet_limit", "N.m", &Borne::magnets, false}};
    for (const Column& column : columns) {
        if (column.point == &Borne::magnets && !magnets) continue;
        Curve curve = over_speed(column.name, column.unit);
        for (std::size_t k = 0; k < speeds.size(); ++k) {
            const auto& point = borne[k].*column.point;
            curve.x.push_back(speeds[k] / rpm);
            curve.y.push_back(!point ? 0 : column.power ? point->power.known_shaft() : point->torque);
        }
        answer.curves.push_back(std::move(curve));
    }
}

/// Torques that are borne for a while, one curve a time.
void add_whiles(Answer& answer, const std::vector<double>& speeds, const std::vector<Borne>& borne,
                const Whiles& whiles) {
    for (std::size_t n = 0; n < whiles.times.size(); ++n) {
        Curve curve = over_speed("", "N.m");
        curve.name = fmt::format("torque_for_{:.6g}_s", whiles.times[n]);
        for (std::size_t k = 0; k < speeds.size(); ++k) {
            curve.x.push_back(speeds[k] / rpm);
            curve.y.push_back(n < borne[k].for_a_while.size() ? borne[k].for_a_while[n] : 0);
        }
        answer.curves.push_back(std::move(curve));
    }
}

/// What the limits are drawn over.
Problems add_efficiency(QuestionContext& c, const Drive& drive, const std::vector<double>& speeds,
                        double most) {
    Map map{"efficiency", "1", "speed", "rpm", "torque", "N.m", {}, {}, {}};
    for (double speed : speeds) map.x.push_back(speed / rpm);
    std::vector<std::vector<double>> rows(map_rows);
    on_threads(map_rows, c.threads, [&](int k) {
        const TorqueContour contour = drive.contour(most * (k + 1) / map_rows);
        for (double speed : speeds) {
            const auto point = c.watch.stop.stop_requested() ? std::nullopt : drive.best(contour, speed);
            rows[std::size_t(k)].push_back(point ? point->power.efficiency().value_or(nothing) : nothing);
        }
    });
    if (c.watch.stop.stop_requested()) return {stopped()};
    for (int k = 0; k < map_rows; ++k) map.y.push_back(most * (k + 1) / map_rows);
    map.z = std::move(rows);
    c.answer.maps.push_back(std::move(map));
    return {};
}

std::string whiles_in_words(const Whiles& whiles) {
    if (whiles.times.empty()) return "";
    return fmt::format(
        " Torques for a while are borne from {} on, by lumped bodies whose hottest places stand "
        "above their means as they do in the end.",
        whiles.warm ? "the temperatures of the rated torque (without one, of half of what is borne for good)"
                    : "the cold");
}

void tell(QuestionContext& c, const std::optional<OperatingPoint>& at_base, double base, double standstill,
          const TemperatureLimits& limits) {
    const auto value = [&](auto of) { return at_base ? std::optional<double>(of(*at_base)) : std::nullopt; };
    const auto& power = c.answer.curve("power")->y;
    c.answer.figures = {
        {"torque_at_base_speed", value([](const OperatingPoint& p) { return p.torque; }), "N.m"},
        {"power_at_base_speed", value([](const OperatingPoint& p) { return p.power.known_shaft(); }), "W"},
        {"current_at_base_speed", value([](const OperatingPoint& p) { return p.amplitude(); }), "A"},
        {"base_speed", base / rpm, "rpm"},
        {"max_torque", standstill, "N.m"},
        {"continuous_power", *std::max_element(power.begin(), power.end()), "W"}};
    c.answer.sentence = fmt::format(
        "{} at the base speed of {:.4g} rpm for good, {:.4g} N·m for a while; the winding may reach {:.4g} "
        "°C{} at {:.4g} °C "
        "around. From the flux map; the magnets keep the temperature of their design.",
        at_base ? fmt::format("{:.4g} N·m", at_base->torque) : std::string("Nothing"), base / rpm, standstill,
        limits.winding - zero_celsius,
        limits.magnets < TemperatureLimits::none
            ? fmt::format(", the magnets {:.4g} °C,", limits.magnets - zero_celsius)
            : std::string(),
        c.input("ambient") - zero_celsius);
    tell_unknown_losses(c);
}

Problems run(QuestionContext& c) {
    const auto drive = make_drive(c, drive_limits(c.machine, c.inputs), Aim::LeastLoss);
    if (!drive) return drive.problems();
    auto cooling = cooling_in(c);
    if (!cooling) return cooling.problems();
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const TemperatureLimits limits = limits_of(c);
    const Whiles whiles{c.inputs.list("overload_times").empty() ? std::vector<double>{60, 300, 1800}
                                                                : c.inputs.list("overload_times"),
                        c.inputs.word("overload_from") == "warm"};
    const Envelope envelope(c, *drive, limits, *model, *cooling, whiles);
    std::vector<double> speeds = reached(c, *drive);
    if (speeds.empty())
        return {
            {"--with dc_voltage",
             "Even at the lowest speed the voltage does not suffice; raise the voltage or lower the speeds."}};
    const double standstill = drive->strongest(0)->torque, base = base_speed(*drive, standstill, speeds.back());
    std::vector<double> all = speeds;
    all.push_back(base);
    const auto borne = borne_at(c, envelope, all);
    if (!borne) return borne.problems();
    add_curves(c.answer, speeds, *borne, limits.magnets < TemperatureLimits::none);
    add_whiles(c.answer, speeds, *borne, whiles);
    if (auto problems = add_efficiency(c, *drive, speeds, standstill); !problems.empty()) return problems;
    tell(c, borne->back().both, base, standstill, limits);
    c.answer.sentence += whiles_in_words(whiles);
    return {};
}

std::vector<QuestionInput> inputs() {
    std::vector<QuestionInput> list{speeds_input()};
    for (auto& input : drive_inputs()) list.push_back(input);
    list.push_back(
        {"ambient", "Ambient", "degC", "= cooling.ambient", "Temperature of the surroundings.", -100, 400});
    list.push_back(walls_input());
    QuestionInput winding{
        "winding_limit", "Winding up to", "degC", "auto", "auto: its thermal class.", -100, 1000},
        magnets{"magnet_limit", "Magnets up to", "degC", "auto", "auto: what their grade bears.", -100, 1000};
    winding.auto_allowed = magnets.auto_allowed = true;
    list.push_back(winding);
    list.push_back(magnets);
    list.push_back(auto_list_input("overload_times", "Overload for", "min",
                                   "Times whose torques are told, too; auto: 1, 5 and 30 min.", 0.01, 1440));
    QuestionInput from{"overload_from", "Overload from", "", "cold",
                       "cold: from the machine without losses; warm: from the temperatures of its rated torque "
                       "(without one, of half of what it bears for good)."};
    from.kind = InputKind::Choice;
    from.words = {"cold", "warm"};
    list.push_back(from);
    return list;
}

const RegisterQuestion registered{
    {"continuous-torque",
     "Heat",
     "Torque for good",
     "The torque and power at every speed that winding and magnets bear for good.",
     inputs(),
     drive_solves,
     run,
     102,
     {need_round, need_winding, need_no_shell, need_dq_frame},
     false,
     true}};

} // namespace
} // namespace mavlo::question_continuous_torque
