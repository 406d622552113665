// Heat of the ferry's drive, and the cage of the mill's elevator over its slip.

#include "heat/machine_heat.h"
#include "project/project.h"
#include "question/heat_of_current.h"
#include "question/question.h"

#include <benchmark/benchmark.h>
#include <filesystem>
#include <unistd.h>

using namespace mavlo;

namespace {

Design demo(const char* file) {
    return read_project(std::filesystem::path(MAVLO_DEMO) / file)->variants.front().design;
}

/// With the mesh and the map that were found once.
class Asked {
  public:
    explicit Asked(const char* file)
        : m_folder(std::filesystem::temp_directory_path() /
                   ("mavlo-bench-heat-" + std::to_string(::getpid()))) {
        m_ask.design = demo(file);
    }
    ~Asked() { std::filesystem::remove_all(m_folder); }
    Asked(const Asked&) = delete;
    Asked& operator=(const Asked&) = delete;
    Answer operator()(const char* question, std::map<std::string, std::string> with) {
        m_ask.with = std::move(with);
        Run run;
        run.points = PointStore(m_folder);
        return *ask_question(question, m_ask, run);
    }

  private:
    Ask m_ask;
    std::filesystem::path m_folder;
};

const std::map<std::string, std::string> given{{"losses", "copper=300 W, iron_stator=100 W"}};

void heat_of_known_losses(benchmark::State& state) {
    Asked ferry("ferry.mavlo");
    ferry("heat", given);
    for (auto _ : state) benchmark::DoNotOptimize(ferry("heat", given));
}

void heat_up_eight_hours(benchmark::State& state) {
    Asked ferry("ferry.mavlo");
    auto with = given;
    with["duty"] = "S3 40 % 10 min";
    with["time"] = "8 h";
    ferry("heat-up", with);
    for (auto _ : state) benchmark::DoNotOptimize(ferry("heat-up", with));
}

void continuous_torque_30(benchmark::State& state) {
    Asked ferry("ferry.mavlo");
    const std::map<std::string, std::string> speeds{{"speeds", "100:3000:100 rpm"}};
    ferry("continuous-torque", speeds);
    for (auto _ : state) benchmark::DoNotOptimize(ferry("continuous-torque", speeds));
}

/// The model itself: assembled, and steady once.
void heat_model(benchmark::State& state) {
    const auto model = *prepare_field(*build_machine(demo("ferry.mavlo")), {});
    const auto cooling = *cooling_of(model->machine, {});
    HeatLosses losses;
    losses.slots = 200;
    losses.ends = 100;
    for (auto _ : state) {
        const auto heat = MachineHeatModel::of(model, cooling, 100);
        benchmark::DoNotOptimize((*heat)->steady(losses));
    }
}

void slip_curve_by_fields(benchmark::State& state) {
    Asked mill("elevator.mavlo");
    const std::map<std::string, std::string> with{
        {"way", "field"},
        {"slips", "0.01, 0.02, 0.03, 0.04, 0.05, 0.06, 0.08, 0.1, 0.12, 0.15, 0.18, 0.22, 0.26, 0.3, 0.4, 0.5, "
                  "0.6, 0.7, 0.85, 1"}};
    for (auto _ : state) benchmark::DoNotOptimize(mill("slip-curves", with));
}

void slip_curve_by_circuit(benchmark::State& state) {
    Asked mill("elevator.mavlo");
    for (auto _ : state) benchmark::DoNotOptimize(mill("slip-curves", {}));
}

constexpr auto ms = benchmark::kMillisecond;
/// A period of draft fields and the temperatures they make, as under the hand on Probe.
void heat_under_the_hand(benchmark::State& state) {
    const auto machine = build_machine(demo("ferry.mavlo"), {});
    const auto model = prepare_field(*machine, {Quality::Draft});
    auto heat = HeatOfCurrent::of(*model, {}, machine->rating.speed);
    double q = 80;
    for (auto _ : state) benchmark::DoNotOptimize(heat->at(Dq{-20, q += 0.5}, 1, {}));
}

BENCHMARK(heat_under_the_hand)->Unit(ms)->UseRealTime();
BENCHMARK(heat_model)->Unit(ms)->UseRealTime();
BENCHMARK(heat_of_known_losses)->Unit(ms)->UseRealTime();
BENCHMARK(heat_up_eight_hours)->Unit(ms)->UseRealTime();
BENCHMARK(continuous_torque_30)->Unit(ms)->UseRealTime();
BENCHMARK(slip_curve_by_fields)->Unit(ms)->UseRealTime()->Iterations(1);
BENCHMARK(slip_curve_by_circuit)->Unit(ms)->UseRealTime()->Iterations(1);

} // namespace

BENCHMARK_MAIN();
