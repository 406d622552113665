#include "question/straight.h"

#include "quantity/constants.h"
#include "quantity/text.h"
#include "quantity/unit.h"
#include "question/key_figure.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <regex>
#include <set>
#include <utility>

namespace mavlo {
namespace {

/// Parts of figures' and curves' names: of what turns, and of what moves along.
constexpr std::pair<const char*, const char*> name_parts[] = {
    {"torque", "thrust"}, {"axial_pull", "normal_force"}, {"axial_stiffness", "normal_stiffness"}};

/// A unit of what turns, that of what moves along, and what a number in the first becomes in the second for a
/// radius of 1 m; it goes with the radius to this power.
struct Along {
    std::string turning, straight;
    double factor;
    int power;
    double of(double radius) const { return factor * std::pow(radius, power); }
};

const std::vector<Along>& turning_units() {
    static const std::vector<Along> list{{"N.m", "N", 1, -1},
                                         {"mN.m", "mN", 1, -1},
                                         {"N.m/A", "N/A", 1, -1},
                                         {"N.m/kg", "N/kg", 1, -1},
                                         {"N.m/m3", "N/m3", 1, -1},
                                         {"N.m/W", "N/W", 1, -1},
                                         {"N.m/sqrt(W)", "N/sqrt(W)", 1, -1},
                                         {"N.m/kPa", "N/kPa", 1, -1},
                                         {"rpm", "m/s", rpm, 1},
                                         {"kg.m2", "kg", 1, -2},
                                         {"V/rpm", "V.s/m", 1 / rpm, -1},
                                         {"V.s/rad", "V.s/m", 1, -1}};
    return list;
}

/// Angles that count along the gap, not along an electrical period.
const Along& place() {
    static const Along mechanical{"deg", "mm", 1e3 * pi / 180, 1};
    return mechanical;
}
bool is_place(const std::string& name) {
    static const std::set<std::string> names{
        "rotor_angle",   "gap_angle",     "cogging_period", "d_axis_angle", "skew_proposed",
        "aligned_angle", "initial_angle", "phase_axis",     "magnet_axis",  "extinction_angle",
        "turn_on",       "turn_off",      "angle"};
    return names.contains(name);
}

const Along* along(const std::string& name, const std::string& unit) {
    if (unit == place().turning && is_place(name)) return &place();
    const auto found = std::find_if(turning_units().begin(), turning_units().end(),
                                    [&](const Along& a) { return a.turning == unit; });
    return found == turning_units().end() ? nullptr : &*found;
}

/// Multiplies values in a unit and gives them their new one.
template <typename Values>
void convert(const std::string& name, std::string& unit, double radius, Values& values) {
    const Along* to = along(name, unit);
    if (!to) return;
    for (double& value : values) value *= to->of(radius);
    unit = to->straight;
}

void convert(Figure& figure, double radius) {
    if (const Along* to = along(figure.name, figure.unit)) {
        if (figure.value) *figure.value *= to->of(radius);
        if (figure.error) *figure.error *= to->of(radius);
        figure.unit = to->straight;
    }
    figure.name = straight_name(figure.name);
}

void convert(Curve& curve, double radius) {
    convert(curve.name, curve.unit, radius, curve.y);
    convert(curve.x_name, curve.x_unit, radius, curve.x);
    curve.name = straight_name(curve.name);
    curve.x_name = straight_name(curve.x_name);
}

void convert(Map& map, double radius) {
    if (const Along* to = along(map.name, map.unit)) {
        for (auto& row : map.z)
            for (double& value : row) value *= to->of(radius);
        map.unit = to->straight;
    }
    convert(map.x_name, map.x_unit, radius, map.x);
    convert(map.y_name, map.y_unit, radius, map.y);
    map.name = straight_name(map.name);
    map.x_name = straight_name(map.x_name);
    map.y_name = straight_name(map.y_name);
}

/// What a radius multiplies SI values of an input's unit by when they come to turn.
double to_turning(const QuestionInput& straight, double radius) {
    for (const Along& a : turning_units())
        if (a.straight == straight.unit) return std::pow(radius, -a.power);
    return straight.unit == place().straight && is_place(straight.key) ? 1 / radius : 1;
}

void scale(const std::vector<QuestionInput>& inputs, Inputs& values, auto factor) {
    for (const QuestionInput& input : inputs) {
        if (input.kind == InputKind::Number) values.set(input.key, values.at(input.key) * factor(input));
        if (input.kind != InputKind::List) continue;
        std::vector<double> list = values.list(input.key);
        for (double& value : list) value *= factor(input);
        values.set(input.key, std::move(list));
    }
}

} // namespace

std::string straight_name(std::string name) {
    if (name == "rotor_angle") return "position";
    if (name == "gap_angle") return "place_along_gap";
    for (const auto& [turning, straight] : name_parts) replace_all(name, turning, straight);
    return name;
}

std::string turning_name(std::string name) {
    for (const auto& [turning, straight] : name_parts) replace_all(name, straight, turning);
    return name;
}

std::string straight_words(const std::string& text, double radius) {
    std::string out;
    std::size_t from = 0;
    // A number and its unit, written as sentences do.
    static const std::regex number(
        R"((-?[0-9]+(?:\.[0-9]+)?(?:e[-+]?[0-9]+)?)( (?:(?:m|k)?N(?:·|\.)m|rpm|kg(?:·|\.)m(?:²|2))|° mechanical)(?![A-Za-z/]))");
    for (auto it = std::sregex_iterator(text.begin(), text.end(), number); it != std::sregex_iterator(); ++it) {
        const std::smatch& found = *it;
        std::string unit = found[2];
        for (const auto& [shown, plain] : {std::pair{"·", "."}, {"²", "2"}, {"° mechanical", "deg"}, {" ", ""}})
            replace_all(unit, shown, plain);
        double value = 0; // in whatever locale
        const std::string digits = found[1];
        std::from_chars(digits.data(), digits.data() + digits.size(), value);
        if (unit == "kN.m") unit = "N.m", value *= 1e3;
        out += text.substr(from, std::size_t(found.position()) - from);
        const Along* to = unit == place().turning ? &place() : along("", unit);
        out += fmt::format("{:.4g} {}", value * to->of(radius), to->straight);
        from = std::size_t(found.position() + found.length());
    }
    out += text.substr(from);
    for (const auto& [turning, straight] : {std::pair{"torque", "thrust"},
                                            {"Torque", "Thrust"},
                                            {"rotor", "secondary"},
                                            {"Rotor", "Secondary"},
                                            {"stator", "primary"},
                                            {"Stator", "Primary"},
                                            {"of the shaft", "of what moves"},
                                            {"over a turn", "over a period"},
                                            {"times a turn", "times over its length"},
                                            {"periods a turn", "periods over its length"},
                                            {", mechanical", ", along the gap"}})
        replace_all(out, turning, straight);
    return out;
}

std::vector<QuestionInput> straight_inputs(std::vector<QuestionInput> inputs) {
    for (QuestionInput& input : inputs) {
        const Along* to = along(input.key, input.unit);
        if (!to || (to != &place() && !find_unit(to->straight))) continue;
        if (input.kind != InputKind::Choice && input.kind != InputKind::Word && to == &place()) {
            input.low = -1e6;
            input.high = 1e6;
        }
        input.unit = to->straight;
    }
    for (QuestionInput& input : inputs) {
        input.label = straight_words(input.label, 1);
        input.help = straight_words(input.help, 1);
    }
    return inputs;
}

void to_turning(const std::vector<QuestionInput>& inputs, double radius, Inputs& values) {
    scale(inputs, values, [radius](const QuestionInput& input) { return to_turning(input, radius); });
}

void to_straight(const std::vector<QuestionInput>& inputs, double radius, Inputs& values) {
    scale(inputs, values, [radius](const QuestionInput& input) { return 1 / to_turning(input, radius); });
}

KeyFigure shown_key_figure(KeyFigure figure, const Machine& machine) {
    if (!machine.facts().linear) return figure;
    const double radius = machine.section.chart().flat;
    std::string unit = figure.unit;
    replace_all(unit, "·", ".");
    if (const Along* to = along(figure.name, unit)) {
        figure.unit = to->straight;
        figure.factor *= to->of(radius);
    }
    figure.label = straight_words(figure.label, radius);
    if (figure.title)
        figure.title = [title = figure.title, radius](const Machine& m) {
            return straight_words(title(m), radius);
        };
    return figure;
}

std::optional<double> full_value(const Answer& answer, const std::string& name, const Machine& machine) {
    if (!machine.facts().linear) return answer.figure(name);
    const std::string own = straight_name(name);
    for (const Figure& figure : answer.figures)
        if (figure.name == own && figure.value) {
            for (const Along& a : turning_units())
                if (a.straight == figure.unit) return *figure.value / a.of(machine.section.chart().flat);
            return figure.value;
        }
    return std::nullopt;
}

void make_straight(Answer& answer, double radius) {
    for (Figure& figure : answer.figures) convert(figure, radius);
    for (Curve& curve : answer.curves) convert(curve, radius);
    for (Map& map : answer.maps) convert(map, radius);
    answer.sentence = straight_words(answer.sentence, radius);
}

} // namespace mavlo
