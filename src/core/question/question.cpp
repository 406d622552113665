#include "question/question.h"

#include "quantity/formula.h"
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

namespace mavlo {
namespace {

std::vector<QuestionKind>& kinds() {
    static std::vector<QuestionKind> list;
    return list;
}

Problem input_problem(const QuestionInput& input, std::string sentence) {
    return {"--with " + input.key, std::move(sentence)};
}

Result<double> read_input(const QuestionInput& input, const std::string& text, const Values& values) {
    if (is_formula(text)) return values.number(trim(std::string_view(text).substr(1)));
    auto quantity = parse_quantity(text);
    if (!quantity) return input_problem(input, quantity.problems().front().sentence);
    const Unit* unit = input.unit.empty() ? nullptr : find_unit(input.unit);
    const Dimension wanted = unit ? unit->dimension : dimension::none;
    if (quantity->dimension.plain() && unit)
        quantity->si = from_unit(quantity->si, *unit); // a bare number has the input's own unit
    else if (quantity->dimension != wanted)
        return input_problem(input, fmt::format("\"{}\" is {}; {} is wanted here.", text,
                                                describe(quantity->dimension), describe(wanted)));
    const double number = unit ? to_unit(quantity->si, *unit) : quantity->si;
    if (number < input.low || number > input.high)
        return input_problem(input, fmt::format("{} lies outside {} to {} {}.", text, number_text(input.low),
                                                number_text(input.high), input.unit));
    if (input.whole && number != std::rint(number))
        return input_problem(input, fmt::format("A whole number is wanted, not {}.", text));
    return quantity->si;
}

std::string shown_input(const QuestionInput& input, double si) {
    if (input.unit.empty()) return number_text(si, 9);
    return number_text(to_unit(si, *find_unit(input.unit)), 9) + " " + input.unit;
}

} // namespace

RegisterQuestion::RegisterQuestion(QuestionKind kind) {
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

Result<std::map<std::string, double>> question_inputs(const QuestionKind& kind, const Ask& ask) {
    const auto values = resolve(ask.design);
    if (!values) return values.problems();
    std::map<std::string, double> inputs;
    Problems problems;
    for (const QuestionInput& input : kind.inputs) {
        const auto own = ask.with.find(input.key);
        const auto value = read_input(input, own == ask.with.end() ? input.standard : own->second, *values);
        if (value)
            inputs[input.key] = *value;
        else
            problems.push_back(value.problems().front());
    }
    for (const auto& [key, text] : ask.with)
        if (!inputs.contains(key) &&
            std::none_of(kind.inputs.begin(), kind.inputs.end(), [&](const auto& i) { return i.key == key; })) {
            std::vector<std::string> names;
            for (const auto& i : kind.inputs) names.push_back(i.key);
            problems.push_back(
                {"--with " + key, names.empty() ? fmt::format("The question {} has no inputs.", kind.name)
                                                : fmt::format("The question {} has no such input; it has: {}.",
                                                              kind.name, fmt::join(names, ", "))});
        }
    if (!problems.empty()) return problems;
    return inputs;
}

Result<int> question_price(const QuestionKind& kind, const Ask& ask) {
    const auto inputs = question_inputs(kind, ask);
    if (!inputs) return inputs.problems();
    const auto machine = build_machine(ask.design, ask.materials);
    if (!machine) return machine.problems();
    return kind.solves(*machine, *inputs);
}

namespace {

Problems run_on(const QuestionKind& kind, const Machine& machine, const std::map<std::string, double>& inputs,
                const Ask& ask, const Watch& watch, double size, Answer& answer) {
    QuestionContext context{machine,     inputs, {ask.quality, size, ask.library_solver},
                            ask.threads, watch,  answer};
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
    const auto machine = build_machine(ask.design, ask.materials);
    if (!machine) return machine.problems();
    if (kind->needs_winding && !machine->wound)
        return Problem{"stator.slot.kind",
                       fmt::format("The question {} needs a winding; a stator without slots has none.", name)};
    Answer answer;
    answer.question = name;
    answer.variant = ask.variant;
    answer.quality = to_string(ask.quality);
    for (const QuestionInput& input : kind->inputs)
        answer.inputs[input.key] = shown_input(input, inputs->at(input.key));
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

std::string design_hash(const Design& design, const MaterialLibrary& own) {
    std::string text = std::string("engine 1\n") + canonical_text(design);
    for (const char* path :
         {"stator.steel", "rotor.steel", "rotor.magnet.grade", "winding.conductor.material"}) {
        const std::string name = design.text(path);
        const MaterialLibrary& library = own.contains(name) ? own : shipped_materials();
        if (const auto found = library.find(name); found != library.end()) text += material_text(found->second);
    }
    return sha256(text);
}

std::string answer_key(const std::string& question, const Ask& ask) {
    std::string text =
        question + "\n" + design_hash(ask.design, ask.materials) + "\n" + to_string(ask.quality) + "\n";
    if (const QuestionKind* kind = find_question(question))
        if (const auto inputs = question_inputs(*kind, ask))
            for (const auto& [key, value] : *inputs) text += fmt::format("{}={:.12g}\n", key, value);
    return sha256(text);
}

} // namespace mavlo
