// Losses, flux map and whole-range questions on the ferry's drive.

#include "library_yardstick.h"
#include "project/project.h"
#include "question/flux_grid.h"
#include "question/period.h"

#include <benchmark/benchmark.h>
#include <filesystem>
#include <unistd.h>

using namespace mavlo;

namespace {

const Design& ferry() {
    static const Project project = *read_project(MAVLO_DEMO "/ferry.mavlo");
    return project.variants.front().design;
}

/// A folder of this run's own, empty at first.
std::filesystem::path fresh_folder() {
    static int count = 0;
    const auto folder = std::filesystem::temp_directory_path() /
                        ("mavlo-bench-" + std::to_string(::getpid()) + "-" + std::to_string(count++));
    std::filesystem::remove_all(folder);
    return folder;
}

Answer asked(const char* question, std::map<std::string, std::string> with, const PointStore& points) {
    Ask ask;
    ask.design = ferry();
    ask.with = std::move(with);
    Run run;
    run.points = points;
    return *ask_question(question, ask, run);
}

void load_with_losses(benchmark::State& state) {
    for (auto _ : state) benchmark::DoNotOptimize(asked("load", {}, {}));
}

/// 11 x 11 currents, losses included; the time of one field in library factorisations of the same matrix.
void flux_map_11(benchmark::State& state) {
    const auto model = *prepare_field(*build_machine(ferry()), {});
    const double yardstick = library_factorisation(*model);
    double seconds = 0, solves = 0;
    for (auto _ : state) {
        const Answer a = asked("flux-map", {}, {});
        seconds += a.effort.seconds;
        solves += a.effort.solves;
    }
    state.counters["solves_per_second"] = solves / seconds;
    state.counters["seconds_per_solve"] = seconds / solves;
    state.counters["library_factorisation"] = yardstick;
    state.counters["library_factorisations"] =
        seconds / solves * std::min<double>(thread_count(0), 2) / yardstick;
}

const std::map<std::string, std::string> sixty{{"speeds", "50:3000:50 rpm"}};

void from_present_map(benchmark::State& state, const char* question) {
    const auto folder = fresh_folder();
    asked("speed-range", sixty, PointStore(folder));
    for (auto _ : state) benchmark::DoNotOptimize(asked(question, sixty, PointStore(folder)));
    std::filesystem::remove_all(folder);
}
void speed_range(benchmark::State& state) {
    from_present_map(state, "speed-range");
}
void efficiency_map_60(benchmark::State& state) {
    from_present_map(state, "efficiency-map");
}

void efficiency_map_cold(benchmark::State& state) {
    for (auto _ : state) benchmark::DoNotOptimize(asked("efficiency-map", sixty, {}));
}

constexpr auto ms = benchmark::kMillisecond;
BENCHMARK(load_with_losses)->Unit(ms)->UseRealTime();
BENCHMARK(flux_map_11)->Unit(ms)->UseRealTime()->Iterations(1);
BENCHMARK(speed_range)->Unit(ms)->UseRealTime();
BENCHMARK(efficiency_map_60)->Unit(ms)->UseRealTime();
BENCHMARK(efficiency_map_cold)->Unit(ms)->UseRealTime()->Iterations(1);

} // namespace

BENCHMARK_MAIN();
