// Temperatures over time: constant load, duty types, a table of load.

#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "question/drive_inputs.h"
#include "question/duty.h"
#include "question/heat_duty.h"
#include "question/heat_lumps.h"
#include "question/heat_setup.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <memory>
#include <set>

namespace mavlo::question_heat_up {
namespace {

constexpr int points_of_curve = 400;

/// A speed of the duty: its bodies, and what else there is at it.
struct AtSpeed {
    std::unique_ptr<MachineHeatModel> model;
    HeatLumps lumps;
};
/// What a stretch of the duty loses: the winding's by its law, all else as it is.
struct StretchLoss {
    DutyStretch stretch;
    KnownLosses known;
    Eigen::VectorXd other{}; ///< W in the bodies
};

class Course {
  public:
    explicit Course(QuestionContext& context)
        : c(context) {}

    Problems run() {
        auto duty = read_heat_duty(c.inputs.word("duty"));
        if (!duty) return duty.problems();
        m_duty = std::move(*duty);
        if (auto problems = find_losses(); !problems.empty()) return problems;
        if (auto problems = find_networks(); !problems.empty()) return problems;
        if (auto problems = find_limit(); !problems.empty()) return problems;
        follow();
        tell();
        return {};
    }

  private:
    double speed_of(const DutyStretch& s) const { return s.speed.value_or(c.input("speed")); }
    const HeatLumps& lumps_of(const StretchLoss& s) const { return m_speeds.at(speed_of(s.stretch)).lumps; }
    const HeatLumps& lumps() const { return lumps_of(m_losses.front()); } ///< bodies are those of any speed

    /// A model of each speed, and what each stretch loses.
    Problems find_losses() {
        std::map<double, KnownLosses> known;
        for (const DutyStretch& s : m_duty.cycle) {
            const double speed = speed_of(s);
            auto& model = m_speeds[speed].model;
            if (!model) {
                auto made = heat_model(c, speed);
                if (!made) return made.problems();
                model = std::move(*made);
            }
            if (!model->has(HeatPart::Winding))
                return {{"stator.slot.kind", "Duty is that of a winding; a stator without slots has none."}};
            if (s.torque) {
                auto losses = losses_by_map(s, speed, model->slot_share());
                if (!losses) return losses.problems();
                m_losses.push_back({s, std::move(*losses)});
                continue;
            }
            // At rest and without current nothing but the winding could lose anything.
            const double asked = s.at_rest() ? c.input("speed") : speed;
            if (!known.contains(asked)) {
                auto losses = known_losses(c, *model, asked);
                if (!losses) return losses.problems();
                known[asked] = std::move(*losses);
            }
            m_losses.push_back({s, known.at(asked)});
            if (s.at_rest()) m_losses.back().known.other = {};
        }
        m_words = m_losses.front().known.words;
        return {};
    }

    Result<KnownLosses> losses_by_map(const DutyStretch& s, double speed, double slot_share) {
        if (!(speed > 0))
            return Problem{"--with duty",
                           "A torque is lost at a speed; at standstill give a current, or rest."};
        if (!m_drive) {
            for (const Need& need : {need_round, need_no_shell, need_dq_frame})
                if (!need.met(c.machine.facts()))
                    return Problem{"--with duty",
                                   "Torques go by the flux map, which this machine has not; give "
                                   "the duty's currents over the load's."};
            auto drive = make_drive(c, drive_limits(c.machine, c.inputs), Aim::LeastLoss);
            if (!drive) return drive.problems();
            m_drive = std::make_unique<Drive>(std::move(*drive));
        }
        const auto point = at_shaft_torque([&](double torque, double at) { return m_drive->best(torque, at); },
                                           *s.torque, speed);
        if (!point)
            return Problem{"--with duty", fmt::format("{:.4g} N·m at {:.4g} rpm lie beyond what current and "
                                                      "voltage give.",
                                                      *s.torque, speed / rpm)};
        KnownLosses losses = losses_of(point->power, c.machine, slot_share);
        losses.words = "Losses of torques from the flux map, currents chosen for least loss.";
        return losses;
    }

    /// Over the whole duty: what the films stand at.
    KnownLosses mean_losses() const {
        KnownLosses mean;
        const double whole = std::max(m_duty.cycle_time(), 1e-9);
        for (const StretchLoss& s : m_losses)
            mean.add(s.known, s.stretch.seconds > 0 ? s.stretch.seconds / whole : 1,
                     s.stretch.torque ? 1 : s.stretch.current);
        return mean;
    }

    Problems find_networks() {
        const KnownLosses mean = mean_losses();
        KnownLosses winding_alone = mean;
        winding_alone.other = {};
        for (auto& [speed, at] : m_speeds) {
            // Where the mean runs away the films are those of the temperatures before it does.
            const auto coupled =
                coupled_heat(*at.model, speed > 0 ? mean : winding_alone, c.machine.winding.conductor_material);
            if (!coupled) return coupled.problems();
            for (const std::string& words : coupled->heat.notes)
                if (std::find(m_notes.begin(), m_notes.end(), words) == m_notes.end()) m_notes.push_back(words);
            auto lumps = HeatLumps::of(*at.model);
            if (!lumps) return lumps.problems();
            at.lumps = std::move(*lumps);
        }
        for (StretchLoss& s : m_losses) {
            const AtSpeed& at = m_speeds.at(speed_of(s.stretch));
            auto other = at.lumps.powers(*at.model, s.known.other);
            if (!other) return other.problems();
            s.other = std::move(*other);
        }
        return {};
    }

    LossLawOfHeat law(const StretchLoss& s) const {
        const LossLawOfHeat winding = winding_law(s.known.winding, c.machine.winding.conductor_material,
                                                  s.stretch.torque ? 1 : s.stretch.current,
                                                  index(HeatPart::Winding), index(HeatPart::Ends));
        return [winding, other = s.other](const Eigen::VectorXd& t, Eigen::MatrixXd* slope) {
            return Eigen::VectorXd(other + winding(t, slope));
        };
    }

    Eigen::Index index(HeatPart part) const { return lumps().index(part); }

    /// "winding=155 degC": the part, and the temperature it may reach.
    Problems find_limit() {
        const std::string text(trim(c.inputs.word("until")));
        m_limit = {HeatPart::Winding, insulation_limit(c.machine.values).value_or(1e9)};
        if (text.empty() || text == "auto") return {};
        const std::size_t equals = text.find('=');
        const std::pair<const char*, HeatPart> names[] = {{"winding", HeatPart::Winding},
                                                          {"magnets", HeatPart::Magnets},
                                                          {"housing", HeatPart::Housing},
                                                          {"bearings", HeatPart::Bearings},
                                                          {"cage", HeatPart::Bars}};
        const auto value = parse_quantity(equals == std::string::npos ? text : text.substr(equals + 1));
        if (!value || value->dimension != dimension::temperature)
            return {{"--with until",
                     fmt::format("\"{}\" is no limit; write winding=155 degC or magnets=100 degC.", text)}};
        m_limit.second = value->si;
        if (equals == std::string::npos) return {};
        const std::string name(trim(text.substr(0, equals)));
        for (const auto& [word, part] : names)
            if (name == word && index(part) >= 0) {
                m_limit.first = part;
                return {};
            }
        return {
            {"--with until",
             fmt::format("\"{}\" is no part of this machine that a limit is for; they are winding, magnets, "
                         "cage, housing and bearings.",
                         name)}};
    }

    double whole_time() const {
        const double given = c.input("time"), cycle = m_duty.cycle_time();
        if (!std::isnan(given)) return given;
        const double slowest = time_constants(lumps().network).front();
        if (!m_duty.repeats) return cycle > 0 ? cycle : 5 * slowest;
        return cycle * std::clamp(std::ceil(5 * slowest / cycle), 1.0, 400.0);
    }

    void note(double time, const Eigen::VectorXd& t) {
        m_time.push_back(time);
        m_course.push_back(t);
        m_most = m_most.size() > 0 ? Eigen::VectorXd(m_most.cwiseMax(t)) : t;
        if (!m_reached && t[index(m_limit.first)] >= m_limit.second) m_reached = time;
    }

    void follow() {
        const double end = whole_time();
        Eigen::VectorXd t{Eigen::Index(lumps().parts.size())};
        const double begin = c.input("begin");
        t.setConstant(std::isnan(begin) ? c.input("ambient") : begin);
        note(0, t);
        double time = 0;
        constexpr double too_hot = 2000;
        while (time < end * (1 - 1e-12) && t.maxCoeff() < too_hot)
            for (const StretchLoss& s : m_losses) {
                const double seconds = s.stretch.seconds,
                             to = seconds > 0 ? std::min(end, time + seconds) : end;
                if (to <= time) break;
                const int steps =
                    std::clamp(int(std::ceil((to - time) / end * points_of_curve)), 2, points_of_curve);
                std::vector<double> times;
                for (int k = 1; k <= steps; ++k) times.push_back(time + (to - time) * k / steps);
                t = heat_over_time(lumps_of(s).network, law(s), t, time, to, times,
                                   [&](double at, const Eigen::VectorXd& now) {
                                       note(at, now);
                                       return now.maxCoeff() < too_hot && !c.watch.stop.stop_requested();
                                   });
                time = to;
                if (c.watch.stop.stop_requested()) return;
            }
        m_end = t;
    }

    void tell() {
        const std::pair<const char*, HeatPart> told[] = {
            {"winding_slots", HeatPart::Winding}, {"end_windings", HeatPart::Ends},
            {"magnets", HeatPart::Magnets},       {"cage", HeatPart::Bars},
            {"rotor", HeatPart::Rotor},           {"stator_teeth", HeatPart::Teeth},
            {"stator_yoke", HeatPart::Yoke},      {"housing", HeatPart::Housing},
            {"bearings", HeatPart::Bearings}};
        for (const auto& [name, part] : told) {
            const auto k = index(part);
            const auto value = [&](const Eigen::VectorXd& of) {
                return k >= 0 ? std::optional(of[k] - zero_celsius) : std::nullopt;
            };
            c.answer.figures.push_back({fmt::format("temperature_{}", name), value(m_end), "degC"});
            c.answer.figures.push_back({fmt::format("temperature_{}_most", name), value(m_most), "degC"});
            if (k < 0) continue;
            Curve curve{fmt::format("temperature_{}", name), "degC", "time", "s", m_time, {}};
            for (const Eigen::VectorXd& t : m_course) curve.y.push_back(t[k] - zero_celsius);
            c.answer.curves.push_back(std::move(curve));
        }
        c.answer.figures.push_back({"time_to_limit", m_reached, "s"});
        const auto constants = time_constants(lumps().network);
        c.answer.figures.push_back({"time_constant", constants.front(), "s"});
        const auto winding = index(HeatPart::Winding);
        std::string& out = c.answer.sentence;
        out = fmt::format("{}: the winding ends at {:.1f} °C in the slots and is at {:.1f} °C at most; the "
                          "slowest of the time "
                          "constants is {:.3g} min.",
                          m_duty.words, m_end[winding] - zero_celsius, m_most[winding] - zero_celsius,
                          constants.front() / 60);
        std::string limited = to_string(m_limit.first);
        limited.front() = char(std::toupper(static_cast<unsigned char>(limited.front())));
        out += m_reached ? fmt::format(" {} reaches {:.4g} °C after {:.4g} min.", limited,
                                       m_limit.second - zero_celsius, *m_reached / 60)
                         : fmt::format(" {} stays below {:.4g} °C.", limited, m_limit.second - zero_celsius);
        out += " " + m_words +
               " By lumped bodies that the section's steady field makes; films stand at the duty's mean loss.";
        if (std::any_of(m_losses.begin(), m_losses.end(), [](const StretchLoss& s) {
                return !s.stretch.torque && !s.stretch.at_rest() && s.stretch.current != 1;
            }))
            out += " Losses beside the winding's do not follow the current.";
        std::set<double> speeds;
        for (const StretchLoss& s : m_losses)
            if (!s.stretch.torque && !s.stretch.at_rest()) speeds.insert(speed_of(s.stretch));
        if (!are_asked_for(c.inputs) && speeds.size() > 1) out += " Given losses are the same at every speed.";
        for (const std::string& words : m_notes) out += " " + words;
    }

    QuestionContext& c;
    HeatDuty m_duty;
    std::map<double, AtSpeed> m_speeds; ///< by rad/s
    std::vector<StretchLoss> m_losses;
    std::unique_ptr<Drive> m_drive; ///< made for the first torque
    std::string m_words;
    std::pair<HeatPart, double> m_limit{HeatPart::Winding, 0};
    std::vector<double> m_time;
    std::vector<Eigen::VectorXd> m_course;
    Eigen::VectorXd m_most, m_end;
    std::optional<double> m_reached;
    std::vector<std::string> m_notes;
};

Problems run(QuestionContext& c) {
    return Course(c).run();
}

std::vector<QuestionInput> inputs() {
    const auto word = [](const char* key, const char* label, const char* standard, const char* help) {
        QuestionInput input{key, label, "", standard, help};
        input.kind = InputKind::Word;
        return input;
    };
    std::vector<QuestionInput> list{
        word("duty", "Duty", "S1",
             "Types of IEC 60034-1: S1; S2 30 min; S3 25 % 10 min; S4 25 % 10 min start 3 s:6; S5 25 % 10 min "
             "start 3 s:6 brake 2 s:4; S6 40 % 10 min; S7 10 min start 3 s:6 brake 2 s:4; S8, S9, S10 and a "
             "table of times and currents over the load's: 2 s:5, 120 s:1, 480 s:rest; each may have a speed, "
             "or a torque in place of the current: 4 min:0.8@1500 rpm, 30 s:12 N·m@900 rpm."),
        word("until", "Limit", "auto", "winding=155 °C, magnets=100 °C …; auto: the winding's thermal class.")};
    QuestionInput time{"time", "Time", "h", "auto", "Of the whole course; auto: until it hardly changes.",
                       1e-4,   1e5};
    time.auto_allowed = true;
    QuestionInput begin{
        "begin", "Begins at", "degC", "auto", "Temperature of all parts at the beginning; auto: the ambient.",
        -100,    400};
    begin.auto_allowed = true;
    list.push_back(std::move(time));
    list.push_back(std::move(begin));
    for (QuestionInput& input : heat_inputs()) list.push_back(std::move(input));
    for (QuestionInput& input : drive_inputs())
        if (std::none_of(list.begin(), list.end(), [&](const QuestionInput& q) { return q.key == input.key; }))
            list.push_back(std::move(input));
    return list;
}

int solves(const Machine& machine, const Inputs& inputs) {
    const auto duty = read_heat_duty(inputs.word("duty"));
    if (!duty) return 0;
    std::set<double> speeds;
    for (const DutyStretch& s : duty->cycle)
        if (!s.torque) speeds.insert(s.at_rest() ? -1 : s.speed.value_or(-1));
    return int(speeds.size()) * heat_solves(machine, inputs) +
           (duty->has_torques() ? drive_solves(machine, inputs) : 0);
}

const RegisterQuestion registered{
    {"heat-up",
     "Heat",
     "Temperatures over time",
     "How the parts warm up and cool down: continuous, short and intermittent duty, tables of load.",
     inputs(),
     solves,
     run,
     101,
     {need_winding},
     true, // its losses are those of load: one mesh serves both
     true}};

} // namespace
} // namespace mavlo::question_heat_up
