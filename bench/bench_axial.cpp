// Axial machines on their slices: the roof fan without iron, and the starting shape with slots.

#include "project/project.h"
#include "question/question.h"

#include <benchmark/benchmark.h>

using namespace mavlo;

namespace {

const Design& roof_fan() {
    static const Project project = *read_project(MAVLO_DEMO "/roof-fan.mavlo");
    return project.variants.front().design;
}

const Design& slotted() {
    static const Project project = *new_project("axial");
    return project.variants.front().design;
}

void ask(benchmark::State& state, Design design, const char* question, std::map<std::string, std::string> with,
         const char* slices) {
    design.texts["machine.slices"] = slices;
    Ask ask;
    ask.design = std::move(design);
    ask.with = std::move(with);
    for (auto _ : state) benchmark::DoNotOptimize(ask_question(question, ask));
}

/// Under load with losses of iron and magnets.
void first_look(benchmark::State& state) {
    ask(state, state.range(0) ? slotted() : roof_fan(), "load", {{"points", "60"}}, "1");
}
void three_slices(benchmark::State& state) {
    ask(state, state.range(0) ? slotted() : roof_fan(), "load", {{"points", "72"}}, "3");
}

void blocks_in_time(benchmark::State& state) {
    ask(state, roof_fan(), "in-time", {{"supply", "blocks"}}, "3");
}

BENCHMARK(first_look)->Unit(benchmark::kMillisecond)->Arg(0)->Arg(1)->UseRealTime();
BENCHMARK(three_slices)->Unit(benchmark::kMillisecond)->Arg(0)->Arg(1)->UseRealTime();
BENCHMARK(blocks_in_time)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(1);

} // namespace

BENCHMARK_MAIN();
