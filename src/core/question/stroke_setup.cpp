#include "question/stroke_setup.h"

#include "figure/gap_stress.h"
#include "figure/skew.h"
#include "quantity/constants.h"
#include "question/period.h"

#include <algorithm>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int most_growths = 4;
constexpr double far_beyond = 5; ///< of the largest current: what no map is made for

double peak_current(const StrokePeriod& period) {
    double peak = 0;
    for (const NetworkSample& s : period.samples) peak = std::max(peak, stroke_current(s));
    return peak;
}

/// The current as a table over the electrical angle, from the aligned position.
CurrentWave wave_of(const StrokePeriod& period, int points) {
    const StrokeWave current(period, stroke_current);
    std::vector<double> table;
    table.reserve(std::size_t(points));
    for (int k = 0; k < points; ++k) table.push_back(current.at(2 * pi * k / points));
    CurrentWave wave(WaveForm::Table, 1, -pi / 2);
    wave.set_table(std::move(table));
    return wave;
}

/// A slice turned ahead sees the same currents turned back against its poles.
Problems add_slice(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                   const CurrentWave& wave, const Slice& slice, int points, StrokeFields& stack) {
    const Machine& m = c.machine;
    const auto solved = std::size_t(period_solves(m, points));
    std::vector<std::vector<double>> forces(solved);
    const auto pull = [&](std::size_t place, const FieldSolution& field) {
        forces[place] = tooth_forces(m, gap_stress(*model, field, stroke_places(m)));
    };
    const auto fields = sweep_period_with_loci(model, points, wave.advanced(-m.pole_pairs() * slice.turn),
                                               c.threads, {{}, c.watch.stop}, pull);
    if (!fields) return fields.problems();
    c.answer.effort.solves += int(solved);
    stack.losses.add(field_losses(*model, fields->loci), slice.share);
    // A part of the period later the pattern has moved on by so many slots, and a pull knows no sign.
    const int moved = m.symmetry.part ? m.symmetry.part->slots : 0, tooth = tooth_of_phase(m, 0);
    std::vector<double> force;
    for (std::size_t k = 0; k < std::size_t(points); ++k) {
        const int part = int(k / solved), there = ((tooth - part * moved) % m.slots + m.slots) % m.slots;
        force.push_back(forces[k % solved][std::size_t(there)]);
    }
    const auto seen = shifted(force, 2 * pi / m.pole_pairs(), slice.turn);
    for (std::size_t k = 0; k < stack.tooth_force.size(); ++k)
        stack.tooth_force[k] += slice.share * seen[k % std::size_t(points)];
    return {};
}

} // namespace

Result<SolvedStrokes> solve_strokes(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                                    StrokeDrive& drive, std::optional<StrokeSettings> otherwise) {
    std::optional<double> avoided;
    const double rated = std::max({1e-3, c.machine.rating.max_current, c.machine.rating.current});
    double most = rated;
    if (drive.stroke.chopping != Chopping::Single) most = std::max(most, drive.stroke.high);
    for (int n = 0;; ++n) {
        auto map = linkage_map(c, model, most);
        if (!map) return map.problems();
        auto period = run_strokes(*map, drive);
        if (c.watch.stop.stop_requested()) return stopped();
        if (!period) return period.problems();
        double peak = peak_current(*period);
        if (otherwise && peak > rated) {
            avoided = peak;
            drive.stroke = *otherwise;
            otherwise.reset();
            most = std::max(most, drive.stroke.high);
            if (most > map->largest_current()) continue;
            period = run_strokes(*map, drive);
            if (!period) return period.problems();
            peak = peak_current(*period);
        }
        if (peak > far_beyond * rated)
            return Problem{"--with mode",
                           fmt::format("The current would reach some {:.3g} A, far beyond the largest of "
                                       "{:.4g} A: chop it, turn off earlier or lower the voltage.",
                                       peak, rated)};
        if (peak <= most || n == most_growths)
            return SolvedStrokes{std::move(*map), std::move(*period), avoided};
        // Beyond its end the map is straight, and steel saturates on: the current will be higher still.
        most = 1.2 * peak;
    }
}

int stroke_places(const Machine& machine) {
    return places_round(machine, 1024);
}

Result<StrokeFields> stroke_fields(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                                   const StrokePeriod& period, int points) {
    const Machine& m = c.machine;
    const CurrentWave wave = wave_of(period, 20 * points);
    StrokeFields out;
    for (int k = 0; k <= points; ++k)
        out.angle.push_back(2 * pi * double(k) / points - m.pole_pairs() * phase_axis(m.winding.layout));
    out.tooth_force.assign(out.angle.size(), 0.0);
    for (const Slice& slice : m.skew.slices())
        if (auto problems = add_slice(c, model, wave, slice, points, out); !problems.empty()) return problems;
    return out;
}

} // namespace mavlo
