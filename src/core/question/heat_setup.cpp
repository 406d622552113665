#include "question/heat_setup.h"

#include "quantity/dense.h"
#include "question/load_inputs.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace mavlo {

QuestionInput walls_input() {
    QuestionInput walls{"walls", "Films outside", "", "auto",
                        "auto: by the correlations of the design's cooling; or as a flow solver found them: "
                        "housing=45 W/(m²·K) at 38 °C, end shields=at 62 °C (the wall's own)."};
    walls.kind = InputKind::Word;
    return walls;
}

Result<CoolingData> cooling_in(const QuestionContext& c) {
    auto cooling = cooling_of(c.machine, c.ask.materials);
    if (!cooling) return cooling;
    auto walls = read_walls(c.inputs.word("walls"));
    if (!walls) return walls.problems();
    cooling->ambient = c.input("ambient");
    cooling->walls = std::move(*walls);
    return cooling;
}

std::vector<QuestionInput> heat_inputs() {
    QuestionInput losses{
        "losses", "Losses", "", "auto",
        "auto: by load, of a cage by rating-plate; or as copper=120 W, iron stator=30 W and so on, at the "
        "design's winding temperature."};
    losses.kind = InputKind::Word;
    QuestionInput ambient{"ambient", "Ambient", "degC", "= cooling.ambient", "Temperature of the surroundings.",
                          -100,      400};
    std::vector<QuestionInput> all{std::move(losses), std::move(ambient), walls_input()};
    for (QuestionInput& input : load_inputs()) all.push_back(std::move(input));
    const char* point = "Of a cage: its rated point; auto: rated torque at rated speed.";
    all.push_back({"output", "Output", "W", "auto", point, -1e9, 1e9});
    all.back().auto_allowed = true;
    all.back().applies = [](const Facts& f) { return f.cage; };
    all.push_back({"slip", "Slip", "", "auto", point, -1, 1});
    all.back().auto_allowed = true;
    all.back().applies = [](const Facts& f) { return f.cage; };
    return all;
}

int heat_solves(const Machine& machine, const Inputs& inputs) {
    if (!are_asked_for(inputs)) return 2;
    return machine.facts().cage ? 300 : int(1.4 * inputs.at("points")) + 2;
}

WindingHeat winding_heat(const WindingLoss& loss, const Material& conductor, double slots_kelvin,
                         double ends_kelvin) {
    const double at = conductor.resistivity_at(loss.temperature),
                 slope = conductor.resistivity * conductor.resistivity_per_kelvin / at;
    const double in_slots = conductor.resistivity_at(slots_kelvin) / at,
                 in_ends = conductor.resistivity_at(ends_kelvin) / at;
    return {loss.slots * in_slots, loss.ends * in_ends, loss.added / in_slots,
            loss.slots * slope - loss.added / (in_slots * in_slots) * slope, loss.ends * slope};
}

LossLawOfHeat winding_law(const WindingLoss& loss, const Material& conductor, double factor, Eigen::Index slots,
                          Eigen::Index ends) {
    return [=](const Eigen::VectorXd& t, Eigen::MatrixXd* slope) {
        const bool two = ends >= 0;
        const WindingHeat w = winding_heat(loss, conductor, t[slots], t[two ? ends : slots]);
        const double square = factor * factor;
        Eigen::VectorXd p = Eigen::VectorXd::Zero(t.size());
        p[slots] = square * (w.slots + w.added + (two ? 0 : w.ends));
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
    auto cooling = cooling_in(c);
    if (!cooling) return cooling.problems();
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
        own[k] = parts[std::size_t(k)] == HeatPart::Winding
                     ? used.slots + used.added + (count == 1 ? used.ends : 0)
                     : used.ends;
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
    const auto take = [&](const WindingHeat& w) {
        out.losses.slots = w.slots;
        out.losses.ends = w.ends;
        out.losses.added = w.added;
    };
    take(cold);
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
        take(winding_heat(known.winding, conductor, steady.temperature[0], ends));
        if (round > 0 && std::abs(now - before) < same) break;
        before = now;
    }
    return out;
}

namespace {

/// Of both parts of the stator by their heat capacity.
SteelTemperatures steel_of(const MachineHeatModel& model, const MachineHeat& heat) {
    SteelTemperatures out;
    double weight = 0, sum = 0;
    for (HeatPart part : {HeatPart::Teeth, HeatPart::Yoke}) {
        if (!model.has(part)) continue;
        weight += model.capacity(part);
        sum += model.capacity(part) * heat.mean.at(part);
    }
    if (weight > 0) out.stator = sum / weight;
    if (model.has(HeatPart::Rotor)) out.rotor = heat.mean.at(HeatPart::Rotor);
    return out;
}

/// Losses by load and how they change with what they heat: the magnets by a second period of fields, between
/// the two in proportion; the steels by their resistivity.
class Following {
  public:
    Following(QuestionContext& context, MachineHeatModel& model, KnownLosses first)
        : c(context)
        , m_model(model)
        , m_first(std::move(first))
        , m_frequency(electrical_frequency(c.machine, c.input("speed"))) {}

    /// Empty where the magnets are as warm as they were taken for.
    Problems warm_magnets(const MachineHeat& heat) {
        constexpr double near = 0.5; // K
        const Substance* magnet = c.machine.magnet();
        if (!magnet || !m_model.has(HeatPart::Magnets)) return {};
        m_taken = magnet->temperature;
        m_other = heat.mean.at(HeatPart::Magnets);
        if (std::abs(m_other - m_taken) < near) return {};
        auto warm = losses_with_magnets_at(c, m_first, m_other, m_model.slot_share());
        if (!warm) return warm.problems();
        m_warm = std::move(*warm);
        return {};
    }
    bool magnets_count() const { return m_warm.has_value(); }

    KnownLosses at(const MachineHeat& heat) const {
        KnownLosses out = m_first;
        if (m_warm)
            out = between(m_first, *m_warm, (heat.mean.at(HeatPart::Magnets) - m_taken) / (m_other - m_taken));
        out.period = m_first.period;
        return losses_with_steel_at(out, c.machine, m_frequency, steel_of(m_model, heat));
    }

  private:
    QuestionContext& c;
    MachineHeatModel& m_model;
    KnownLosses m_first;
    std::optional<KnownLosses> m_warm;
    double m_frequency, m_taken = 0, m_other = 0;
};

} // namespace

Result<SelfHeated> self_heated(QuestionContext& c, MachineHeatModel& model) {
    constexpr double same = 1e-3; // K
    constexpr int most_rounds = 12;
    const Material& conductor = c.machine.winding.conductor_material;
    auto losses = known_losses(c, model, c.input("speed"));
    if (!losses) return losses.problems();
    auto found = coupled_heat(model, *losses, conductor);
    if (!found) return found.problems();
    SelfHeated out{std::move(*found), std::move(*losses)};
    if (!are_asked_for(c.inputs) || !out.losses.period || out.found.runs_away_from > 0) return out;
    Following following(c, model, out.losses);
    if (auto problems = following.warm_magnets(out.found.heat); !problems.empty()) return problems;
    out.magnets_count = following.magnets_count();
    for (int round = 0; round < most_rounds; ++round) {
        out.losses = following.at(out.found.heat);
        auto again = coupled_heat(model, out.losses, conductor);
        if (!again) return again.problems();
        const auto before = std::exchange(out.found, std::move(*again)).heat.mean;
        if (out.found.runs_away_from > 0) break;
        double change = 0;
        for (const auto& [part, kelvin] : out.found.heat.mean)
            change = std::max(change, std::abs(kelvin - before.at(part)));
        if (change < same) break;
    }
    return out;
}

} // namespace mavlo
