#include "question/trial.h"

#include "quantity/constants.h"
#include "question/period.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <future>
#include <optional>

namespace mavlo {
namespace {

constexpr int idle_positions = 4, loaded_positions = 6;

/// Current that stands for the rated one: the rated to the nearest power of two, at the nearest 15 degrees of
/// advance, so that meshes and fields stay as they are when the rating moves a little. Likewise the largest; of
/// a switched phase small currents matter as much.
double trial_current(const Machine& m, bool whole_range) {
    const double current = whole_range && !m.facts().switched ? std::max(m.rating.current, m.rating.max_current)
                                                              : m.rating.current;
    return current > 0 ? std::exp2(std::round(std::log2(current))) : 0;
}
double trial_advance(const Machine& m) {
    return pi / 12 * std::round(m.rating.advance / (pi / 12));
}

Problems look(const std::shared_ptr<const MachineModel>& model, const GoalErrors& errors,
              const std::vector<Position>& positions, const Watch& watch, std::vector<Found>& found) {
    FieldSolver solver(model);
    std::optional<FieldSolution> last;
    for (const Position& position : positions) {
        if (watch.stop.stop_requested()) return {stopped()};
        auto field = solver.solve(position.angle, position.current, last ? &*last : nullptr);
        if (!field) return field.problems();
        const auto& linkage = field->flux_linkage;
        const auto most = std::max_element(linkage.begin(), linkage.end(),
                                           [](double a, double b) { return std::abs(a) < std::abs(b); });
        auto split = errors(solver, *field, {{-1}, {int(most - linkage.begin())}});
        if (!split) return split.problems();
        found.push_back({field->torque, *most, std::move((*split)[0]), std::move((*split)[1])});
        last = std::move(*field);
    }
    return {};
}

} // namespace

Trial trial_of(const Machine& m, bool whole_range) {
    Trial trial;
    if (!m.wound()) return trial;
    const double period = 2 * pi / m.symmetry.cogging_periods;
    for (int i = 0; m.magnet() && i < idle_positions; ++i) {
        // Cogging of a mirrored section is odd about a magnet on a slot's centre.
        const double share =
            m.symmetry.mirrored ? (i + 0.5) / (2 * idle_positions) : double(i) / idle_positions;
        trial.idle.push_back({share * period, PortValues(std::size_t(m.winding.phases), 0.0)});
    }
    if (trial_current(m, whole_range) == 0) return trial;
    const CurrentWave current = rated_wave(m, trial_current(m, whole_range), trial_advance(m));
    const int parts = m.symmetry.part ? m.symmetry.part->parts : 1,
              count = parts > 1 ? loaded_positions : 2 * loaded_positions;
    trial.loaded = electrical_period(m, parts * count, current);
    trial.loaded.resize(std::size_t(count));
    return trial;
}

std::string trial_text(const Machine& m, bool whole_range) {
    if (!m.wound()) return "";
    if (m.facts().switched)
        return fmt::format("{:.6g} A from {:.6g} to {:.6g} rad", trial_current(m, whole_range),
                           m.rating.turn_on, m.rating.turn_off);
    return fmt::format("{:.6g} A at {:.6g} rad", trial_current(m, whole_range), trial_advance(m));
}

Result<TrialFields> try_mesh(const std::shared_ptr<const MachineModel>& model, const Trial& trial, int threads,
                             const Watch& watch) {
    const GoalErrors errors(model);
    TrialFields out;
    auto idle = std::async(thread_count(threads) > 1 ? std::launch::async : std::launch::deferred,
                           [&] { return look(model, errors, trial.idle, watch, out.idle); });
    auto problems = look(model, errors, trial.loaded, watch, out.loaded);
    if (auto more = idle.get(); problems.empty()) problems = std::move(more);
    if (!problems.empty()) return problems;
    return out;
}

} // namespace mavlo
