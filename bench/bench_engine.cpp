// The costs that matter, on the demo machines: mesh, preparation, factorisation, one field, whole questions.

#include "field/multifrontal.h"
#include "library_yardstick.h"
#include "project/project.h"
#include "question/period.h"
#include "question/question.h"
#include "question/quick.h"

#include <benchmark/benchmark.h>
#include <chrono>
#include <cstdlib>
#include <numbers>

using namespace mavlo;

namespace {

const Design& demo(int variant) {
    static const Project observatory = *read_project(MAVLO_DEMO "/observatory.mavlo"),
                         ferry = *read_project(MAVLO_DEMO "/ferry.mavlo");
    return variant == 2 ? ferry.variants.front().design : observatory.variants[std::size_t(variant)].design;
}

const Machine& machine(int variant) {
    static const Machine machines[] = {*build_machine(demo(0)), *build_machine(demo(1)),
                                       *build_machine(demo(2))};
    return machines[variant];
}

std::shared_ptr<const MachineModel> model(int variant, Quality quality = Quality::Normal) {
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
        benchmark::DoNotOptimize(triangulate(m.section.stator().tile, size_factor(quality_of(state))));
        benchmark::DoNotOptimize(triangulate(m.section.rotor().tile, size_factor(quality_of(state))));
    }
}

void preparation(benchmark::State& state) {
    int unknowns = 0;
    for (auto _ : state) unknowns = model(int(state.range(0)), quality_of(state))->unknowns();
    state.counters["unknowns"] = unknowns;
}

void time_factorisation(benchmark::State& state, const FieldModel& m) {
    auto factor = m.analysed->copy();
    const auto values = matrix_values(m);
    std::vector<double> x(std::size_t(m.unknowns()), 1.0);
    for (auto _ : state) {
        factor->factorise(values);
        factor->solve(x);
    }
    state.counters["unknowns"] = m.unknowns();
}

void factorisation(benchmark::State& state) {
    time_factorisation(state, *model(int(state.range(0)), quality_of(state)));
}

void analysis(benchmark::State& state) {
    const auto m = model(int(state.range(0)), quality_of(state));
    std::vector<int> root = m->gap().outer_unknowns();
    root.insert(root.end(), m->gap().inner_unknowns().begin(), m->gap().inner_unknowns().end());
    for (auto _ : state) benchmark::DoNotOptimize(make_multifrontal(m->pattern, root));
}

/// A sweep as plain solves: per second, and the time of one (on one thread) in library factorisations.
void plain_solves(benchmark::State& state, const std::vector<Position>& positions, Quality quality) {
    const auto m = model(int(state.range(0)), quality);
    const double before = library_factorisation(*m);
    double seconds = 0;
    int steps = 0, factors = 0;
    for (auto _ : state) {
        const auto start = std::chrono::steady_clock::now();
        const auto results = sweep(m, positions, 0, {});
        seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
        steps = factors = 0;
        for (const auto& r : *results) steps += r.newton_steps, factors += r.factorisations;
    }
    const double count = double(positions.size()), each = seconds / double(state.iterations()) / count;
    state.counters["solves_per_second"] = 1 / each;
    state.counters["library_factorisations"] =
        each * std::min<double>(thread_count(0), 2) / ((before + library_factorisation(*m)) / 2);
    state.counters["steps"] = steps / count;
    state.counters["factorisations"] = factors / count;
}

void cogging_100(benchmark::State& state) {
    const Machine& m = machine(int(state.range(0)));
    std::vector<Position> positions;
    for (int i = 0; i < 100; ++i)
        positions.push_back({2 * std::numbers::pi / m.symmetry.cogging_periods * i / 100, {}});
    plain_solves(state, positions, Quality::Normal);
}

void load_period(benchmark::State& state) {
    const Machine& m = machine(int(state.range(0)));
    plain_solves(state, electrical_period(m, 144, current_vector(m.rating.current, 0)), Quality::Normal);
}

/// Currents of a corner of the flux map at 24 positions of a sixth of the period, one position after the other.
void flux_map_corner(benchmark::State& state) {
    const Machine& m = machine(int(state.range(0)));
    std::vector<Position> positions;
    const double step = m.rating.current / 10;
    for (int p = 0; p < 24; ++p)
        for (int d = 0; d < 3; ++d)
            for (int q = 0; q < 3; ++q) {
                const double angle = 2 * std::numbers::pi / m.pole_pairs() * p / 144;
                const Dq current{-step * d, m.rating.current + step * (d % 2 ? 2 - q : q)};
                positions.push_back(
                    {angle, to_phases(current, electrical_angle(m, angle), m.winding.layout.lags)});
            }
    plain_solves(state, positions, Quality::Normal);
}

/// 11 x 11 currents at 24 positions: 2904 nonlinear fields.
void flux_map(benchmark::State& state) {
    const Machine& m = machine(int(state.range(0)));
    std::vector<Position> positions;
    const double step = 2 * m.rating.current / 10;
    for (int p = 0; p < 24; ++p)
        for (int d = 0; d < 11; ++d)
            for (int q = 0; q < 11; ++q) {
                const double angle = 2 * std::numbers::pi / m.pole_pairs() * p / 144;
                const Dq current{-step * d, step * (d % 2 ? 10 - q : q)};
                positions.push_back(
                    {angle, to_phases(current, electrical_angle(m, angle), m.winding.layout.lags)});
            }
    plain_solves(state, positions, Quality::Normal);
}

/// One factorisation and substitution as the mesh is refined: how the cost grows with the unknowns.
void growth(benchmark::State& state) {
    const auto m = *prepare_field(machine(0), {Quality::Normal, double(state.range(0)) / 100});
    time_factorisation(state, *m);
    state.counters["library_seconds"] = benchmark::Counter(library_factorisation(*m));
}

/// The same sweep on one and two threads.
void threads(benchmark::State& state) {
    const auto m = model(0);
    std::vector<Position> positions;
    for (int i = 0; i < 100; ++i) positions.push_back({1e-4 * i, {}});
    for (auto _ : state) benchmark::DoNotOptimize(sweep(m, positions, int(state.range(0)), {}));
}

void gap_coupling(benchmark::State& state) {
    const auto m = model(int(state.range(0)), quality_of(state));
    double angle = 0;
    for (auto _ : state) benchmark::DoNotOptimize(m->gap().coupling(angle += 0.01));
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
    const double peak = m->machine.rating.current;
    const PhaseValues rated{peak, -peak / 2, -peak / 2};
    FieldSolution last = *solver.solve(0, rated);
    for (auto _ : state) last = *solver.solve(last.angle + 0.0087, rated, &last);
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
// Machine 0 is the observatory's with 20 poles (a quarter is computed), 1 with 22 (half), 2 the ferry's (one
// pole); quality 0 is draft, 1 normal.
BENCHMARK(build)->Unit(ms)->Arg(0);
BENCHMARK(triangulation)->Unit(ms)->ArgsProduct({{0, 1, 2}, {0, 1}});
BENCHMARK(preparation)->Unit(ms)->ArgsProduct({{0, 1, 2}, {0, 1}});
BENCHMARK(factorisation)->Unit(ms)->ArgsProduct({{0, 1, 2}, {0, 1}});
BENCHMARK(analysis)->Unit(ms)->ArgsProduct({{0, 1, 2}, {0, 1}});
BENCHMARK(gap_coupling)->Unit(ms)->ArgsProduct({{0, 1, 2}, {0, 1}});
BENCHMARK(cold_field)->Unit(ms)->ArgsProduct({{0, 1, 2}, {0, 1}});
BENCHMARK(warm_field)->Unit(ms)->ArgsProduct({{0, 1, 2}, {0, 1}});
BENCHMARK(key_figures)->Unit(ms)->Arg(0)->Arg(1)->Arg(2)->UseRealTime();
BENCHMARK(cogging_100)->Unit(ms)->Arg(0)->Arg(1)->Arg(2)->UseRealTime();
BENCHMARK(load_period)->Unit(ms)->Arg(0)->Arg(1)->Arg(2)->UseRealTime();
BENCHMARK(flux_map_corner)->Unit(ms)->Arg(0)->Arg(1)->Arg(2)->UseRealTime();
BENCHMARK(flux_map)->Unit(ms)->Arg(0)->UseRealTime()->Iterations(1);
BENCHMARK(growth)->Unit(ms)->Arg(200)->Arg(100)->Arg(70)->Arg(50)->Arg(35)->Arg(25)->Arg(20);
BENCHMARK(threads)->Unit(ms)->Arg(1)->Arg(2)->UseRealTime();
BENCHMARK(cogging)->Unit(ms)->Arg(0)->Arg(1)->Arg(2)->UseRealTime();
BENCHMARK(load)->Unit(ms)->Arg(0)->UseRealTime();

} // namespace

BENCHMARK_MAIN();
