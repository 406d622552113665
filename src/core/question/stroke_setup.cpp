#include "question/stroke_setup.h"

#include "question/period.h"

#include <algorithm>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;
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
    for (int k = 0; k < points; ++k) table.push_back(current.at(2 * pi * k / points));
    CurrentWave wave(WaveForm::Table, 1, -pi / 2);
    wave.set_table(std::move(table));
    return wave;
}

} // namespace

Result<SolvedStrokes> solve_strokes(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                                    const StrokeDrive& drive) {
    const double rated = std::max({1e-3, c.machine.rating.max_current, c.machine.rating.current});
    double most = rated;
    if (drive.stroke.chopping != Chopping::Single) most = std::max(most, drive.stroke.high);
    for (int n = 0;; ++n) {
        auto map = linkage_map(c, model, most);
        if (!map) return map.problems();
        auto period = run_strokes(*map, drive);
        if (c.watch.stop.stop_requested()) return stopped();
        if (!period) return period.problems();
        const double peak = peak_current(*period);
        if (peak > far_beyond * rated)
            return Problem{"--with mode",
                           fmt::format("The current would reach some {:.3g} A, far beyond the largest of "
                                       "{:.4g} A: chop it, turn off earlier or lower the voltage.",
                                       peak, rated)};
        if (peak <= most || n == most_growths) return SolvedStrokes{std::move(*map), std::move(*period)};
        // Beyond its end the map is straight, and steel saturates on: the current will be higher still.
        most = 1.2 * peak;
    }
}

Result<FieldLosses> stroke_losses(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                                  const StrokePeriod& period, int points) {
    const auto fields =
        sweep_period_with_loci(model, points, wave_of(period, 20 * points), c.threads, {{}, c.watch.stop});
    if (!fields) return fields.problems();
    c.answer.effort.solves += period_solves(c.machine, points);
    return field_losses(*model, fields->loci);
}

} // namespace mavlo
