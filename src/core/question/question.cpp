#include "question/question.h"

#include "quantity/quantity.h"
#include "question/discretisation.h"
#include "question/hash.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <numbers>
#include <sstream>

namespace mavlo {
namespace {

std::vector<QuestionKind>& kinds() {
    static std::vector<QuestionKind> list;
    return list;
}

} // namespace

namespace {

/// Every question can be asked at other temperatures than the design's.
struct Temperature {
    const char *key, *path, *label, *help;
};
constexpr Temperature temperatures[] = {{"magnet_temperature", "rotor.magnet.temperature", "Magnets at",
                                         "Temperature of the magnets for this answer."},
                                        {"winding_temperature", "winding.temperature", "Winding at",
                                         "Temperature of the winding for this answer."}};

/// The design at the temperatures asked for.
Design at_temperatures(Design design, const Ask& ask, const Inputs& inputs) {
    for (const Temperature& t : temperatures)
        if (ask.with.contains(t.key))
            design.texts[t.path] = number_text(to_unit(inputs.at(t.key), *find_unit("degC")), 9) + " degC";
    return design;
}

} // namespace

RegisterQuestion::RegisterQuestion(QuestionKind kind) {
    for (const Temperature& t : temperatures)
        kind.inputs.push_back({t.key, t.label, "degC", std::string("= ") + t.path, t.help, -200, 400});
    auto& list = kinds();
    const auto place =
        std::find_if(list.begin(), list.end(), [&](const QuestionKind& k) { return k.order > kind.order; });
    list.insert(place, std::move(kind));
}

const std::vector<QuestionKind>& question_kinds() {
    return kinds();
}

void count_mesh(Effort& effort, const FieldModel& model) {
    effort.unknowns = model.unknowns();
    effort.elements = int(model.elements.size());
    effort.smallest_angle =
        std::min(model.stator.smallest_angle, model.rotor.smallest_angle) * 180 / std::numbers::pi;
}

const QuestionKind* find_question(const std::string& name) {
    const auto found =
        std::find_if(kinds().begin(), kinds().end(), [&](const QuestionKind& k) { return k.name == name; });
    return found == kinds().end() ? nullptr : &*found;
}

Result<Inputs> question_inputs(const QuestionKind& kind, const Ask& ask) {
    return read_inputs(kind.name, kind.inputs, ask.with, ask.design);
}

Result<int> question_price(const QuestionKind& kind, const Ask& ask) {
    const auto machine = build_machine(ask.design, ask.materials);
    if (!machine) return machine.problems();
    return question_price(kind, ask, *machine);
}

Result<int> question_price(const QuestionKind& kind, const Ask& ask, const Machine& machine) {
    const auto inputs = question_inputs(kind, ask);
    if (!inputs) return inputs.problems();
    return kind.solves(machine, *inputs);
}

namespace {

Problems run_on(const QuestionKind& kind, const Machine& machine, const Inputs& inputs, const Ask& ask,
                const Watch& watch, double size, Answer& answer) {
    // Points of another mesh or another factorisation are others.
    const bool own = size == 1 && !ask.library_solver;
    const std::string subject =
        field_hash(at_temperatures(ask.design, ask, inputs), ask.materials) + to_string(ask.quality);
    QuestionContext context{machine, inputs,  {ask.quality, size, ask.library_solver},     ask.threads,
                            watch,   ask.map, own ? ask.points.of(subject) : PointStore(), answer};
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

Result<Answer> ask_question(const std::string& name, const Ask& ask) {
    const QuestionKind* kind = find_question(name);
    if (!kind) {
        std::vector<std::string> names;
        for (const auto& k : question_kinds()) names.push_back(k.name);
        return Problem{name, fmt::format("There is no such question; there are: {}.", fmt::join(names, ", "))};
    }
    const auto start = std::chrono::steady_clock::now();
    const auto inputs = question_inputs(*kind, ask);
    if (!inputs) return inputs.problems();
    const Design design = at_temperatures(ask.design, ask, *inputs);
    const auto machine = build_machine(design, ask.materials);
    if (!machine) return machine.problems();
    if (kind->needs_winding && !machine->wound)
        return Problem{"stator.slot.kind",
                       fmt::format("The question {} needs a winding; a stator without slots has none.", name)};
    Answer answer;
    answer.question = name;
    answer.variant = ask.variant;
    answer.quality = to_string(ask.quality);
    for (const QuestionInput& input : kind->inputs) answer.inputs[input.key] = shown_input(input, *inputs);
    answer.design = design_hash(ask.design, ask.materials);
    answer.effort.threads = thread_count(ask.threads);
    const bool both = ask.with_error && kind->solves(*machine, *inputs) > 0;
    const Watch watch = both ? half_of(ask.watch) : ask.watch;
    if (auto problems = run_on(*kind, *machine, *inputs, ask, watch, 1, answer); !problems.empty())
        return problems;
    if (both) {
        Answer coarser;
        if (auto problems = run_on(*kind, *machine, *inputs, ask, watch, coarser_mesh, coarser);
            !problems.empty())
            return problems;
        estimate_errors(answer, coarser);
        answer.effort.solves += coarser.effort.solves;
        answer.effort.newton_steps += coarser.effort.newton_steps;
    }
    answer.effort.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    return answer;
}

namespace {

std::string hash_with_materials(std::string text, const Design& design, const MaterialLibrary& own) {
    for (const char* path :
         {"stator.steel", "rotor.steel", "rotor.magnet.grade", "winding.conductor.material"}) {
        const std::string name = design.text(path);
        const MaterialLibrary& library = own.contains(name) ? own : shipped_materials();
        if (const auto found = library.find(name); found != library.end()) text += material_text(found->second);
    }
    return sha256(text);
}

} // namespace

std::string design_hash(const Design& design, const MaterialLibrary& own) {
    return hash_with_materials("engine 1\n" + canonical_text(design), design, own);
}

std::string field_hash(const Design& design, const MaterialLibrary& own) {
    constexpr const char* others[] = {
        "rating.",          "winding.temperature", "winding.conductor.",     "winding.fill_factor",
        "winding.overhang", "winding.connection",  "machine.friction_torque"};
    std::istringstream all(canonical_text(design));
    std::string text = "fields 1\n";
    for (std::string line; std::getline(all, line);)
        if (std::none_of(std::begin(others), std::end(others),
                         [&](const char* start) { return line.starts_with(start); }))
            text += line + "\n";
    return hash_with_materials(std::move(text), design, own);
}

std::string answer_key(const std::string& question, const Ask& ask) {
    std::string text =
        question + "\n" + design_hash(ask.design, ask.materials) + "\n" + to_string(ask.quality) + "\n";
    if (const QuestionKind* kind = find_question(question))
        if (const auto inputs = question_inputs(*kind, ask)) text += inputs->canonical_text();
    return sha256(text);
}

} // namespace mavlo
