#include "question/answer.h"

#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace mavlo {
namespace {

using json = nlohmann::ordered_json;

json curve_json(const Curve& c) {
    return {{"name", c.name},     {"unit", c.unit}, {"x_name", c.x_name},
            {"x_unit", c.x_unit}, {"x", c.x},       {"y", c.y}};
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
    out["effort"] = {{"solves", a.effort.solves},
                     {"newton_steps", a.effort.newton_steps},
                     {"unknowns", a.effort.unknowns},
                     {"elements", a.effort.elements},
                     {"smallest_angle", a.effort.smallest_angle},
                     {"threads", a.effort.threads},
                     {"seconds", a.effort.seconds}};
    return out.dump(2) + "\n";
}

Result<Answer> answer_from_json(const std::string& text) {
    try {
        const json in = json::parse(text);
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
        for (const auto& c : in.at("curves"))
            a.curves.push_back({c.at("name"), c.at("unit"), c.at("x_name"), c.at("x_unit"),
                                c.at("x").get<std::vector<double>>(), c.at("y").get<std::vector<double>>()});
        const auto& e = in.at("effort");
        a.effort = {e.at("solves"),         e.at("newton_steps"),           e.at("unknowns"), e.at("threads"),
                    e.value("elements", 0), e.value("smallest_angle", 0.0), e.at("seconds")};
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
            if (!written[j] && a.curves[j].x == first.x && a.curves[j].x_name == first.x_name) {
                block.push_back(&a.curves[j]);
                written[j] = true;
            }
        out += fmt::format("\n{} [{}]", first.x_name, first.x_unit);
        for (const Curve* c : block) out += fmt::format(",{} [{}]", c->name, c->unit);
        out += '\n';
        for (std::size_t k = 0; k < first.x.size(); ++k) {
            out += fmt::format("{:.9g}", first.x[k]);
            for (const Curve* c : block) out += fmt::format(",{:.9g}", c->y[k]);
            out += '\n';
        }
    }
    return out;
}

} // namespace mavlo
