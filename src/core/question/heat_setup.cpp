#include "question/heat_setup.h"

#include "figure/balance.h"
#include "quantity/constants.h"
#include "quantity/dense.h"
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

bool is_open(const Inputs& inputs) {
    const std::string text(trim(inputs.word("losses")));
    return text.empty() || text == "auto";
}

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

/// By load, and its iron's densities by one more period of fields.
Result<KnownLosses> losses_of_load(QuestionContext& c, double slot_share) {
    Ask ask = ask_of(c, load_inputs());
    const auto answer = ask_question("load", ask, {c.threads, c.watch, {}, c.map});
    if (!answer) return answer.problems();
    KnownLosses out;
    const double copper = figure_or_zero(*answer, "copper_loss"),
                 direct = figure_or_zero(*answer, "copper_loss_dc"),
                 stray = figure_or_zero(*answer, "winding_stray_loss");
    out.winding = {direct * slot_share, direct * (1 - slot_share), std::max(0.0, copper - direct) + stray,
                   c.machine.winding.temperature};
    const std::pair<const char*, LossPart> figures[] = {
        {"iron_loss_stator", LossPart::IronStator},   {"iron_loss_rotor", LossPart::IronRotor},
        {"magnet_loss", LossPart::Magnets},           {"shaft_loss", LossPart::Shaft},
        {"solid_loss_stator", LossPart::SolidStator}, {"solid_loss_rotor", LossPart::SolidRotor},
        {"bearing_loss", LossPart::Bearings},         {"windage_loss", LossPart::Windage}};
    std::string unknown;
    for (const auto& [name, part] : figures) {
        const double value = figure_or_zero(*answer, name);
        if (value > 0) out.other.watts[part] = value;
        const bool matters = part == LossPart::IronStator || part == LossPart::IronRotor;
        if (matters && !answer->figure(name)) unknown = " What the iron loses is not known and is left out.";
    }
    c.answer.effort.solves += answer->effort.solves;
    out.words = fmt::format("Losses by load with {:.4g} A peak at {:.4g} rpm.{}", c.input("current"),
                            c.input("speed") / rpm, unknown);
    return out;
}

/// Where iron loses it, by fields with the load's currents.
Problems find_densities(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                        KnownLosses& losses) {
    const Dq current = current_vector(c.input("current"), c.input("advance"));
    const auto period = sweep_period_with_loci(model, std::min(48, int(c.input("points"))), current, c.threads,
                                               {{}, c.watch.stop});
    if (!period) return period.problems();
    const FieldLosses found = field_losses(*model, period->loci);
    const double f = electrical_frequency(c.machine, c.input("speed"));
    for (std::size_t e = 0; e < found.density.size(); ++e) {
        const Part& part = model->part(model->elements[e]);
        losses.other.iron_density.push_back(part.use == Use::Iron ? found.density[e].at(f) : 0);
    }
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

std::vector<QuestionInput> heat_inputs() {
    QuestionInput losses{
        "losses", "Losses", "", "auto",
        "auto: by load, of a cage by rating-plate; or as copper=120 W, iron_stator=30 W and so on, at the "
        "design's winding temperature."};
    losses.kind = InputKind::Word;
    QuestionInput ambient{"ambient", "Ambient", "degC", "= cooling.ambient", "Temperature of the surroundings.",
                          -100,      400};
    std::vector<QuestionInput> all{std::move(losses), std::move(ambient)};
    for (QuestionInput& input : load_inputs()) all.push_back(std::move(input));
    const char* point = "Of a cage: its rated point; auto: rated torque at rated speed.";
    all.push_back({"output", "Output", "W", "auto", point, -1e9, 1e9});
    all.back().auto_allowed = true;
    all.push_back({"slip", "Slip", "", "auto", point, -1, 1});
    all.back().auto_allowed = true;
    return all;
}

int heat_solves(const Machine& machine, const Inputs& inputs) {
    if (!is_open(inputs)) return 2;
    return machine.facts().cage ? 300 : int(1.4 * inputs.at("points")) + 2;
}

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
                            out.winding.temperature - 273.15);
    return out;
}

Result<KnownLosses> known_losses(QuestionContext& c, const MachineHeatModel& model) {
    if (!is_open(c.inputs)) return read_losses(c.inputs.word("losses"), c.machine, model.slot_share());
    if (c.machine.facts().cage) return losses_of_plate(c, model.slot_share());
    auto losses = losses_of_load(c, model.slot_share());
    if (!losses) return losses;
    if (auto problems = find_densities(c, model.field_model(), *losses); !problems.empty()) return problems;
    return losses;
}

WindingHeat winding_heat(const WindingLoss& loss, const Material& conductor, double slots_kelvin,
                         double ends_kelvin) {
    const double at = conductor.resistivity_at(loss.temperature),
                 slope = conductor.resistivity * conductor.resistivity_per_kelvin / at;
    const double in_slots = conductor.resistivity_at(slots_kelvin) / at,
                 in_ends = conductor.resistivity_at(ends_kelvin) / at;
    return {loss.slots * in_slots + loss.added / in_slots, loss.ends * in_ends,
            loss.slots * slope - loss.added / (in_slots * in_slots) * slope, loss.ends * slope};
}

LossLawOfHeat winding_law(const WindingLoss& loss, const Material& conductor, double factor, Eigen::Index slots,
                          Eigen::Index ends) {
    return [=](const Eigen::VectorXd& t, Eigen::MatrixXd* slope) {
        const bool two = ends >= 0;
        const WindingHeat w = winding_heat(loss, conductor, t[slots], t[two ? ends : slots]);
        const double square = factor * factor;
        Eigen::VectorXd p = Eigen::VectorXd::Zero(t.size());
        p[slots] = square * (w.slots + (two ? 0 : w.ends));
        if (two) p[ends] = square * w.ends;
        if (slope) {
            slope->setZero(t.size(), t.size());
            (*slope)(slots, slots) = square * (w.slots_slope + (two ? 0 : w.ends_slope));
            if (two) (*slope)(ends, ends) = square * w.ends_slope;
        }
        return p;
    };
}

Result<std::unique_ptr<MachineHeatModel>> heat_model(QuestionContext& c, double speed) {
    auto cooling = cooling_of(c.machine, c.ask.materials);
    if (!cooling) return cooling.problems();
    cooling->ambient = c.input("ambient");
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    return MachineHeatModel::of(*model, std::move(*cooling), speed);
}

namespace {

/// Slots and ends, joined as the model joins them, at rest where all other losses alone bring them.
Result<HeatNetwork> winding_network(MachineHeatModel& model, const MachineHeat& with, const HeatLosses& used) {
    std::vector<HeatPart> parts{HeatPart::Winding};
    if (model.has(HeatPart::Ends)) parts.push_back(HeatPart::Ends);
    const auto rises = model.rises(parts);
    if (!rises) return rises.problems();
    HeatNetwork n;
    const auto count = Eigen::Index(parts.size());
    n.names.assign(parts.size(), "winding");
    n.conductance = solved(*rises, Eigen::MatrixXd(Eigen::MatrixXd::Identity(count, count)));
    Eigen::VectorXd own(count), at(count);
    for (Eigen::Index k = 0; k < count; ++k) {
        at[k] = with.mean.at(parts[std::size_t(k)]);
        own[k] =
            parts[std::size_t(k)] == HeatPart::Winding ? used.slots + (count == 1 ? used.ends : 0) : used.ends;
    }
    n.at_rest = at - *rises * own;
    n.capacity = Eigen::VectorXd::Ones(count);
    return n;
}

} // namespace

Result<CoupledHeat> coupled_heat(MachineHeatModel& model, const KnownLosses& known, const Material& conductor) {
    constexpr int most_rounds = 40;
    constexpr double same = 1e-6; // K
    CoupledHeat out;
    out.losses = known.other;
    const WindingHeat cold =
        winding_heat(known.winding, conductor, known.winding.temperature, known.winding.temperature);
    out.losses.slots = cold.slots;
    out.losses.ends = cold.ends;
    if (!model.has(HeatPart::Winding)) {
        auto heat = model.steady(out.losses);
        if (!heat) return heat.problems();
        out.heat = std::move(*heat);
        return out;
    }
    const auto law = [&, ends = model.has(HeatPart::Ends) ? 1 : -1](double factor) {
        return winding_law(known.winding, conductor, factor, 0, ends);
    };
    double before = 0;
    for (int round = 0; round < most_rounds; ++round) {
        auto heat = model.steady(out.losses);
        if (!heat) return heat.problems();
        out.heat = std::move(*heat);
        const double now = out.heat.mean.at(HeatPart::Winding);
        const auto network = winding_network(model, out.heat, out.losses);
        if (!network) return network.problems();
        const SteadyHeat steady = steady_heat(*network, law(1));
        if (steady.runs_away) {
            out.runs_away_from = runaway_factor(*network, law, 0, 1);
            return out;
        }
        const double ends = steady.temperature[steady.temperature.size() - 1];
        const WindingHeat w = winding_heat(known.winding, conductor, steady.temperature[0], ends);
        out.losses.slots = w.slots;
        out.losses.ends = w.ends;
        if (round > 0 && std::abs(now - before) < same) break;
        before = now;
    }
    return out;
}

} // namespace mavlo
