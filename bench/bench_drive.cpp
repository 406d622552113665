// Runs in time of the demo machines on their supplies, and one library factorisation beside them.

#include "library_yardstick.h"
#include "project/project.h"
#include "question/question.h"

#include <benchmark/benchmark.h>

using namespace mavlo;

namespace {

const Design& ferry() {
    static const Project project = *read_project(MAVLO_DEMO "/ferry.mavlo");
    return project.variants.front().design;
}
const Design& observatory() {
    static const Project project = *read_project(MAVLO_DEMO "/observatory.mavlo");
    return project.variants.front().design;
}

using With = std::map<std::string, std::string>;

void run(benchmark::State& state, const Design& design, With with, PointStore points = {}) {
    Ask ask;
    ask.design = design;
    ask.with = std::move(with);
    Run how;
    how.points = std::move(points);
    double solves = 0, torque = 0;
    for (auto _ : state) {
        const auto answer = ask_question("in-time", ask, how);
        if (!answer) {
            state.SkipWithError(answer.problems().front().sentence.c_str());
            return;
        }
        solves = answer->effort.solves;
        torque = answer->figure("torque_mean").value_or(0);
    }
    state.counters["library_ms"] = 1e3 * library_factorisation(**prepare_field(*build_machine(design)));
    state.counters["fields"] = solves;
    state.counters["torque"] = torque;
}

const With sine{{"voltage", "229.5 V"}, {"voltage_angle", "54 deg"}, {"points", "200"}};
const With space_vector{{"supply", "space-vector"},    {"modulation", "0.85"},
                        {"voltage_angle", "54 deg"},   {"carrier_frequency", "6 kHz"},
                        {"sampling", "regular-twice"}, {"points", "200"}};

With on_fields(With with) {
    with["method"] = "field";
    return with;
}

void ferry_sine_on_fields(benchmark::State& state) {
    run(state, ferry(), on_fields(sine));
}
void ferry_space_vector_on_fields(benchmark::State& state) {
    run(state, ferry(), on_fields(space_vector));
}
void observatory_blocks_on_fields(benchmark::State& state) {
    run(state, observatory(), on_fields({{"supply", "blocks"}}));
}

BENCHMARK(ferry_sine_on_fields)->Unit(benchmark::kMillisecond)->Iterations(1);
BENCHMARK(ferry_space_vector_on_fields)->Unit(benchmark::kMillisecond)->Iterations(1);
BENCHMARK(observatory_blocks_on_fields)->Unit(benchmark::kMillisecond)->Iterations(1);

} // namespace

BENCHMARK_MAIN();
