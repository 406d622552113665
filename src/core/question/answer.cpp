#include "question/answer.h"

#include "storage/json_text.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <nlohmann/json.hpp>

namespace mavlo {
namespace {

using json = nlohmann::ordered_json;

json curve_json(const Curve& c) {
    json out{{"name", c.name},     {"unit", c.unit}, {"x_name", c.x_name},
             {"x_unit", c.x_unit}, {"x", c.x},       {"y", c.y}};
    if (!c.labels.empty()) out["labels"] = c.labels;
    return out;
}

/// JSON writes what is not a number as null by itself.
json map_json(const Map& m) {
    return {{"name", m.name},     {"unit", m.unit}, {"x_name", m.x_name},
            {"x_unit", m.x_unit}, {"x", m.x},       {"y_name", m.y_name},
            {"y_unit", m.y_unit}, {"y", m.y},       {"z", m.z}};
}

/// Numbers, of which those that are none were written as null.
std::vector<double> numbers_or_none(const json& list) {
    std::vector<double> values;
    values.reserve(list.size());
    for (const json& value : list)
        values.push_back(value.is_null() ? std::numeric_limits<double>::quiet_NaN() : value.get<double>());
    return values;
}

/// As far as it is a count at all.
int count_of(const json& value) {
    return int(std::clamp(value.get<double>(), 0.0, 2e9));
}

/// Stands for nlohmann's own exceptions: what the parts say does not fit together.
[[noreturn]] void misfit(const std::string& name) {
    throw json::other_error::create(502, name + " has not as many values as places", nullptr);
}

Curve curve_from_json(const json& in) {
    Curve c{in.at("name"),
            in.at("unit"),
            in.at("x_name"),
            in.at("x_unit"),
            in.at("x").get<std::vector<double>>(),
            numbers_or_none(in.at("y")),
            in.value("labels", std::vector<std::string>{})};
    if (c.x.size() != c.y.size() || (!c.labels.empty() && c.labels.size() != c.x.size())) misfit(c.name);
    return c;
}

Map map_from_json(const json& in) {
    Map m{in.at("name"),
          in.at("unit"),
          in.at("x_name"),
          in.at("x_unit"),
          in.at("y_name"),
          in.at("y_unit"),
          in.at("x").get<std::vector<double>>(),
          in.at("y").get<std::vector<double>>(),
          {}};
    for (const auto& row : in.at("z")) {
        m.z.push_back(numbers_or_none(row));
        if (m.z.back().size() != m.x.size()) misfit(m.name);
    }
    if (m.z.size() != m.y.size()) misfit(m.name);
    return m;
}

} // namespace

std::optional<double> Answer::figure(const std::string& name) const {
    const auto found =
        std::find_if(figures.begin(), figures.end(), [&](const Figure& f) { return f.name == name; });
    return found == figures.end() ? std::nullopt : found->value;
}

bool Answer::has_errors() const {
    return std::any_of(figures.begin(), figures.end(), [](const Figure& f) { return f.error.has_value(); });
}

const Curve* Answer::curve(const std::string& name) const {
    const auto found =
        std::find_if(curves.begin(), curves.end(), [&](const Curve& c) { return c.name == name; });
    return found == curves.end() ? nullptr : &*found;
}

const Map* Answer::map(const std::string& name) const {
    const auto found = std::find_if(maps.begin(), maps.end(), [&](const Map& m) { return m.name == name; });
    return found == maps.end() ? nullptr : &*found;
}

bool Map::operator==(const Map& other) const {
    const auto same = [](double a, double b) { return a == b || (std::isnan(a) && std::isnan(b)); };
    const auto same_row = [&](const auto& a, const auto& b) {
        return std::equal(a.begin(), a.end(), b.begin(), b.end(), same);
    };
    return name == other.name && unit == other.unit && x_name == other.x_name && x_unit == other.x_unit &&
           y_name == other.y_name && y_unit == other.y_unit && x == other.x && y == other.y &&
           std::equal(z.begin(), z.end(), other.z.begin(), other.z.end(), same_row);
}

std::string answer_to_json(const Answer& a) {
    json out{{"question", a.question}, {"variant", a.variant}, {"design", a.design},
             {"mavlo", MAVLO_VERSION}, {"quality", a.quality}, {"inputs", a.inputs},
             {"sentence", a.sentence}};
    json figures = json::object();
    for (const Figure& f : a.figures) {
        json value = nullptr;
        if (f.value) value = *f.value;
        figures[f.name] = {{"value", value}, {"unit", f.unit}};
        if (f.error) figures[f.name]["error"] = *f.error;
    }
    out["figures"] = figures;
    out["curves"] = json::array();
    for (const Curve& c : a.curves) out["curves"].push_back(curve_json(c));
    out["maps"] = json::array();
    for (const Map& m : a.maps) out["maps"].push_back(map_json(m));
    out["effort"] = {{"solves", a.effort.solves},
                     {"newton_steps", a.effort.newton_steps},
                     {"unknowns", a.effort.unknowns},
                     {"elements", a.effort.elements},
                     {"smallest_angle", a.effort.smallest_angle},
                     {"threads", a.effort.threads},
                     {"seconds", a.effort.seconds}};
    if (a.effort.accuracy_aimed > 0) {
        out["effort"]["accuracy_aimed"] = a.effort.accuracy_aimed;
        out["effort"]["accuracy_estimated"] = a.effort.accuracy_estimated;
    }
    return out.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

Result<Answer> answer_from_json(const std::string& text) {
    const auto parsed = parse_json(text);
    if (!parsed) return parsed.problems();
    const json& in = *parsed;
    try {
        Answer a;
        a.question = in.at("question");
        a.variant = in.at("variant");
        a.design = in.at("design");
        a.quality = in.at("quality");
        a.inputs = in.at("inputs").get<std::map<std::string, std::string>>();
        a.sentence = in.at("sentence");
        for (const auto& [name, f] : in.at("figures").items()) {
            Figure figure{name, std::nullopt, f.at("unit"), std::nullopt};
            if (f.contains("error")) figure.error = f.at("error").get<double>();
            if (!f.at("value").is_null()) figure.value = f.at("value").get<double>();
            a.figures.push_back(figure);
        }
        for (const auto& c : in.at("curves")) a.curves.push_back(curve_from_json(c));
        for (const auto& m : in.at("maps")) a.maps.push_back(map_from_json(m));
        const auto& e = in.at("effort");
        a.effort = {count_of(e.at("solves")),
                    count_of(e.at("newton_steps")),
                    count_of(e.at("unknowns")),
                    count_of(e.at("threads")),
                    count_of(e.value("elements", json(0))),
                    e.value("smallest_angle", 0.0),
                    e.at("seconds"),
                    e.value("accuracy_aimed", 0.0),
                    e.value("accuracy_estimated", 0.0)};
        return a;
    } catch (const nlohmann::json::exception& error) {
        return Problem{"answer",
                       fmt::format("The answer's file is damaged ({}); ask the question again.", error.what())};
    }
}

std::string answer_to_csv(const Answer& a) {
    std::string out =
        fmt::format("# question,{}\n# variant,{}\n# design,{}\n", a.question, a.variant, a.design);
    for (const auto& [key, value] : a.inputs) out += fmt::format("# input,{},{}\n", key, value);
    for (const Figure& f : a.figures)
        out += fmt::format("# figure,{},{},{}{}\n", f.name, f.value ? fmt::format("{:.9g}", *f.value) : "",
                           f.unit, f.error ? fmt::format(",{:.3g}", *f.error) : "");
    std::vector<bool> written(a.curves.size(), false);
    for (std::size_t i = 0; i < a.curves.size(); ++i) {
        if (written[i]) continue;
        const Curve& first = a.curves[i];
        std::vector<const Curve*> block;
        for (std::size_t j = i; j < a.curves.size(); ++j)
            if (!written[j] && a.curves[j].x == first.x && a.curves[j].x_name == first.x_name &&
                a.curves[j].labels == first.labels) {
                block.push_back(&a.curves[j]);
                written[j] = true;
            }
        out += fmt::format("\n{} [{}]", first.x_name, first.x_unit);
        for (const Curve* c : block) out += fmt::format(",{} [{}]", c->name, c->unit);
        out += '\n';
        for (std::size_t k = 0; k < first.x.size(); ++k) {
            out += first.labels.empty() ? fmt::format("{:.9g}", first.x[k]) : first.labels[k];
            for (const Curve* c : block) out += fmt::format(",{:.9g}", c->y[k]);
            out += '\n';
        }
    }
    for (const Map& m : a.maps) {
        out += fmt::format("\n# map,{} [{}],rows: {} [{}]\n{} [{}]", m.name, m.unit, m.y_name, m.y_unit,
                           m.x_name, m.x_unit);
        for (double x : m.x) out += fmt::format(",{:.9g}", x);
        out += '\n';
        for (std::size_t j = 0; j < m.y.size(); ++j) {
            out += fmt::format("{:.9g}", m.y[j]);
            for (double z : m.z[j]) out += std::isnan(z) ? "," : fmt::format(",{:.9g}", z);
            out += '\n';
        }
    }
    return out;
}

} // namespace mavlo
