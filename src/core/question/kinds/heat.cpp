// Steady temperatures by part, where the heat goes, and what would help most.

#include "quantity/constants.h"
#include "question/heat_setup.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace mavlo::question_heat {
namespace {

constexpr std::size_t told_ways = 6;

void add_temperatures(QuestionContext& c, const MachineHeatModel& model, const MachineHeat& heat) {
    const auto figure = [&](const char* name, HeatPart part) {
        const auto found = heat.mean.find(part);
        c.answer.figures.push_back(
            {name, found == heat.mean.end() ? std::nullopt : std::optional(found->second - zero_celsius),
             "degC"});
    };
    const bool wound = model.has(HeatPart::Winding), magnets = model.has(HeatPart::Magnets);
    const auto mean = [&] {
        const double slots = heat.mean.at(HeatPart::Winding), share = model.slot_share();
        return model.has(HeatPart::Ends) ? share * slots + (1 - share) * heat.mean.at(HeatPart::Ends) : slots;
    };
    c.answer.figures.push_back(
        {"temperature_winding_mean", wound ? std::optional(mean() - zero_celsius) : std::nullopt, "degC"});
    c.answer.figures.push_back({"temperature_winding_highest",
                                wound ? std::optional(heat.winding_highest - zero_celsius) : std::nullopt,
                                "degC"});
    figure("temperature_winding_slots", HeatPart::Winding);
    figure("temperature_end_windings", HeatPart::Ends);
    figure("temperature_magnets", HeatPart::Magnets);
    c.answer.figures.push_back({"temperature_magnets_highest",
                                magnets ? std::optional(heat.magnets_highest - zero_celsius) : std::nullopt,
                                "degC"});
    figure("temperature_cage", HeatPart::Bars);
    figure("temperature_rotor", HeatPart::Rotor);
    figure("temperature_stator_teeth", HeatPart::Teeth);
    figure("temperature_stator_yoke", HeatPart::Yoke);
    figure("temperature_housing", HeatPart::Housing);
    figure("temperature_end_shields", HeatPart::Shields);
    figure("temperature_bearings", HeatPart::Bearings);
    figure("temperature_shaft", HeatPart::Shaft);
    figure("temperature_inner_air", HeatPart::InnerAir);
    c.answer.figures.push_back(
        {"temperature_coolant_outlet",
         model.has(HeatPart::Coolant) ? std::optional(model.coolant_outlet(heat) - zero_celsius) : std::nullopt,
         "degC"});
}

/// K to each limit, from the hottest place.
void add_margins(QuestionContext& c, const MachineHeatModel& model, const MachineHeat& heat) {
    const Substance* magnet = c.machine.magnet();
    const bool limited = model.has(HeatPart::Magnets) && magnet && magnet->material.highest_temperature > 0;
    c.answer.figures.push_back({"margin_winding",
                                model.has(HeatPart::Winding)
                                    ? std::optional(model.cooling().insulation_limit - heat.winding_highest)
                                    : std::nullopt,
                                "K"});
    c.answer.figures.push_back(
        {"margin_magnets",
         limited ? std::optional(magnet->material.highest_temperature - heat.magnets_highest) : std::nullopt,
         "K"});
}

void add_losses(QuestionContext& c, const CoupledHeat& found) {
    const HeatLosses& losses = found.losses;
    c.answer.figures.push_back({"copper_loss", losses.winding(), "W"});
    c.answer.figures.push_back({"total_loss", found.heat.loss, "W"});
    c.answer.figures.push_back({"heat_balance",
                                found.heat.loss > 0
                                    ? std::optional((found.heat.loss - found.heat.to_ambient) / found.heat.loss)
                                    : std::nullopt,
                                "1"});
}

/// What flows where, and what a tenth more of each resistance does to the winding.
Result<std::vector<HeatWay>> add_ways(QuestionContext& c, MachineHeatModel& model, const MachineHeat& heat) {
    auto ways = model.ways(heat);
    if (!ways) return ways;
    Curve influence{"heat_influence", "K", "way", "1", {}, {}}, flow{"heat_flow", "W", "way", "1", {}, {}};
    const auto add = [](Curve& curve, const HeatWay& way, double value) {
        curve.x.push_back(double(curve.x.size() + 1));
        curve.y.push_back(value);
        curve.labels.push_back(way.name);
    };
    for (std::size_t k = 0; k < std::min(told_ways, ways->size()); ++k)
        add(influence, (*ways)[k], (*ways)[k].influence);
    std::vector<HeatWay> by_flow = *ways;
    std::sort(by_flow.begin(), by_flow.end(),
              [](const HeatWay& a, const HeatWay& b) { return a.flow > b.flow; });
    for (const HeatWay& way : by_flow)
        if (way.flow > 1e-3 * heat.loss) add(flow, way, way.flow);
    c.answer.curves.push_back(std::move(influence));
    c.answer.curves.push_back(std::move(flow));
    return ways;
}

std::string limits_in_words(const QuestionContext& c) {
    std::vector<std::string> over;
    if (const auto margin = c.answer.figure("margin_winding"); margin && *margin < 0)
        over.push_back(fmt::format("the winding is {:.0f} K over its thermal class", -*margin));
    if (const auto margin = c.answer.figure("margin_magnets"); margin && *margin < 0)
        over.push_back(fmt::format("the magnets are {:.0f} K over what their grade bears", -*margin));
    return over.empty() ? "" : fmt::format(" Too hot: {}.", fmt::join(over, ", "));
}

std::string where(const HeatWay& way) {
    const bool between = way.name.find(" to ") != std::string::npos;
    return (between ? "from " : "in the ") + way.name;
}

void tell(QuestionContext& c, const SelfHeated& self, const std::vector<HeatWay>& ways) {
    const CoupledHeat& found = self.found;
    const auto shown = [&](const char* name) { return c.answer.figure(name).value_or(0); };
    std::string& out = c.answer.sentence;
    out =
        fmt::format("At {:.4g} °C around, {:.4g} W bring ", c.input("ambient") - zero_celsius, found.heat.loss);
    if (c.answer.figure("temperature_winding_mean"))
        out += fmt::format("the winding to {:.1f} °C on average and {:.1f} °C at most",
                           shown("temperature_winding_mean"), shown("temperature_winding_highest"));
    else
        out += fmt::format("the stator to {:.1f} °C", shown("temperature_stator_yoke"));
    if (const auto magnets = c.answer.figure("temperature_magnets"))
        out += fmt::format(", the magnets to {:.1f} °C", *magnets);
    out += ".";
    if (ways.size() > 1)
        out += fmt::format(" A tenth less resistance cools the winding by {:.2g} K {}, by {:.2g} K {}.",
                           ways[0].influence, where(ways[0]), ways[1].influence, where(ways[1]));
    out += limits_in_words(c) + " " + self.losses.words;
    if (self.magnets_count)
        out += " They follow the magnets' temperature, too.";
    else if (!are_asked_for(c.inputs) && c.machine.magnet())
        out += " The magnets' temperature does not change them.";
    for (const std::string& words : found.heat.notes) out += " " + words;
    out += self.losses.period
               ? " What eddy currents lose in the steel follows its resistivity, hysteresis does not;"
               : " Steel loses what is given, whatever its temperature;";
    out += " along the stack all is taken as alike.";
}

Problem runs_away(const CoupledHeat& found, const QuestionContext& c) {
    return {"--with current",
            fmt::format("The winding's resistance grows faster with its temperature than the heat flows off: "
                        "it runs away from "
                        "{:.3g} times this current ({:.4g} A) on. Cool better, or take less current.",
                        found.runs_away_from, found.runs_away_from * c.input("current"))};
}

Problems run(QuestionContext& c) {
    auto model = heat_model(c, c.input("speed"));
    if (!model) return model.problems();
    const auto self = self_heated(c, **model);
    if (!self) return self.problems();
    const CoupledHeat* found = &self->found;
    if (found->runs_away_from > 0) return {runs_away(*found, c)};
    add_temperatures(c, **model, found->heat);
    add_margins(c, **model, found->heat);
    add_losses(c, *found);
    const auto drop = (*model)->pressure_drop();
    c.answer.figures.push_back({"pressure_drop", drop, "Pa"});
    const auto ways = add_ways(c, **model, found->heat);
    if (!ways) return ways.problems();
    tell(c, *self, *ways);
    return {};
}

const RegisterQuestion registered{
    {"heat",
     "Heat",
     "Temperatures",
     "Steady temperatures of all parts, where the heat goes and what would help most.",
     heat_inputs(),
     heat_solves,
     run,
     100,
     {need_round},
     true, // its losses are those of load: one mesh serves both
     true}};

} // namespace
} // namespace mavlo::question_heat
