// The machine on a supply in time, by its flux map or on the fields themselves: currents, torque and voltages
// in the steady state or from the start.

#include "circuit/phase_ports.h"
#include "circuit/steady.h"
#include "figure/eddy.h"
#include "figure/loss.h"
#include "map/linkage_machine.h"
#include "map/map_machine.h"
#include "quantity/constants.h"
#include "question/field_watch.h"
#include "question/found_supply.h"
#include "question/growing_curves.h"
#include "question/harmonic_start.h"
#include "question/linkage_grid.h"
#include "question/own_circuit.h"
#include "question/period.h"
#include "question/run_record.h"
#include "question/solid_loss.h"
#include "question/supply_run.h"
#include "question/time_answer.h"
#include "transient/current_fed.h"
#include "transient/field_steady.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_in_time {
namespace {

constexpr int loss_points = 96; ///< positions of a period whose fields tell the losses of a run by the map

/// Periods that a price reckons with before the window, on fields.
constexpr int settling = 1;
const std::string given_currents = "currents", own = "own";

bool on_fields(const Inputs& inputs) {
    return inputs.word("method") == "field";
}
bool is_current_fed(const Inputs& inputs) {
    return inputs.word("supply") == given_currents;
}

bool is_own(const Inputs& inputs) {
    return inputs.word("supply") == own;
}

bool is_bridge(const Inputs& inputs) {
    const auto* kind = registry<SupplyKind>().find(inputs.word("supply"));
    return kind && kind->fundamental != Fundamental::Voltage && inputs.word("supply") != "short-circuit";
}

bool finds_by_map(const Machine& machine) {
    return machine.facts().dq_frame && machine.winding.phases == 3;
}

int slices_of(const Machine& machine) {
    return int(machine.skew.slices().size());
}

int solves(const Machine& machine, const Inputs& inputs) {
    const bool own_fields = is_own(inputs) && on_fields(inputs);
    const int beyond_map = own_fields ? own_field_solves(inputs) * slices_of(machine) : 0;
    if (machine.facts().switched) return linkage_map_solves(machine, inputs) + beyond_map;
    if (is_own(inputs))
        return beyond_map +
               (machine.winding.phases == 3 ? time_map_solves(machine, inputs) + zero_sequence_solves : 0);
    if (on_fields(inputs)) {
        const bool finds = !is_current_fed(inputs) && finds_by_map(machine) && leaves_open(inputs);
        return int((inputs.at("periods") + settling) * inputs.at("points")) * slices_of(machine) +
               pieces_solves(machine) + (finds ? time_map_solves(machine, inputs) : 0);
    }
    return time_map_solves(machine, inputs) + zero_sequence_of_terminals_solves(machine) +
           (is_bridge(inputs) ? loss_points : 0);
}

/// rad/s: what is given, or in step with the rotor.
double angular_frequency(const QuestionContext& c) {
    const double given = c.input("frequency");
    return std::isnan(given) ? c.machine.pole_pairs() * c.input("speed") : 2 * pi * given;
}
bool in_step(const QuestionContext& c) {
    return std::abs(angular_frequency(c) - c.machine.pole_pairs() * c.input("speed")) <
           1e-9 * angular_frequency(c);
}

Problems check_own(const QuestionContext& c) {
    if (c.machine.facts().induced)
        return {{"--with supply", "This rotor's own currents are in no map and no static field, which own "
                                  "circuits need."}};
    return own_circuit_problems(c);
}

Problems check(const QuestionContext& c) {
    if (is_own(c.inputs)) return check_own(c);
    if (c.machine.facts().switched)
        return {{"--with supply",
                 "Phases that are switched by position take supply=own here; half-bridges are the "
                 "question strokes."}};
    if (c.machine.winding.phases != 3)
        return {{"winding.phases", "This supply feeds three phases; others take supply=own."}};
    if (!is_current_fed(c.inputs))
        if (auto problems = terminal_problems(c.machine); !problems.empty()) return problems;
    if (angular_frequency(c) <= 0)
        return {{"--with speed",
                 "A speed above 0 rpm is wanted, or a frequency: the period of the run follows from it."}};
    if (on_fields(c.inputs)) return {};
    if (is_current_fed(c.inputs))
        return {{"--with method", "Given currents are asked of the fields: say method=field."}};
    if (!c.machine.facts().dq_frame)
        return {{"--with method", "This rotor's own currents are in no flux map: say method=field."}};
    if (!in_step(c))
        return {{"--with frequency",
                 "By the flux map the frequency is that of the turning rotor: leave it auto, or say "
                 "method=field."}};
    return {};
}

bool from_start(const Inputs& inputs) {
    return inputs.word("state") == "start";
}

/// What every run has, however it is computed.
TimeRun described(const QuestionContext& c, const SteadyRun& run, const Supply* supply) {
    TimeRun time{.run = run, .supply = supply};
    time.clock.omega = angular_frequency(c);
    time.speed = c.input("speed");
    time.start = phase_axis(c.machine.winding.layout);
    time.resistance = given_resistance(c);
    time.from_start = from_start(c.inputs);
    time.supply_name = is_current_fed(c.inputs) ? "given currents" : c.inputs.word("supply");
    if (on_fields(c.inputs))
        time.left_out = joined_sentences(joined_sentences(time.left_out, pieces_in_words(c.machine)),
                                         skin_in_words(c.machine, time.speed));
    return time;
}

/// Whether a bridge makes currents whose harmonics lose more than a sine does.
bool has_harmonics(const Supply& supply) {
    return supply.bridge() != nullptr;
}

/// Of the mean map, as of a sine.
void take_losses(const FluxMap& map, Dq current, double f, Balance& losses) {
    const FluxPoint point = map.at(current);
    losses[LossPart::IronStator] = point.iron_stator.at(f);
    losses[LossPart::IronRotor] = point.iron_rotor.at(f);
    losses[LossPart::Magnets] = point.magnets * f * f;
    losses.unknown = map.unknown();
}

/// Of static fields over a period with the run's own currents, a carrier's ripple evened out.
Problems take_losses_of_fields(QuestionContext& c, const SteadyRun& run, double f, Balance& losses) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const CurrentWave wave = wave_of_run(run, electrical_angle(c.machine, 0), loss_points);
    const auto period = sweep_period_with_loci(*model, loss_points, wave, c.threads, {{}, c.watch.stop});
    if (!period) return period.problems();
    const FieldLosses found = field_losses(**model, period->loci);
    losses[LossPart::IronStator] = found.stator.at(f);
    losses[LossPart::IronRotor] = found.rotor.at(f);
    losses[LossPart::Magnets] = found.magnet(f);
    losses[LossPart::Shaft] = found.shaft_loss(f);
    return {};
}

/// What is known of iron and magnets beside a run by the map; returns what is said of it.
Result<std::string> losses_by_map(QuestionContext& c, const MapRun& found, double f, Balance& losses) {
    if (!has_harmonics(*found.supply)) {
        take_losses(found.map, fundamental_current(found.run), f, losses);
        return std::string{};
    }
    if (c.map) { // no fields stand behind it
        losses.unknown = {LossPart::IronStator, LossPart::IronRotor, LossPart::Magnets};
        return std::string(
            "What the harmonics of these currents lose in iron and magnets no map tells: it is left "
            "open, and with it the efficiency.");
    }
    if (auto problems = take_losses_of_fields(c, found.run, f, losses); !problems.empty()) return problems;
    return fmt::format(
        "Iron and magnets by fields at {} positions with these currents' harmonics, but for what is "
        "faster.",
        loss_points);
}

Problems run_by_map(QuestionContext& c) {
    SteadyOptions steady;
    steady.window = int(c.input("periods"));
    steady.from_zero = from_start(c.inputs);
    const auto found = run_supply_by_map(c, angular_frequency(c), int(c.input("points")), steady);
    if (!found) return found.problems();
    TimeRun time = described(c, found->run, found->supply.get());
    if (found->map.knows_strands()) time.strands = found->map.at(fundamental_current(found->run)).strands;
    const auto words = losses_by_map(c, *found, angular_frequency(c) / (2 * pi), time.losses);
    if (!words) return words.problems();
    time.left_out = joined_sentences(joined_sentences(found->words, map_leaves_out(c)), *words);
    tell_time_run(c, time);
    return {};
}

/// Tells of each step against what the price reckoned with (a run that takes longer stands at its end), and
/// shows the run as it grows.
std::function<void(const TransientSample&)> progress_of(const QuestionContext& c) {
    if (!c.watch.progress && !c.watch.grows) return {};
    return [&watch = c.watch, growing = GrowingCurves(c.watch, 3), done = 0,
            total = solves(c.machine, c.inputs)](const TransientSample& here) mutable {
        if (watch.progress) watch.progress(std::min(++done, total - 1), total);
        growing.add(here.t, here.torque, {here.current[0], here.current[1], here.current[2]});
    };
}

void count(QuestionContext& c, const StackStepper& stepper) {
    c.answer.effort.solves += stepper.solves();
    c.answer.effort.newton_steps += stepper.newton_steps();
    c.answer.effort.threads = 1;
}

CurrentWave given_wave(const QuestionContext& c) {
    const double current = c.input("current"), advance = c.input("advance");
    const std::vector<double>& shares = c.inputs.list("amplitudes");
    if (shares.empty()) return current_vector(current, advance);
    CurrentWave wave(WaveForm::Sine, current, advance);
    wave.set_amplitudes(shares);
    return wave;
}

Problems run_with_given_currents(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    CurrentFedOptions options;
    options.wave = given_wave(c);
    options.clock.omega = angular_frequency(c);
    options.motion = {phase_axis(c.machine.winding.layout), c.input("speed")};
    options.steps = int(c.input("points"));
    options.window = int(c.input("periods"));
    options.from_start = from_start(c.inputs);
    options.resistance = given_resistance(c);
    options.end_inductance = given_end_inductance(c);
    options.stop = stop_of(c);
    options.stepped = progress_of(c);
    auto bodies = bodies_with(c, *model, options.wave);
    if (!bodies) return bodies.problems();
    const Stages stages = stages_for(**model, *bodies);
    const auto conductance = std::make_shared<const Conductance>(conductance_of(**model, std::move(*bodies)));
    if (c.inputs.list("amplitudes").empty() && !options.from_start) {
        const Dq i = current_vector(c.input("current"), c.input("advance"));
        if (auto start = harmonic_start(c, *model, conductance, {i.d, i.q}, options.clock.omega))
            options.start = std::move(start->slices);
    }
    RunRecord record(run_store(c));
    StackStepper stepper(*model, *conductance, c.machine.skew.slices(), stages, &record);
    FieldWatch watcher(**model, stepper, options.clock.omega);
    const auto run = run_with_currents(stepper, c.machine, options, watcher.observer());
    if (c.watch.stop.stop_requested()) return {stopped()};
    if (!run) return run.problems();
    count(c, stepper);
    TimeRun time = described(c, *run, nullptr);
    watcher.fill(time);
    tell_time_run(c, time);
    c.answer.spent.files = record.finish();
    return {};
}

/// A rotor with currents of its own has no flux map to find anything by: its voltages begin at angle 0.
Result<FoundSupply> supply_on_fields(QuestionContext& c) {
    SupplySettings settings = supply_settings(c.inputs, angular_frequency(c));
    if (!leaves_open(c.inputs)) return FoundSupply{settings, ""};
    if (finds_by_map(c.machine) && in_step(c)) {
        const auto map = time_map(c);
        if (!map) return map.problems();
        return found_supply(c, map->mean, settings);
    }
    if (std::isnan(settings.voltage)) settings.voltage = c.machine.rating.dc_voltage / 2;
    if (std::isnan(settings.modulation)) settings.modulation = 0.8;
    for (double* angle : {&settings.voltage_angle, &settings.lead})
        if (std::isnan(*angle)) *angle = 0;
    return FoundSupply{settings, "No flux map tells what the rated torque needs: the voltage's angle is 0°."};
}

Problems run_on_fields(QuestionContext& c) {
    const auto given = supply_on_fields(c);
    if (!given) return given.problems();
    const SupplySettings& settings = given->settings;
    auto supply = given_supply(c, settings);
    if (!supply) return supply.problems();
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const Rating& rating = c.machine.rating;
    auto bodies = bodies_with(c, *model, current_vector(rating.current, rating.advance));
    if (!bodies) return bodies.problems();
    const Stages stages = stages_for(**model, *bodies);
    FieldTransientOptions options;
    options.circuit = circuit_options(c, int(c.input("points")));
    options.tolerance = c.mesh.quality == Quality::Draft ? 2e-4 : 5e-5;
    options.end_inductance = given_end_inductance(c);
    options.slices = c.machine.skew.slices();
    options.motion = {phase_axis(c.machine.winding.layout), c.input("speed")};
    options.stepped = progress_of(c);
    const auto conductance = std::make_shared<const Conductance>(conductance_of(**model, std::move(*bodies)));
    RunRecord record(run_store(c));
    FieldTransient transient(*model, *conductance, settings.clock, (*supply)->copy(), options, stages, &record);
    FieldSteadyOptions steady;
    steady.window = int(c.input("periods"));
    steady.from_zero = from_start(c.inputs);
    steady.tangent = in_step(c) && c.machine.facts().dq_frame;
    steady.settling_steps = std::max(48, options.circuit.steps / 4);
    if (!steady.tangent) {
        steady.most_periods = 40;
        if (!steady.from_zero) steady.start = harmonic_start(c, *model, conductance, settings);
    }
    steady.band = settings.band;
    const auto& part = c.machine.symmetry.part;
    steady.sixths = part && part->parts == 6 && steady.tangent;
    FieldWatch watcher(**model, transient.stepper(), settings.clock.omega);
    const auto run = find_field_steady(transient, settings.clock, **supply, options, steady,
                                       c.machine.pole_pairs(), watcher.observer());
    if (c.watch.stop.stop_requested()) return {stopped()};
    if (!run) return run.problems();
    count(c, transient.stepper());
    TimeRun time = described(c, *run, supply->get());
    time.left_out = joined_sentences(given->words, time.left_out);
    watcher.fill(time);
    tell_time_run(c, time);
    c.answer.spent.files = record.finish();
    return {};
}

Problems run_on_own_circuit(QuestionContext& c) {
    const auto network = own_circuit(c, given_resistance(c));
    if (!network) return network.problems();
    const double start = phase_axis(c.machine.winding.layout), series = given_end_inductance(c);
    if (c.machine.facts().switched) {
        const auto model = prepare_model(c);
        if (!model) return model.problems();
        const auto map = linkage_map(c, *model, c.machine.rating.max_current);
        if (!map) return map.problems();
        const LinkageMachine machine(*map, c.machine.winding.layout.lags, c.machine.pole_pairs(), series);
        if (on_fields(c.inputs)) return run_own_circuit_on_fields(c, *network, &machine, start);
        return run_own_circuit(
            c, *network, machine, start,
            "By the map of one phase: what phases link of each other is left out, and the iron's loss.");
    }
    if (c.machine.winding.phases != 3) {
        if (on_fields(c.inputs)) return run_own_circuit_on_fields(c, *network, nullptr, start);
        return {{"winding.phases",
                 "Flux maps know three phases, or phases that are switched by position; others "
                 "run on the fields: say method=field."}};
    }
    auto map = time_map(c);
    if (!map) return map.problems();
    const auto zero_sequence = c.map ? Result<double>(0) : zero_sequence_inductance(c);
    if (!zero_sequence) return zero_sequence.problems();
    const PhasesByMap phases(std::move(map->position), series, *zero_sequence, c.machine.pole_pairs());
    const PhasePorts ports(phases);
    if (on_fields(c.inputs)) return run_own_circuit_on_fields(c, *network, &ports, start);
    return run_own_circuit(
        c, *network, ports, start,
        map_leaves_out(c) +
            " So is all of the iron's loss, and what the magnets' field makes in the winding's strands.");
}

Problems run(QuestionContext& c) {
    if (auto problems = check(c); !problems.empty()) return problems;
    if (is_own(c.inputs)) return run_on_own_circuit(c);
    if (is_current_fed(c.inputs)) return run_with_given_currents(c);
    return on_fields(c.inputs) ? run_on_fields(c) : run_by_map(c);
}

std::vector<std::string> supply_words() {
    std::vector<std::string> words = registry<SupplyKind>().names();
    words.push_back(given_currents);
    words.push_back(own);
    return words;
}

std::vector<QuestionInput> inputs() {
    QuestionInput supply = choice_input("supply", "Supply", {"sine-voltage"}, "What feeds the machine.");
    supply.more_words = supply_words;
    QuestionInput frequency{"frequency", "Frequency", "Hz", "auto", "auto: in step with the rotor.", 1e-3, 1e6};
    frequency.auto_allowed = true;
    QuestionInput shares = auto_list_input("amplitudes", "Shares of the phases", "",
                                           "Of given currents, one a phase; auto: all 1.", -10, 10);
    shares.any_order = true;
    std::vector<QuestionInput> all{
        supply,
        choice_input("method", "Method", {"map", "field"},
                     "By the flux map over currents and position: quick. On the fields themselves: eddy "
                     "currents and the carrier's losses, too."),
        choice_input("state", "State", {"steady", "start"},
                     "The steady state, or the first periods from no current."),
        {"speed", "Speed", "rpm", "= rating.speed", "Speed of the shaft.", 0, 500000},
        frequency,
        {"periods", "Periods shown", "", "1", "Electrical periods of the answer.", 1, 200, true},
        {"points", "Steps a period", "", "360", "At least; every switching is a step of its own.", 60, 20000,
         true},
        shares};
    for (auto& list :
         {supply_inputs(), own_circuit_inputs(), winding_inputs(), time_map_inputs(), linkage_map_inputs()})
        all.insert(all.end(), list.begin(), list.end());
    return all;
}

const RegisterQuestion registered{
    {"in-time",
     "Drive",
     "On a supply, in time",
     "Currents, torque and voltages on a voltage, an inverter or a short circuit.",
     inputs(),
     solves,
     run,
     90,
     {need_winding},
     false,
     true}};

} // namespace
} // namespace mavlo::question_in_time
