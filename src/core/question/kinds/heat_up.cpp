// Temperatures over time: constant load, duty types, a table of load.

#include "quantity/constants.h"
#include "quantity/dense.h"
#include "quantity/quantity.h"
#include "question/heat_setup.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <sstream>

namespace mavlo::question_heat_up {
namespace {

constexpr double zero_celsius = 273.15;
constexpr int points_of_curve = 400;

/// A stretch of a duty: its current over the load's, and whether the shaft turns.
struct Stretch {
    double seconds = 0, current = 1;
    bool turns = true;
};
struct Duty {
    std::vector<Stretch> cycle;
    bool repeats = false;
    std::string words;
};

Problem unread(const std::string& text) {
    return {"--with duty",
            fmt::format(
                "\"{}\" is no duty: write S1, S2 30 min, S3 25 % 10 min, S6 40 % 10 min, or a table of times "
                "and currents "
                "over the load's, such as 2 s:5, 120 s:1, 480 s:rest (S4, S5 and S7 to S9 are such tables).",
                text)};
}

/// "30 min" at the end of some words; NaN: there is none.
double time_in(const std::vector<std::string>& words, std::size_t from) {
    std::string text;
    for (std::size_t k = from; k < words.size(); ++k) text += (text.empty() ? "" : " ") + words[k];
    if (text.empty()) return std::nan("");
    const auto value = parse_quantity(text);
    return value && value->dimension == dimension::time ? value->si : -1;
}

/// "25 %", "25%" or 0.25 at words[1]; moves `next` behind it.
double share_in(const std::vector<std::string>& words, std::size_t& next) {
    if (words.size() < 2) return -1;
    std::string text = words[1];
    next = 2;
    if (words.size() > 2 && words[2] == "%") text += "%", next = 3;
    const auto value = parse_quantity(text);
    return value && value->dimension.plain() && value->si > 0 && value->si < 1 ? value->si : -1;
}

Result<Duty> type(const std::string& text, const std::vector<std::string>& words) {
    Duty duty;
    const std::string& name = words.front();
    if (name == "S1" && words.size() == 1) return Duty{{{0, 1, true}}, false, "Continuous duty (S1)"};
    if (name == "S2") {
        const double seconds = time_in(words, 1);
        if (!(seconds > 0)) return unread(text);
        return Duty{
            {{seconds, 1, true}}, false, fmt::format("Short-time duty (S2) of {:.4g} min", seconds / 60)};
    }
    if (name != "S3" && name != "S6") return unread(text);
    std::size_t next = 0;
    const double share = share_in(words, next);
    if (share < 0) return unread(text);
    double cycle = time_in(words, next);
    if (std::isnan(cycle)) cycle = 600;
    if (cycle <= 0) return unread(text);
    duty.repeats = true;
    duty.cycle = {{share * cycle, 1, true}, {(1 - share) * cycle, 0, name == "S6"}};
    duty.words = fmt::format("{} of {:.3g} % in {:.4g} min",
                             name == "S3" ? "Intermittent duty (S3)"
                                          : "Continuous duty with load that comes and goes (S6)",
                             100 * share, cycle / 60);
    return duty;
}

Result<Duty> table(const std::string& text) {
    Duty duty;
    duty.repeats = true;
    duty.words = "The table's cycle";
    std::stringstream all(text);
    for (std::string item; std::getline(all, item, ',');) {
        const std::size_t colon = item.find(':');
        if (colon == std::string::npos) return unread(text);
        const auto time = parse_quantity(item.substr(0, colon));
        const std::string share(trim(item.substr(colon + 1)));
        if (!time || time->dimension != dimension::time || !(time->si > 0)) return unread(text);
        if (share == "rest") {
            duty.cycle.push_back({time->si, 0, false});
            continue;
        }
        const auto value = parse_quantity(share);
        if (!value || !value->dimension.plain() || !(value->si >= 0) || value->si > 100) return unread(text);
        duty.cycle.push_back({time->si, value->si, true});
    }
    if (duty.cycle.empty()) return unread(text);
    return duty;
}

Result<Duty> read_duty(const std::string& text) {
    if (text.find(':') != std::string::npos) return table(text);
    std::stringstream all(text);
    std::vector<std::string> words;
    for (std::string word; all >> word;) words.push_back(word);
    if (words.empty()) return unread(text);
    return type(text, words);
}

/// The lumped bodies of one state: turning or at rest.
struct Reduced {
    std::vector<HeatPart> parts;
    HeatNetwork network;
    Eigen::VectorXd other; ///< W in the bodies that stand for all losses but the winding's
};

Result<Reduced> reduced(MachineHeatModel& model, const MachineHeat& at_work, const HeatLosses& losses) {
    Reduced out;
    for (HeatPart part : model.parts())
        if (model.capacity(part) > 10) out.parts.push_back(part);
    const auto rises = model.rises(out.parts);
    if (!rises) return rises.problems();
    const auto n = Eigen::Index(out.parts.size());
    out.network.conductance = solved(*rises, Eigen::MatrixXd(Eigen::MatrixXd::Identity(n, n)));
    out.network.capacity.resize(n);
    Eigen::VectorXd at(n), winding = Eigen::VectorXd::Zero(n);
    for (Eigen::Index k = 0; k < n; ++k) {
        const HeatPart part = out.parts[std::size_t(k)];
        out.network.names.push_back(to_string(part));
        out.network.capacity[k] = model.capacity(part);
        at[k] = at_work.mean.at(part);
        if (part == HeatPart::Winding) winding[k] = losses.slots;
        if (part == HeatPart::Ends) winding[k] = losses.ends;
    }
    const auto cold = model.at_rest(out.parts);
    if (!cold) return cold.problems();
    out.network.at_rest = *cold;
    out.other = out.network.conductance * (at - *cold) - winding;
    return out;
}

class Course {
  public:
    Course(QuestionContext& context, const KnownLosses& losses)
        : c(context)
        , m_losses(losses) {}

    Problems run() {
        const auto duty = read_duty(c.inputs.word("duty"));
        if (!duty) return duty.problems();
        m_duty = *duty;
        if (auto problems = find_networks(); !problems.empty()) return problems;
        if (auto problems = find_limit(); !problems.empty()) return problems;
        follow();
        tell();
        return {};
    }

  private:
    Problems find_networks() {
        auto model = heat_model(c, c.input("speed"));
        if (!model) return model.problems();
        const auto losses = known_losses(c, **model);
        if (!losses) return losses.problems();
        m_losses = *losses;
        if (!(*model)->has(HeatPart::Winding))
            return {{"stator.slot.kind", "Duty is that of a winding; a stator without slots has none."}};
        KnownLosses on_average = m_losses;
        for (double* part : {&on_average.winding.slots, &on_average.winding.ends, &on_average.winding.added})
            *part *= mean_square();
        // Where the mean runs away the films are those of the temperatures before it does.
        const auto coupled = coupled_heat(**model, on_average, c.machine.winding.conductor_material);
        if (!coupled) return coupled.problems();
        const HeatLosses& mean = coupled->losses;
        m_notes = coupled->heat.notes;
        auto turning = reduced(**model, coupled->heat, mean);
        if (!turning) return turning.problems();
        m_turning = std::move(*turning);
        const bool rests =
            std::any_of(m_duty.cycle.begin(), m_duty.cycle.end(), [](const Stretch& s) { return !s.turns; });
        m_standing = m_turning;
        if (!rests) return {};
        auto still = heat_model(c, 0);
        if (!still) return still.problems();
        HeatLosses own;
        own.slots = mean.slots;
        own.ends = mean.ends;
        const auto standing = (*still)->steady(own);
        if (!standing) return standing.problems();
        auto at_rest = reduced(**still, *standing, own);
        if (!at_rest) return at_rest.problems();
        m_standing = std::move(*at_rest);
        return {};
    }

    double mean_square() const {
        double sum = 0, time = 0;
        for (const Stretch& s : m_duty.cycle) {
            const double seconds = s.seconds > 0 ? s.seconds : 1;
            sum += seconds * s.current * s.current;
            time += seconds;
        }
        return sum / time;
    }

    LossLawOfHeat law(const Stretch& s) const {
        const Reduced& body = s.turns ? m_turning : m_standing;
        const Eigen::VectorXd other =
            s.turns ? body.other : Eigen::VectorXd(Eigen::VectorXd::Zero(body.other.size()));
        const LossLawOfHeat winding = winding_law(m_losses.winding, c.machine.winding.conductor_material,
                                                  s.current, index(HeatPart::Winding), index(HeatPart::Ends));
        return [=](const Eigen::VectorXd& t, Eigen::MatrixXd* slope) {
            return Eigen::VectorXd(other + winding(t, slope));
        };
    }

    Eigen::Index index(HeatPart part) const {
        const auto at = std::find(m_turning.parts.begin(), m_turning.parts.end(), part);
        return at == m_turning.parts.end() ? Eigen::Index(-1) : Eigen::Index(at - m_turning.parts.begin());
    }

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
        const double given = c.input("time");
        if (!std::isnan(given)) return given;
        const double slowest = time_constants(m_turning.network).front();
        if (!m_duty.repeats)
            return m_duty.cycle.front().seconds > 0 ? m_duty.cycle.front().seconds : 5 * slowest;
        double cycle = 0;
        for (const Stretch& s : m_duty.cycle) cycle += s.seconds;
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
        Eigen::VectorXd t = Eigen::VectorXd::Constant(Eigen::Index(m_turning.parts.size()),
                                                      m_turning.network.at_rest.minCoeff());
        const double begin = c.input("begin");
        t.setConstant(std::isnan(begin) ? c.input("ambient") : begin);
        note(0, t);
        double time = 0;
        constexpr double too_hot = 2000;
        while (time < end * (1 - 1e-12) && t.maxCoeff() < too_hot)
            for (const Stretch& s : m_duty.cycle) {
                const double to = s.seconds > 0 ? std::min(end, time + s.seconds) : end;
                if (to <= time) break;
                const int steps =
                    std::clamp(int(std::ceil((to - time) / end * points_of_curve)), 2, points_of_curve);
                std::vector<double> times;
                for (int k = 1; k <= steps; ++k) times.push_back(time + (to - time) * k / steps);
                t = heat_over_time((s.turns ? m_turning : m_standing).network, law(s), t, time, to, times,
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
        const auto constants = time_constants(m_turning.network);
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
        out += " " + m_losses.words +
               " By lumped bodies that the section's steady field makes; films stand at the duty's mean loss, "
               "losses beside the "
               "winding's do not follow the load.";
        for (const std::string& words : m_notes) out += " " + words;
    }

    QuestionContext& c;
    KnownLosses m_losses;
    Duty m_duty;
    Reduced m_turning, m_standing;
    std::pair<HeatPart, double> m_limit{HeatPart::Winding, 0};
    std::vector<double> m_time;
    std::vector<Eigen::VectorXd> m_course;
    Eigen::VectorXd m_most, m_end;
    std::optional<double> m_reached;
    std::vector<std::string> m_notes;
};

Problems run(QuestionContext& c) {
    return Course(c, {}).run();
}

std::vector<QuestionInput> inputs() {
    const auto word = [](const char* key, const char* label, const char* standard, const char* help) {
        QuestionInput input{key, label, "", standard, help};
        input.kind = InputKind::Word;
        return input;
    };
    std::vector<QuestionInput> list{
        word("duty", "Duty", "S1",
             "Types of IEC 60034-1: S1; S2 30 min; S3 25 % 10 min; S6 40 % 10 min; or a table of times and "
             "currents over the "
             "load's: 2 s:5, 120 s:1, 480 s:rest."),
        word("until", "Limit", "auto",
             "winding=155 degC, magnets=100 degC …; auto: the winding's thermal class.")};
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
    return list;
}

const RegisterQuestion registered{
    {"heat-up",
     "Heat",
     "Temperatures over time",
     "How the parts warm up and cool down: continuous, short and intermittent duty, tables of load.",
     inputs(),
     heat_solves,
     run,
     101,
     {need_winding},
     false,
     true}};

} // namespace
} // namespace mavlo::question_heat_up
