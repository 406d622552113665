// The costs that matter, on the demo machines: mesh, preparation, factorisation, one field, whole questions.

#include "field/solver.h"
#include "project/project.h"
#include "question/question.h"
#include "question/quick.h"

#include <benchmark/benchmark.h>
#include <cstdlib>

using namespace mavlo;

namespace {

const Design& demo(int variant) {
    static const Project project = *read_project(MAVLO_DEMO "/observatory.mavlo");
    return project.variants[std::size_t(variant)].design;
}

const Machine& machine(int variant) {
    static const Machine machines[] = {*build_machine(demo(0)), *build_machine(demo(1))};
    return machines[variant];
}

std::shared_ptr<const FieldModel> model(int variant, Quality quality = Quality::Normal) {
    return *prepare_field(machine(variant), {quality});
}

Quality quality_of(const benchmark::State& state) {
    return Quality(state.range(1));
}

void build(benchmark::State& state) {
    for (auto _ : state) benchmark::DoNotOptimize(build_machine(demo(int(state.range(0)))));
}

void triangulation(benchmark::State& state) {
    const Machine& m = machine(int(state.range(0)));
    for (auto _ : state) {
        benchmark::DoNotOptimize(triangulate(m.stator, size_factor(quality_of(state))));
        benchmark::DoNotOptimize(triangulate(m.rotor, size_factor(quality_of(state))));
    }
}

void preparation(benchmark::State& state) {
    int unknowns = 0;
    for (auto _ : state) unknowns = model(int(state.range(0)), quality_of(state))->unknowns();
    state.counters["unknowns"] = unknowns;
}

void factorisation(benchmark::State& state) {
    const auto m = model(int(state.range(0)), quality_of(state));
    auto factor = m->analysed->copy();
    auto values = m->linear_values;
    for (int j = 0; j < m->unknowns(); ++j)
        values[std::size_t(m->pattern->column[std::size_t(j)])] += nu0; // stands for the iron
    std::vector<double> x(std::size_t(m->unknowns()), 1.0);
    for (auto _ : state) {
        factor->factorise(values);
        factor->solve(x);
    }
    state.counters["unknowns"] = m->unknowns();
}

void gap_coupling(benchmark::State& state) {
    const auto m = model(int(state.range(0)), quality_of(state));
    double angle = 0;
    for (auto _ : state) benchmark::DoNotOptimize(m->gap->coupling(angle += 0.01));
}

void cold_field(benchmark::State& state) {
    const auto m = model(int(state.range(0)), quality_of(state));
    FieldSolver solver(m);
    double angle = 0;
    for (auto _ : state) benchmark::DoNotOptimize(solver.solve(angle += 0.01, {}));
}

/// Turning the ring by half a degree with current, from the last field.
void warm_field(benchmark::State& state) {
    const auto m = model(int(state.range(0)), quality_of(state));
    FieldSolver solver(m);
    FieldSolution last = *solver.solve(0, {6, -3, -3});
    for (auto _ : state) last = *solver.solve(last.angle + 0.0087, {6, -3, -3}, &last);
    state.counters["solves_per_second"] =
        benchmark::Counter(double(state.iterations()), benchmark::Counter::kIsRate);
}

void key_figures(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(quick_figures(model(int(state.range(0)), Quality::Draft), 0, {}));
}

void question(benchmark::State& state, const char* name, const char* points) {
    Ask ask;
    ask.design = demo(int(state.range(0)));
    ask.with = {{"points", points}};
    for (auto _ : state) {
        const auto answer = ask_question(name, ask);
        state.counters["newton_steps"] = answer->effort.newton_steps;
        state.counters["unknowns"] = answer->effort.unknowns;
    }
}

void cogging(benchmark::State& state) {
    question(state, "cogging", "60");
}
void load(benchmark::State& state) {
    question(state, "load", "60");
}

constexpr auto ms = benchmark::kMillisecond;
// Variant 0 has 20 poles (a quarter is computed), variant 1 has 22 (half); quality 0 is draft, 1 normal.
BENCHMARK(build)->Unit(ms)->Arg(0);
BENCHMARK(triangulation)->Unit(ms)->ArgsProduct({{0, 1}, {0, 1}});
BENCHMARK(preparation)->Unit(ms)->ArgsProduct({{0, 1}, {0, 1}});
BENCHMARK(factorisation)->Unit(ms)->ArgsProduct({{0, 1}, {0, 1}});
BENCHMARK(gap_coupling)->Unit(ms)->ArgsProduct({{0, 1}, {0, 1}});
BENCHMARK(cold_field)->Unit(ms)->ArgsProduct({{0, 1}, {0, 1}});
BENCHMARK(warm_field)->Unit(ms)->ArgsProduct({{0, 1}, {0, 1}});
BENCHMARK(key_figures)->Unit(ms)->Arg(0)->Arg(1)->UseRealTime();
BENCHMARK(cogging)->Unit(ms)->Arg(0)->Arg(1)->UseRealTime();
BENCHMARK(load)->Unit(ms)->Arg(0)->UseRealTime();

} // namespace

BENCHMARK_MAIN();
