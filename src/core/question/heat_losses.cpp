#include "question/heat_losses.h"

#include "figure/balance.h"
#include "figure/loss.h"
#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "question/load_inputs.h"
#include "question/named_values.h"
#include "question/period.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

struct NamedLoss {
    const char* name;
    LossPart part;
};
constexpr NamedLoss named_losses[] = {{"stray", LossPart::WindingStray},
                                      {"iron_stator", LossPart::IronStator},
                                      {"iron_rotor", LossPart::IronRotor},
                                      {"magnets", LossPart::Magnets},
                                      {"shaft", LossPart::Shaft},
                                      {"shell", LossPart::Shell},
                                      {"bars", LossPart::Bars},
                                      {"rings", LossPart::Rings},
                                      {"solid_stator", LossPart::SolidStator},
                                      {"solid_rotor", LossPart::SolidRotor},
                                      {"bearings", LossPart::Bearings},
                                      {"windage", LossPart::Windage}};

std::string known_names() {
    std::string list = "copper";
    for (const NamedLoss& named : named_losses) list += std::string(", ") + named.name;
    return list;
}

/// What of this question's texts another one takes.
Ask ask_of(const QuestionContext& c, const std::vector<QuestionInput>& inputs) {
    Ask ask = c.ask;
    ask.with.clear();
    ask.with_error = false;
    for (const QuestionInput& input : inputs)
        if (const auto found = c.ask.with.find(input.key); found != c.ask.with.end()) ask.with.insert(*found);
    return ask;
}

double figure_or_zero(const Answer& answer, const char* name) {
    return answer.figure(name).value_or(0);
}

/// The figures by which answers tell their losses.
constexpr std::pair<const char*, LossPart> loss_figures[] = {{"iron_loss_stator", LossPart::IronStator},
                                                             {"iron_loss_rotor", LossPart::IronRotor},
                                                             {"magnet_loss", LossPart::Magnets},
                                                             {"shaft_loss", LossPart::Shaft},
                                                             {"shell_loss", LossPart::Shell},
                                                             {"bar_loss", LossPart::Bars},
                                                             {"ring_loss", LossPart::Rings},
                                                             {"solid_loss_stator", LossPart::SolidStator},
                                                             {"solid_loss_rotor", LossPart::SolidRotor},
                                                             {"bearing_loss", LossPart::Bearings},
                                                             {"windage_loss", LossPart::Windage}};

/// By load, at a speed and with the magnets at a temperature where it is not the context's.
Result<KnownLosses> losses_of_load(QuestionContext& c, double slot_share, double speed,
                                   std::optional<double> magnets = {}) {
    Ask ask = ask_of(c, load_inputs());
    ask.with["speed"] = fmt::format("{:.12g} rpm", speed / rpm);
    for (const char* key : {"winding_temperature", "magnet_temperature"})
        if (const auto found = c.ask.with.find(key); found != c.ask.with.end()) ask.with.insert(*found);
    if (magnets) ask.with["magnet_temperature"] = fmt::format("{:.9g} degC", *magnets - zero_celsius);
    const auto answer = ask_question("load", ask, {c.threads, c.watch, {}, c.map});
    if (!answer) return answer.problems();
    KnownLosses out;
    const double copper = figure_or_zero(*answer, "copper_loss"),
                 direct = figure_or_zero(*answer, "copper_loss_dc"),
                 stray = figure_or_zero(*answer, "winding_stray_loss");
    out.winding = {direct * slot_share, direct * (1 - slot_share), std::max(0.0, copper - direct) + stray,
                   c.machine.winding.temperature};
    std::string unknown;
    for (const auto& [name, part] : loss_figures) {
        const double value = figure_or_zero(*answer, name);
        if (value > 0) out.other.watts[part] = value;
        const bool matters = part == LossPart::IronStator || part == LossPart::IronRotor;
        if (matters && !answer->figure(name)) unknown = " What the iron loses is not known and is left out.";
    }
    c.answer.effort.solves += answer->effort.solves;
    out.words = fmt::format("Losses by load with {:.4g} A peak at {:.4g} rpm.{}", c.input("current"),
                            speed / rpm, unknown);
    return out;
}

/// Where iron, magnets and strands lose it, by fields with the load's currents.
Result<FieldLosses> period_losses(QuestionContext& c, const std::shared_ptr<const MachineModel>& model) {
    const Dq current = current_vector(c.input("current"), c.input("advance"));
    const auto period = sweep_period_with_loci(model, std::min(24, int(c.input("points"))), current, c.threads,
                                               {{}, c.watch.stop});
    if (!period) return period.problems();
    return field_losses(*model, period->loci);
}

Problems find_densities(QuestionContext& c, const std::shared_ptr<const MachineModel>& model, double speed,
                        KnownLosses& losses) {
    auto found = period_losses(c, model);
    if (!found) return found.problems();
    const double f = electrical_frequency(c.machine, speed);
    for (const IronLoss& density : found->density) losses.other.density.push_back(density.at(f));
    losses.period = std::make_shared<const FieldLosses>(std::move(*found));
    return {};
}

/// A cage by its plate: iron in the stator, the rotor's in its bars.
Result<KnownLosses> losses_of_plate(QuestionContext& c, double slot_share) {
    const QuestionKind* plate = find_question("rating-plate");
    Ask ask = ask_of(c, plate->inputs);
    if (!ask.with.contains("output") && !ask.with.contains("slip")) {
        if (!c.machine.rating.torque)
            return Problem{"--with output", "Say the output or the slip of the cage, or give the losses."};
        ask.with["output"] = fmt::format("{:.9g} W", *c.machine.rating.torque * c.machine.rating.speed);
    }
    const auto answer = ask_question("rating-plate", ask, {c.threads, c.watch, {}, {}});
    if (!answer) return answer.problems();
    KnownLosses out;
    const double copper = figure_or_zero(*answer, "copper_loss_stator");
    out.winding = {copper * slot_share, copper * (1 - slot_share), 0, c.machine.winding.temperature};
    out.other.watts[LossPart::IronStator] = figure_or_zero(*answer, "iron_loss");
    out.other.watts[LossPart::Bars] = figure_or_zero(*answer, "copper_loss_rotor");
    out.other.watts[LossPart::Bearings] = figure_or_zero(*answer, "friction_loss");
    c.answer.effort.solves += answer->effort.solves;
    out.words = fmt::format(
        "Losses by the rating plate at {:.4g} rpm; added load loss is left out, and the cage's stay as warm "
        "as its design says.",
        figure_or_zero(*answer, "speed"));
    return out;
}

} // namespace

Result<KnownLosses> read_losses(const std::string& text, const Machine& machine, double slot_share) {
    KnownLosses out;
    out.winding.temperature = machine.winding.temperature;
    const auto values = named_values(text, "--with losses", "copper=120 W, iron_stator=30 W");
    if (!values) return values.problems();
    for (const auto& [name, value] : *values) {
        if (!value.dimension.plain() && value.dimension != dimension::power)
            return Problem{"--with losses", fmt::format("{} is a power in W.", name)};
        if (!std::isfinite(value.si) || value.si < 0)
            return Problem{"--with losses", fmt::format("{} must not be below zero.", name)};
        if (name == "copper") {
            if (!machine.wound())
                return Problem{"--with losses", "This stator has no winding that could lose anything."};
            out.winding.slots += value.si * slot_share;
            out.winding.ends += value.si * (1 - slot_share);
            continue;
        }
        const auto* named = std::find_if(std::begin(named_losses), std::end(named_losses),
                                         [&, &wanted = name](const NamedLoss& n) { return wanted == n.name; });
        if (named == std::end(named_losses))
            return Problem{"--with losses",
                           fmt::format("\"{}\" is no loss here; they are {}.", name, known_names())};
        out.other.watts[named->part] += value.si;
    }
    out.words = fmt::format("Losses as given, {:.4g} W, the winding's at {:.4g} °C.", out.total(),
                            out.winding.temperature - zero_celsius);
    return out;
}

HeatLosses KnownLosses::as_found() const {
    HeatLosses out = other;
    out.slots = winding.slots;
    out.ends = winding.ends;
    out.added = winding.added;
    return out;
}

void KnownLosses::add(const KnownLosses& more, double share, double current) {
    for (const auto& [part, watts] : more.other.watts) other.watts[part] += share * watts;
    if (other.density.empty()) other.density = more.other.density;
    const double square = share * current * current;
    winding.slots += square * more.winding.slots;
    winding.ends += square * more.winding.ends;
    winding.added += square * more.winding.added;
    winding.temperature = more.winding.temperature;
    if (words.empty()) words = more.words;
}

std::string loss_name(LossPart part) {
    const auto* named = std::find_if(std::begin(named_losses), std::end(named_losses),
                                     [&](const NamedLoss& n) { return n.part == part; });
    return named == std::end(named_losses) ? "copper" : named->name;
}

bool are_asked_for(const Inputs& inputs) {
    const std::string text(trim(inputs.word("losses")));
    return text.empty() || text == "auto";
}

Result<KnownLosses> known_losses(QuestionContext& c, const MachineHeatModel& model, double speed) {
    if (!are_asked_for(c.inputs)) return read_losses(c.inputs.word("losses"), c.machine, model.slot_share());
    if (c.machine.facts().cage) return losses_of_plate(c, model.slot_share());
    auto losses = losses_of_load(c, model.slot_share(), speed);
    if (!losses) return losses;
    if (auto problems = find_densities(c, model.field_model(), speed, *losses); !problems.empty())
        return problems;
    return losses;
}

Result<KnownLosses> losses_with_magnets_at(QuestionContext& c, const KnownLosses& before, double kelvin,
                                           double slot_share) {
    // Of a supply's currents the question itself; given ones stay, and what a period of fields loses of each
    // part at one temperature and at the other says how that part changes.
    if (!before.period || c.inputs.word_or("supply", "currents") != "currents") {
        auto losses = losses_of_load(c, slot_share, c.input("speed"), kelvin);
        if (losses) losses->other.density = before.other.density;
        return losses;
    }
    const auto model = prepare_model(c, at_temperatures(c.machine, {kelvin, {}}), c.mesh);
    if (!model) return model.problems();
    const auto now = period_losses(c, *model);
    if (!now) return now.problems();
    const double f = electrical_frequency(c.machine, c.input("speed"));
    KnownLosses out = before;
    const auto change = [&](LossPart part, double was, double is) {
        if (const auto own = out.other.watts.find(part); own != out.other.watts.end() && was > 0)
            own->second *= is / was;
    };
    change(LossPart::IronStator, before.period->stator.at(f), now->stator.at(f));
    change(LossPart::IronRotor, before.period->rotor.at(f), now->rotor.at(f));
    change(LossPart::Magnets, before.period->magnet(f), now->magnet(f));
    return out;
}

KnownLosses losses_with_steel_at(const KnownLosses& before, const Machine& machine, double f,
                                 const SteelTemperatures& kelvin) {
    KnownLosses out = before;
    if (!before.period) return out;
    const auto follow = [&](LossPart part, const IronLoss& loss, const char* path, std::optional<double> warm) {
        const Substance* steel = machine.substance(path);
        const auto own = out.other.watts.find(part);
        if (!steel || !warm || own == out.other.watts.end() || loss.at(f) <= 0) return;
        const double now = steel->material.resistivity_at(*warm);
        if (now <= 0) return;
        const double ratio = steel->material.resistivity_at(steel->temperature) / now,
                     classical = loss.classical_at(f), excess = loss.excess * std::pow(f, 1.5);
        own->second *= 1 + ((ratio - 1) * classical + (std::sqrt(ratio) - 1) * excess) / loss.at(f);
    };
    follow(LossPart::IronStator, before.period->stator, "stator.steel", kelvin.stator);
    follow(LossPart::IronRotor, before.period->rotor, "rotor.steel", kelvin.rotor);
    return out;
}

KnownLosses between(const KnownLosses& a, const KnownLosses& b, double share) {
    KnownLosses out;
    out.add(a, 1 - share);
    out.add(b, share);
    return out;
}

KnownLosses losses_of(const Balance& power, const Machine& machine, double slot_share) {
    KnownLosses out;
    for (LossPart part : all_loss_parts)
        if (const double watts = power.known(part); watts > 0 && part != LossPart::Copper &&
                                                    part != LossPart::WindingStray &&
                                                    part != LossPart::Switches)
            out.other.watts[part] = watts;
    const double direct = power.copper_dc;
    out.winding = {slot_share * direct, (1 - slot_share) * direct,
                   std::max(0.0, power.known(LossPart::Copper) - direct) + power.known(LossPart::WindingStray),
                   machine.winding.temperature};
    return out;
}

std::string losses_in_words(const Answer& answer) {
    std::string out;
    const auto add = [&](const char* name, double watts) {
        if (watts > 0) out += fmt::format("{}{}={:.6g} W", out.empty() ? "" : ", ", name, watts);
    };
    add("copper", figure_or_zero(answer, "copper_loss"));
    add("copper", figure_or_zero(answer, "copper_loss_stator"));
    add("stray", figure_or_zero(answer, "winding_stray_loss"));
    for (const NamedLoss& named : named_losses)
        for (const auto& [figure, part] : loss_figures)
            if (part == named.part) add(named.name, figure_or_zero(answer, figure));
    if (answer.figure("copper_loss_rotor")) add("bars", figure_or_zero(answer, "copper_loss_rotor"));
    if (!answer.figure("iron_loss_stator")) add("iron_stator", figure_or_zero(answer, "iron_loss"));
    if (!answer.figure("bearing_loss")) add("bearings", figure_or_zero(answer, "friction_loss"));
    return out;
}

} // namespace mavlo
