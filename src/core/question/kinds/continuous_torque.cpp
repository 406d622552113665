// What the machine bears for good over speed: the torque at which winding or magnets reach their limit.

#include "heat/heat_responses.h"
#include "quantity/constants.h"
#include "question/drive_inputs.h"
#include "question/heat_setup.h"
#include "question/unknown_losses.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_continuous_torque {
namespace {

constexpr double zero_celsius = 273.15;
constexpr int film_rounds = 3, coupling_rounds = 60, halvings = 24;

constexpr double no_limit = 1e9; ///< K
struct Limits {
    double winding = no_limit, magnets = no_limit; ///< K
};
enum class Which { Winding, Magnets, Both };

HeatLosses losses_of(const OperatingPoint& point, double slot_share) {
    HeatLosses out;
    for (LossPart part : all_loss_parts)
        if (const double watts = point.power.known(part); watts > 0 && part != LossPart::Copper &&
                                                          part != LossPart::WindingStray &&
                                                          part != LossPart::Switches)
            out.watts[part] = watts;
    const double direct = point.power.copper_dc;
    out.slots = slot_share * direct;
    out.ends = (1 - slot_share) * direct;
    return out;
}

/// Of one speed: what the drive gives, and what is borne for good; empty where not even idling is.
struct Borne {
    std::optional<OperatingPoint> drive, both, winding, magnets;
};

class Envelope {
  public:
    Envelope(const QuestionContext& context, const Drive& drive, Limits limits,
             std::shared_ptr<const MachineModel> model, CoolingData cooling)
        : c(context)
        , m_drive(drive)
        , m_limits(limits)
        , m_model(std::move(model))
        , m_cooling(std::move(cooling)) {}

    Result<Borne> at(double speed) const {
        Borne out;
        out.drive = m_drive.strongest(speed);
        if (!out.drive) return out;
        auto model = MachineHeatModel::of(m_model, m_cooling, speed);
        if (!model) return model.problems();
        const double share = (*model)->slot_share();
        HeatLosses guess = losses_of(*out.drive, share);
        for (int round = 0; round < film_rounds; ++round) {
            if (const auto heat = (*model)->steady(guess); !heat) return heat.problems();
            const auto responses = HeatResponses::of(**model, guess);
            if (!responses) return responses.problems();
            const auto within = [&](Which which) {
                return strongest_within(*responses, share, speed, *out.drive, which);
            };
            out.both = within(Which::Both);
            if (round + 1 == film_rounds) {
                out.winding = within(Which::Winding);
                out.magnets = within(Which::Magnets);
            }
            if (!out.both) break;
            guess = coupled(*responses, share, *out.both).value_or(losses_of(*out.both, share));
        }
        return out;
    }

  private:
    /// The losses of a point with the winding as warm as they make it; empty where they run away.
    std::optional<HeatLosses> coupled(const HeatResponses& responses, double share,
                                      const OperatingPoint& point) const {
        HeatLosses losses = losses_of(point, share);
        const WindingLoss winding{losses.slots, losses.ends,
                                  std::max(0.0, point.power.known(LossPart::Copper) - point.power.copper_dc) +
                                      point.power.known(LossPart::WindingStray),
                                  c.machine.winding.temperature};
        double before = 0;
        for (int k = 0; k < coupling_rounds; ++k) {
            const double slots = responses.slots(losses);
            if (!(slots < 1500)) return std::nullopt;
            const WindingHeat w =
                winding_heat(winding, c.machine.winding.conductor_material, slots, responses.ends(losses));
            losses.slots = w.slots;
            losses.ends = w.ends;
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
    Limits m_limits;
    std::shared_ptr<const MachineModel> m_model;
    CoolingData m_cooling;
};

Limits limits_of(const QuestionContext& c) {
    Limits limits;
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

void tell(QuestionContext& c, const std::optional<OperatingPoint>& at_base, double base, double standstill,
          const Limits& limits) {
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
        limits.magnets < no_limit ? fmt::format(", the magnets {:.4g} °C,", limits.magnets - zero_celsius)
                                  : std::string(),
        c.input("ambient") - zero_celsius);
    tell_unknown_losses(c);
}

Problems run(QuestionContext& c) {
    const auto drive = make_drive(c, drive_limits(c.machine, c.inputs), Aim::LeastLoss);
    if (!drive) return drive.problems();
    auto cooling = cooling_of(c.machine, c.ask.materials);
    if (!cooling) return cooling.problems();
    cooling->ambient = c.input("ambient");
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const Limits limits = limits_of(c);
    const Envelope envelope(c, *drive, limits, *model, *cooling);
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
    add_curves(c.answer, speeds, *borne, limits.magnets < no_limit);
    tell(c, borne->back().both, base, standstill, limits);
    return {};
}

std::vector<QuestionInput> inputs() {
    std::vector<QuestionInput> list{speeds_input()};
    for (auto& input : drive_inputs()) list.push_back(input);
    list.push_back(
        {"ambient", "Ambient", "degC", "= cooling.ambient", "Temperature of the surroundings.", -100, 400});
    QuestionInput winding{
        "winding_limit", "Winding up to", "degC", "auto", "auto: its thermal class.", -100, 1000},
        magnets{"magnet_limit", "Magnets up to", "degC", "auto", "auto: what their grade bears.", -100, 1000};
    winding.auto_allowed = magnets.auto_allowed = true;
    list.push_back(winding);
    list.push_back(magnets);
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
     {need_winding, need_no_shell, need_dq_frame},
     false,
     true}};

} // namespace
} // namespace mavlo::question_continuous_torque
