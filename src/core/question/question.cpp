#include "question/question.h"

#include "machine/axial.h"
#include "quantity/constants.h"
#include "quantity/failure.h"
#include "quantity/quantity.h"
#include "question/circumstances.h"
#include "question/discretisation.h"
#include "question/mesh_effort.h"
#include "question/straight.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <tuple>

namespace mavlo {
namespace {

/// Every question can be asked at other temperatures than the design's.
constexpr const char *magnet_temperature = "magnet_temperature", *winding_temperature = "winding_temperature",
                     *temperatures_from = "temperatures", *from_heat = "from-heat", *heat_group = "Heat";

std::optional<double> temperature(const Ask& ask, const Inputs& inputs, const char* key) {
    return ask.with.contains(key) ? std::optional(inputs.at(key)) : std::nullopt;
}

} // namespace

RegisterQuestion::RegisterQuestion(QuestionKind kind) {
    if (kind.group != heat_group) {
        QuestionInput from{temperatures_from, "Temperatures", "", "given",
                           "Given here or by the design; or those that the losses at the same inputs (else at "
                           "the rating) make."};
        from.kind = InputKind::Choice;
        from.words = {"given", from_heat};
        kind.inputs.push_back(std::move(from));
    }
    kind.inputs.push_back({magnet_temperature, "Magnets at", "degC", "= rotor.magnet.temperature",
                           "Temperature of the magnets for this answer.", -200, 400});
    kind.inputs.push_back({winding_temperature, "Winding at", "degC", "= winding.temperature",
                           "Temperature of the winding for this answer.", -200, 400});
    Registry<QuestionKind>::instance().add(std::move(kind));
}

const std::list<QuestionKind>& question_kinds() {
    return registry<QuestionKind>().all();
}

namespace {

/// Writes the mesh's size and quality, and what it keeps of the promise, into the answer's effort.
void count_mesh(Effort& effort, const FieldModel& model, const Promise& promise, const Sizing& sizing) {
    count_mesh(effort, model);
    if (sizing.share == 0) return;
    effort.accuracy_aimed = promise.waveform > 0 ? promise.waveform : promise.mean;
    effort.accuracy_estimated = sizing.share * effort.accuracy_aimed;
}

} // namespace

Result<std::shared_ptr<const MachineModel>> prepare_model(QuestionContext& c, const Machine& machine,
                                                          const ModelOptions& options) {
    // The promise is kept by fields at rest, which say nothing of bars that carry currents.
    if (machine.facts().cage) {
        auto plain = prepare_field(machine, options);
        if (plain) count_mesh(c.answer.effort, **plain);
        return plain;
    }
    const auto sizing = c.sizing();
    if (!sizing) return sizing.problems();
    auto model = prepare_field(sized(machine, *sizing), options);
    if (model) count_mesh(c.answer.effort, **model, c.promise, *sizing);
    return model;
}

Result<std::shared_ptr<const MachineModel>> prepare_model(QuestionContext& c) {
    return prepare_model(c, c.machine, c.mesh);
}

const QuestionKind* find_question(const std::string& name) {
    return registry<QuestionKind>().find(name);
}

Problems unmet_needs(const QuestionKind& kind, const Machine& machine) {
    const Facts facts = machine.facts();
    for (const Need& need : kind.needs)
        if (!need.met(facts)) return {{need.path, need.sentence}};
    return {};
}

Result<Inputs> question_inputs(const QuestionKind& kind, const std::map<std::string, std::string>& with,
                               const Values& values) {
    if (!is_linear(values)) return read_inputs(kind.name, kind.inputs, with, values);
    const auto straight = straight_inputs(kind.inputs);
    auto inputs = read_inputs(kind.name, straight, with, values);
    if (inputs) to_turning(straight, section_radius(values), *inputs);
    return inputs;
}

std::vector<QuestionInput> shown_inputs(const QuestionKind& kind, bool linear) {
    return linear ? straight_inputs(kind.inputs) : kind.inputs;
}

Result<int> question_price(const QuestionKind& kind, const Ask& ask, const Machine& machine) {
    const auto inputs = question_inputs(kind, ask.with, machine.values);
    if (!inputs) return inputs.problems();
    if (auto problems = unmet_needs(kind, machine); !problems.empty()) return problems;
    return kind.solves(machine, *inputs);
}

namespace {

/// Points of another mesh, factorisation or temperature are others.
std::string points_subject(const QuestionKind& kind, const Ask& ask, const Machine& asked,
                           const Machine& machine) {
    std::string subject = field_hash(ask.design, ask.materials) + to_string(ask.quality) + " " +
                          trial_text(machine, !kind.waveforms);
    const Substance *magnet = asked.magnet(), *design = machine.magnet();
    if (magnet && design && magnet->temperature != design->temperature)
        subject += fmt::format(" magnets at {:.6f} K", magnet->temperature);
    for (const char* path : {"stator.steel", "rotor.steel"}) {
        const Substance *warm = asked.substance(path), *own = machine.substance(path);
        if (warm && own && warm->temperature != own->temperature)
            subject += fmt::format(" {} at {:.6f} K", path, warm->temperature);
    }
    return subject;
}

/// One run: of a machine, on a mesh of which all sizes are multiplied by `size`.
struct OneRun {
    const QuestionKind& kind;
    const Ask& ask;
    const Run& run;
    const Inputs& inputs;
    const Machine& own;   ///< as it is designed: what the mesh is sized for
    const Machine& asked; ///< at the temperatures asked for
    const std::function<Result<Machine>(const Design&)>& other;

    Problems operator()(const Watch& watch, double size, Answer& answer, Leftover& left) const {
        const bool kept = size == 1 && !ask.library_solver;
        Promise promise = promise_of(ask.quality);
        if (!kind.waveforms) promise.waveform = 0;
        const auto sizing = [&] {
            auto found = kept_sizing(own, field_hash(ask.design, ask.materials), ask.quality, promise,
                                     run.threads, watch, run.points);
            if (found) left = found->left;
            return found;
        };
        const auto sizing_of = [&](Quality quality) {
            return kept_sizing(own, field_hash(ask.design, ask.materials), quality, promise_of(quality),
                               run.threads, watch, run.points);
        };
        const ModelOptions mesh{ask.quality, size, ask.library_solver};
        QuestionContext context{
            asked,       inputs,
            mesh,        promise,
            sizing,      sizing_of,
            run.threads, watch,
            run.map,     kept ? run.points.of(points_subject(kind, ask, asked, own)) : PointStore(),
            answer,      ask,
            other};
        return kind.run(context);
    }
};

/// Progress of two equal runs, one after the other.
Watch half_of(const Watch& watch) {
    Watch half{{}, watch.stop};
    if (watch.progress)
        half.progress = [progress = watch.progress, before = std::make_shared<std::atomic<int>>(0)](int done,
                                                                                                    int total) {
            progress(*before + done, 2 * total);
            if (done == total) *before = total;
        };
    return half;
}

} // namespace

namespace {

/// Of magnets, winding and steels as the question heat finds them, with what it takes of these inputs; `words`
/// say so.
Result<Temperatures> temperatures_of_heat(const Ask& ask, const Run& run, std::string& words) {
    const QuestionKind* heat = find_question("heat");
    Ask about = ask;
    about.with_error = false;
    std::erase_if(about.with, [&](const auto& given) {
        return std::none_of(heat->inputs.begin(), heat->inputs.end(),
                            [&](const QuestionInput& input) { return input.key == given.first; });
    });
    const auto found = ask_question("heat", about, {run.threads, {{}, run.watch.stop}, {}, run.map});
    if (!found) return found.problems();
    Temperatures out;
    for (const auto& [figure, part, place] : {std::tuple("temperature_winding_mean", "winding", &out.winding),
                                              {"temperature_magnets", "magnets", &out.magnets}})
        if (const auto value = found->figure(figure)) {
            *place = *value + zero_celsius;
            words += fmt::format("{}{} at {:.1f} °C", words.empty() ? "" : ", ", part, *value);
        }
    const auto teeth = found->figure("temperature_stator_teeth"),
               yoke = found->figure("temperature_stator_yoke");
    if (teeth && yoke) out.stator_steel = (*teeth + *yoke) / 2 + zero_celsius;
    if (const auto rotor = found->figure("temperature_rotor")) out.rotor_steel = *rotor + zero_celsius;
    if (out.stator_steel)
        words += fmt::format(", the stator's steel at {:.1f} °C", *out.stator_steel - zero_celsius);
    words = fmt::format(" By the losses at the same point: {}.", words);
    return out;
}

Result<Temperatures> temperatures_of(const QuestionKind& kind, const Ask& ask, const Inputs& inputs,
                                     const Run& run, std::string& words) {
    Temperatures given{temperature(ask, inputs, magnet_temperature),
                       temperature(ask, inputs, winding_temperature)};
    if (kind.group == heat_group || inputs.word(temperatures_from) != from_heat) return given;
    auto found = temperatures_of_heat(ask, run, words);
    if (!found) return found;
    if (given.magnets) found->magnets = given.magnets;
    if (given.winding) found->winding = given.winding;
    return found;
}

Result<Answer> answered(const std::string& name, const Ask& ask, const Run& run) {
    const QuestionKind* kind = find_question(name);
    if (!kind)
        return Problem{name, fmt::format("There is no such question; there are: {}.",
                                         fmt::join(registry<QuestionKind>().names(), ", "))};
    const auto start = std::chrono::steady_clock::now();
    auto built = build(ask.design, ask.materials);
    if (!built) return built.problems();
    const auto inputs = question_inputs(*kind, ask.with, built->machine.values);
    if (!inputs) return inputs.problems();
    if (auto problems = unmet_needs(*kind, built->machine); !problems.empty()) return problems;
    std::string warmed;
    const auto temperatures = temperatures_of(*kind, ask, *inputs, run, warmed);
    if (!temperatures) return temperatures.problems();
    const Machine machine = at_temperatures(built->machine, *temperatures);
    const std::function<Result<Machine>(const Design&)> other = [&](const Design& design) -> Result<Machine> {
        auto changed = build_machine(design, ask.materials);
        if (!changed) return changed;
        return at_temperatures(std::move(*changed), *temperatures);
    };
    if (const Substance* magnet = machine.magnet(); magnet && magnet->own_remanence() < 0)
        return Problem{"--with magnet_temperature", "At this temperature the magnets have no remanence left."};
    Answer answer;
    answer.question = name;
    answer.variant = ask.variant;
    answer.quality = to_string(ask.quality);
    const bool linear = machine.facts().linear;
    const double radius = linear ? section_radius(machine.values) : 0;
    const auto listed = shown_inputs(*kind, linear);
    Inputs as_read = *inputs;
    if (linear) to_straight(listed, radius, as_read);
    for (const QuestionInput& input : listed) answer.inputs[input.key] = shown_input(input, as_read);
    answer.design = built->hash;
    answer.effort.threads = thread_count(run.threads);
    const bool both = ask.with_error && kind->solves(machine, *inputs) > 0;
    const Watch watch = both ? half_of(run.watch) : run.watch;
    const OneRun one{*kind, ask, run, *inputs, built->machine, machine, other};
    Leftover left;
    if (auto problems = one(watch, ask.size, answer, left); !problems.empty()) return problems;
    answer.sentence += warmed;
    if (!kind->skew && !machine.skew.none())
        answer.sentence += " The skew is left out here: this is the stack as it were straight.";
    if (answer.effort.solves > 0) answer.sentence += slices_in_words(machine);
    if (both) {
        Answer coarser;
        if (auto problems = one(watch, ask.size * coarser_mesh, coarser, left); !problems.empty())
            return problems;
        estimate_errors(answer, coarser, left);
        answer.effort.solves += coarser.effort.solves;
        answer.effort.newton_steps += coarser.effort.newton_steps;
    }
    if (linear) make_straight(answer, radius);
    answer.effort.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    return answer;
}

} // namespace

Result<Answer> ask_question(const std::string& name, const Ask& ask, const Run& run) {
    try {
        return answered(name, ask, run);
    } catch (...) {
        return failure_in_words();
    }
}

namespace {
/// `values` are null where the design does not resolve.
std::string key_of(const std::string& question, const Ask& ask, const std::string& design,
                   const Values* values) {
    std::string text = question + "\n" + design + "\n" + to_string(ask.quality) + "\n";
    if (ask.size != 1) text += fmt::format("size {:g}\n", ask.size);
    if (const QuestionKind* kind = values ? find_question(question) : nullptr)
        if (const auto inputs = question_inputs(*kind, ask.with, *values)) text += inputs->canonical_text();
    return sha256(text);
}
} // namespace

std::string answer_key(const std::string& question, const Ask& ask) {
    const auto values = resolve(ask.design);
    return key_of(question, ask, design_hash(ask.design, ask.materials), values ? &*values : nullptr);
}

std::string answer_key(const std::string& question, const Ask& ask, const Built& built) {
    return key_of(question, ask, built.hash, &built.machine.values);
}

namespace {
bool says_it_is_of(const Answer& answer, const std::string& question, const Ask& ask, const std::string& design,
                   const Values* values) {
    if (answer.question != question || answer.design != design || answer.quality != to_string(ask.quality))
        return false;
    Ask as_answered = ask;
    as_answered.with = answer.inputs;
    return key_of(question, as_answered, design, values) == key_of(question, ask, design, values);
}
} // namespace

bool is_answer_to(const Answer& answer, const std::string& question, const Ask& ask) {
    const auto values = resolve(ask.design);
    return says_it_is_of(answer, question, ask, design_hash(ask.design, ask.materials),
                         values ? &*values : nullptr);
}

bool is_answer_to(const Answer& answer, const std::string& question, const Ask& ask, const Built& built) {
    return says_it_is_of(answer, question, ask, built.hash, &built.machine.values);
}

} // namespace mavlo
