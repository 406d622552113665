#include "question/question.h"

#include "quantity/quantity.h"
#include "question/discretisation.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <numbers>

namespace mavlo {
namespace {

/// Every question can be asked at other temperatures than the design's.
constexpr const char *magnet_temperature = "magnet_temperature", *winding_temperature = "winding_temperature";

std::optional<double> temperature(const Ask& ask, const Inputs& inputs, const char* key) {
    return ask.with.contains(key) ? std::optional(inputs.at(key)) : std::nullopt;
}

} // namespace

RegisterQuestion::RegisterQuestion(QuestionKind kind) {
    kind.inputs.push_back({magnet_temperature, "Magnets at", "degC", "= rotor.magnet.temperature",
                           "Temperature of the magnets for this answer.", -200, 400});
    kind.inputs.push_back({winding_temperature, "Winding at", "degC", "= winding.temperature",
                           "Temperature of the winding for this answer.", -200, 400});
    Registry<QuestionKind>::instance().add(std::move(kind));
}

const std::list<QuestionKind>& question_kinds() {
    return registry<QuestionKind>().all();
}

void count_mesh(Effort& effort, const FieldModel& model) {
    effort.unknowns = model.unknowns();
    effort.elements = int(model.elements.size());
    effort.smallest_angle = model.smallest_angle() * 180 / std::numbers::pi;
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
    return read_inputs(kind.name, kind.inputs, with, values);
}

Result<int> question_price(const QuestionKind& kind, const Ask& ask, const Machine& machine) {
    const auto inputs = question_inputs(kind, ask.with, machine.values);
    if (!inputs) return inputs.problems();
    if (auto problems = unmet_needs(kind, machine); !problems.empty()) return problems;
    return kind.solves(machine, *inputs);
}

namespace {

/// Points of another mesh, factorisation or temperature are others.
std::string points_subject(const Ask& ask, const Inputs& inputs) {
    std::string subject = field_hash(ask.design, ask.materials) + to_string(ask.quality);
    if (const auto kelvin = temperature(ask, inputs, magnet_temperature))
        subject += fmt::format(" magnets at {:.6f} K", *kelvin);
    return subject;
}

Problems run_on(const QuestionKind& kind, const Machine& machine, const Inputs& inputs, const Ask& ask,
                const Run& run, const Watch& watch, double size, Answer& answer) {
    const bool own = size == 1 && !ask.library_solver;
    QuestionContext context{machine,
                            inputs,
                            {ask.quality, size, ask.library_solver},
                            run.threads,
                            watch,
                            run.map,
                            own ? run.points.of(points_subject(ask, inputs)) : PointStore(),
                            answer};
    return kind.run(context);
}

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

Result<Answer> ask_question(const std::string& name, const Ask& ask, const Run& run) {
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
    const Machine machine =
        at_temperatures(std::move(built->machine), {temperature(ask, *inputs, magnet_temperature),
                                                    temperature(ask, *inputs, winding_temperature)});
    if (const Substance* magnet = machine.magnet(); magnet && magnet->own_remanence() < 0)
        return Problem{"--with magnet_temperature", "At this temperature the magnets have no remanence left."};
    Answer answer;
    answer.question = name;
    answer.variant = ask.variant;
    answer.quality = to_string(ask.quality);
    for (const QuestionInput& input : kind->inputs) answer.inputs[input.key] = shown_input(input, *inputs);
    answer.design = built->hash;
    answer.effort.threads = thread_count(run.threads);
    const bool both = ask.with_error && kind->solves(machine, *inputs) > 0;
    const Watch watch = both ? half_of(run.watch) : run.watch;
    if (auto problems = run_on(*kind, machine, *inputs, ask, run, watch, 1, answer); !problems.empty())
        return problems;
    if (both) {
        Answer coarser;
        if (auto problems = run_on(*kind, machine, *inputs, ask, run, watch, coarser_mesh, coarser);
            !problems.empty())
            return problems;
        estimate_errors(answer, coarser);
        answer.effort.solves += coarser.effort.solves;
        answer.effort.newton_steps += coarser.effort.newton_steps;
    }
    answer.effort.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    return answer;
}

std::string answer_key(const std::string& question, const Ask& ask) {
    std::string text =
        question + "\n" + design_hash(ask.design, ask.materials) + "\n" + to_string(ask.quality) + "\n";
    const auto values = resolve(ask.design);
    if (const QuestionKind* kind = values ? find_question(question) : nullptr)
        if (const auto inputs = question_inputs(*kind, ask.with, *values)) text += inputs->canonical_text();
    return sha256(text);
}

} // namespace mavlo
