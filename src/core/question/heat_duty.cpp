#include "question/heat_duty.h"

#include "quantity/constants.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <sstream>

namespace mavlo {
namespace {

constexpr double largest_current = 100, standard_cycle = 600; // s: 10 min unless otherwise agreed

Problem unread(const std::string& text) {
    return {
        "--with duty",
        fmt::format("\"{}\" is no duty: write S1, S2 30 min, S3 25 % 10 min, S4 25 % 10 min start 3 s:6, S5 "
                    "25 % 10 min start 3 s:6 brake 2 s:4, S6 40 % 10 min, S7 10 min start 3 s:6 brake 2 "
                    "s:4, or a table of times and currents over the load's, such as 2 s:5, 120 s:1, 480 "
                    "s:rest, with speeds as 4 min:1@1500 rpm or torques as 30 s:12 N.m@1500 rpm (S8, S9 "
                    "and S10 stand before such a table).",
                    text)};
}

std::optional<double> value_of(const std::string& text, const Dimension& wanted) {
    const auto value = parse_quantity(text);
    if (!value || value->dimension != wanted || !std::isfinite(value->si)) return std::nullopt;
    return value->si;
}

/// "3 s:6", "480 s:rest", "4 min:1@1500 rpm", "30 s:12 N.m@1500 rpm".
std::optional<DutyStretch> stretch(const std::string& item) {
    const std::size_t colon = item.find(':');
    if (colon == std::string::npos) return std::nullopt;
    const std::string rest = item.substr(colon + 1);
    const std::size_t at = rest.find('@');
    const std::string load(trim(rest.substr(0, at)));
    const auto seconds = value_of(item.substr(0, colon), dimension::time);
    if (!seconds || !(*seconds > 0)) return std::nullopt;
    DutyStretch out{*seconds, 0, {}, {}};
    if (at != std::string::npos) {
        out.speed = value_of(rest.substr(at + 1), dimension::speed);
        if (!out.speed || *out.speed < 0) return std::nullopt;
    }
    if (load == "rest") {
        if (out.speed) return std::nullopt;
        out.speed = 0;
        return out;
    }
    const auto value = parse_quantity(load);
    if (!value || !std::isfinite(value->si)) return std::nullopt;
    if (value->dimension == dimension::torque)
        out.torque = value->si;
    else if (value->dimension.plain() && value->si >= 0 && value->si <= largest_current)
        out.current = value->si;
    else
        return std::nullopt;
    return out;
}

Result<HeatDuty> table(const std::string& whole, const std::string& text, bool repeats, std::string words) {
    HeatDuty duty{{}, repeats, std::move(words)};
    std::stringstream all(text);
    for (std::string item; std::getline(all, item, ',');) {
        const auto one = stretch(item);
        if (!one) return unread(whole);
        duty.cycle.push_back(*one);
    }
    if (duty.cycle.empty()) return unread(whole);
    return duty;
}

/// What stands behind a type's name: "25 % 10 min start 3 s:6 brake 2 s:4".
struct TypeWords {
    std::optional<double> share, time;
    std::optional<DutyStretch> start, brake;
};

/// The words between two marks, or up to the end; removed from the text.
std::optional<std::string> cut_off(std::string& text, const char* mark) {
    const std::size_t at = text.find(mark);
    if (at == std::string::npos) return std::nullopt;
    std::string out = text.substr(at + std::string(mark).size());
    text.erase(at);
    return out;
}

std::optional<TypeWords> type_words(std::string text, bool with_share) {
    TypeWords out;
    const auto brake = cut_off(text, "brake"), start = cut_off(text, "start");
    for (const auto& [words, place] : {std::pair(brake, &out.brake), std::pair(start, &out.start)}) {
        if (!words) continue;
        *place = stretch(*words);
        if (!*place || (*place)->torque || (*place)->speed) return std::nullopt;
    }
    std::string rest(trim(text));
    if (const std::size_t percent = rest.find('%'); percent != std::string::npos) {
        const auto share = parse_quantity(rest.substr(0, percent + 1));
        if (!share || !share->dimension.plain()) return std::nullopt;
        out.share = share->si;
        rest = std::string(trim(rest.substr(percent + 1)));
    } else if (const auto plain = parse_quantity(rest.substr(0, rest.find(' ')));
               with_share && plain && plain->dimension.plain()) {
        out.share = plain->si;
        rest = rest.find(' ') == std::string::npos ? "" : std::string(trim(rest.substr(rest.find(' '))));
    }
    if (!rest.empty()) {
        out.time = value_of(rest, dimension::time);
        if (!out.time || !(*out.time > 0)) return std::nullopt;
    }
    if (out.share && !(*out.share > 0 && *out.share < 1)) return std::nullopt;
    return out;
}

/// Which words a type takes.
struct TypeRule {
    const char *name, *title;
    bool share, start, brake, rests;
};
constexpr TypeRule rules[] = {
    {"S3", "Intermittent duty (S3)", true, false, false, true},
    {"S4", "Intermittent duty with starting (S4)", true, true, false, true},
    {"S5", "Intermittent duty with electric braking (S5)", true, true, true, true},
    {"S6", "Continuous duty with load that comes and goes (S6)", true, false, false, false},
    {"S7", "Continuous duty with electric braking (S7)", false, true, true, false},
};

Result<HeatDuty> periodic(const std::string& text, const TypeRule& rule, const TypeWords& words) {
    if (words.share.has_value() != rule.share || words.start.has_value() != rule.start ||
        words.brake.has_value() != rule.brake)
        return unread(text);
    const double cycle = words.time.value_or(standard_cycle),
                 swift = (words.start ? words.start->seconds : 0) + (words.brake ? words.brake->seconds : 0),
                 on = words.share.value_or(1) * cycle, steady = on - swift;
    if (!(steady > 0))
        return Problem{"--with duty", fmt::format("Starting and braking take {:.4g} s, and the load has only "
                                                  "{:.4g} s of the cycle of {:.4g} s.",
                                                  swift, on, cycle)};
    HeatDuty duty{{}, true, {}};
    if (words.start) duty.cycle.push_back(*words.start);
    duty.cycle.push_back({steady, 1, {}, {}});
    if (words.brake) duty.cycle.push_back(*words.brake);
    if (rule.share) duty.cycle.push_back({cycle - on, 0, {}, rule.rests ? std::optional(0.0) : std::nullopt});
    duty.words = rule.share
                     ? fmt::format("{} of {:.3g} % in {:.4g} min", rule.title, 100 * *words.share, cycle / 60)
                     : fmt::format("{} in cycles of {:.4g} min", rule.title, cycle / 60);
    return duty;
}

} // namespace

double HeatDuty::cycle_time() const {
    double sum = 0;
    for (const DutyStretch& s : cycle) sum += s.seconds;
    return sum;
}

bool HeatDuty::has_torques() const {
    return std::any_of(cycle.begin(), cycle.end(), [](const DutyStretch& s) { return s.torque.has_value(); });
}

Result<HeatDuty> read_heat_duty(const std::string& text) {
    const std::string all(trim(text));
    const std::size_t blank = all.find(' ');
    const std::string name = all.substr(0, blank),
                      rest(blank == std::string::npos ? "" : trim(all.substr(blank)));
    if (name == "S1")
        return rest.empty() ? Result<HeatDuty>(HeatDuty{{{0, 1, {}, {}}}, false, "Continuous duty (S1)"})
                            : unread(text);
    if (name == "S2") {
        const auto seconds = value_of(rest, dimension::time);
        if (!seconds || !(*seconds > 0)) return unread(text);
        return HeatDuty{
            {{*seconds, 1, {}, {}}}, false, fmt::format("Short-time duty (S2) of {:.4g} min", *seconds / 60)};
    }
    if (name == "S8") return table(text, rest, true, "Duty with changes of load and speed (S8)");
    if (name == "S9") return table(text, rest, false, "Duty that does not repeat (S9)");
    if (name == "S10") return table(text, rest, true, "Duty with discrete constant loads (S10)");
    for (const TypeRule& rule : rules)
        if (name == rule.name) {
            const auto words = type_words(rest, rule.share);
            return words ? periodic(text, rule, *words) : unread(text);
        }
    return table(text, all, true, "The table's cycle");
}

} // namespace mavlo
