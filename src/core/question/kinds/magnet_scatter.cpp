// How machines cog whose magnets differ from each other, as made and glued magnets do.

#include "figure/magnet_slopes.h"
#include "question/question.h"
#include "question/spectrum_curve.h"
#include "question/spread.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <mutex>
#include <numbers>
#include <numeric>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi, degree = pi / 180;
constexpr double high = 0.95; ///< share of the machines that the high figure covers

/// How fields of one short turn tell those of the next. With slots and rotor tiles that all are alike the rotor
/// looks the same to the stator after a turn by the least common part of their pitches, but that a magnet has
/// the place that another had: `tiles` further on.
struct Shift {
    int turns = 1; ///< short turns in a slot's pitch, after which cogging repeats however magnets differ
    int tiles = 0;
};

Shift shift_of(int slots, int rotor_tiles) {
    const int all = std::lcm(slots, rotor_tiles), tile = all / std::max(1, rotor_tiles);
    Shift shift{all / slots, 0};
    while (shift.turns > 1 && shift.tiles * tile % shift.turns != 1) ++shift.tiles;
    return shift;
}

int rotor_tiles(const Machine& m) {
    return m.sector().count * m.sector().pitches[std::size_t(m.section.rotor_index())];
}

/// In a short turn, as many as are wanted of each cogging period.
int positions_of(const Machine& m, int points) {
    return m.slots > 0 ? points * m.symmetry.cogging_periods / std::lcm(m.slots, rotor_tiles(m)) : points;
}

int solves(const Machine& machine, const Inputs& inputs) {
    return positions_of(machine, int(inputs.at("points")));
}

/// All round, so that one magnet can change by itself.
Machine whole(Machine machine) {
    Sector& sector = machine.symmetry.sector;
    for (int& pitches : sector.pitches) pitches *= sector.count;
    sector.count = sector.sign = 1;
    return machine;
}

/// At one position: the torque with all magnets alike, N.m, and what each of them does to it.
struct Influence {
    double torque = 0;
    std::vector<MagnetSlope> magnets;
};

/// Fields of a whole machine, each with the torque's adjoint field.
class Fields {
  public:
    Fields(std::shared_ptr<const MachineModel> model, int count)
        : m_model(std::move(model))
        , m_slopes(*m_model)
        , m_found(std::size_t(count)) {}

    Problems run(double turn, int threads, const Watch& watch) {
        constexpr int run_length = 6; // the same cuts with any number of threads
        const int count = int(m_found.size()), runs = (count + run_length - 1) / run_length;
        on_threads(runs, threads, [&](int r) {
            FieldSolver solver(m_model);
            std::optional<FieldSolution> last;
            for (int i = r * run_length; i < std::min(count, (r + 1) * run_length); ++i) {
                if (watch.stop.stop_requested()) return;
                auto problems = solve(solver, i, turn * i / count, last);
                const std::lock_guard lock(m_mutex);
                if (!problems.empty()) {
                    m_problems = std::move(problems);
                    return;
                }
                if (watch.progress) watch.progress(++m_done, count);
            }
        });
        if (watch.stop.stop_requested()) return {stopped()};
        return m_problems;
    }

    bool may_move() const { return m_slopes.may_move(); }
    /// Over a slot's pitch.
    std::vector<Influence> found(const Shift& shift, int rotor_tiles) const {
        std::vector<Influence> all;
        for (int turn = 0; turn < shift.turns; ++turn)
            for (const Influence& at : m_found) {
                const std::size_t count = at.magnets.size(), each = count / std::size_t(rotor_tiles);
                Influence here{at.torque, {}};
                for (std::size_t k = 0; k < count; ++k)
                    here.magnets.push_back(at.magnets[(k + std::size_t(turn * shift.tiles) * each) % count]);
                all.push_back(std::move(here));
            }
        return all;
    }
    int newton_steps() const { return m_newton_steps; }

  private:
    Problems solve(FieldSolver& solver, int i, double angle, std::optional<FieldSolution>& last) {
        auto field = solver.solve(angle, {}, last ? &*last : nullptr);
        if (!field) return field.problems();
        const auto adjoint = solver.adjoints(*field, {torque_slope(*m_model, *field)});
        if (!adjoint) return adjoint.problems();
        m_found[std::size_t(i)] = {field->torque, m_slopes(*field, adjoint->front())};
        m_newton_steps += field->newton_steps;
        last = std::move(*field);
        return {};
    }

    std::shared_ptr<const MachineModel> m_model;
    MagnetSlopes m_slopes;
    std::vector<Influence> m_found;
    std::mutex m_mutex; // guards what follows
    Problems m_problems;
    int m_done = 0;
    std::atomic<int> m_newton_steps = 0;
};

/// Standard deviations of what each magnet has of its own.
struct Scatter {
    double strength = 0, direction = 0, place = 0; ///< share, rad, rad
};

/// Waveform of a machine whose magnets are off by these draws, three of each: straight in what is off.
std::vector<double> waveform(const std::vector<Influence>& all, const Scatter& scatter,
                             const std::vector<double>& draws) {
    std::vector<double> torque;
    for (const Influence& at : all) {
        double sum = at.torque;
        for (std::size_t k = 0; k < at.magnets.size(); ++k) {
            const MagnetSlope& slope = at.magnets[k];
            sum += scatter.strength * slope.strength * draws[3 * k] +
                   scatter.direction * slope.direction * draws[3 * k + 1] +
                   scatter.place * slope.place * draws[3 * k + 2];
        }
        torque.push_back(sum);
    }
    return torque;
}

/// Swings of many machines, each with the row of draws that made it, rising.
using Swings = std::vector<std::pair<double, std::size_t>>;
Swings swings_of(const std::vector<Influence>& all, const Scatter& scatter,
                 const std::vector<std::vector<double>>& draws) {
    Swings swings;
    for (std::size_t k = 0; k < draws.size(); ++k)
        swings.emplace_back(peak_to_peak(waveform(all, scatter, draws[k])), k);
    std::sort(swings.begin(), swings.end());
    return swings;
}

const std::pair<double, std::size_t>& at_share(const Swings& swings, double share) {
    return swings[std::size_t(std::llround(share * double(swings.size() - 1)))];
}

/// The torque of one magnet that is off by something alone, over a slot's pitch.
Curve influence(const char* name, const std::vector<Influence>& all, const std::vector<double>& degrees,
                double MagnetSlope::*slope, double off) {
    Curve curve{name, "N.m", "rotor_angle", "deg", degrees, {}};
    for (const Influence& at : all) curve.y.push_back(off * at.magnets.front().*slope);
    return curve;
}

Problems run(QuestionContext& c) {
    if (c.machine.slots == 0)
        return {{"stator.slot.kind", "A stator without slots does not cog, however its magnets differ."}};
    const auto model = prepare_model(c, whole(c.machine), c.mesh);
    if (!model) return model.problems();
    const int solved = positions_of(c.machine, int(c.input("points"))), tiles = rotor_tiles(c.machine);
    if ((*model)->rotor_mesh().magnets % tiles != 0)
        return {{"rotor.kind",
                 "The magnets of this rotor are not parted by its poles, so that none differs alone."}};
    Fields fields(*model, solved);
    const Shift shift = shift_of(c.machine.slots, tiles);
    const double pitch = 2 * pi / c.machine.slots;
    if (auto problems = fields.run(pitch / shift.turns, c.threads, c.watch); !problems.empty()) return problems;
    const std::vector<Influence> all = fields.found(shift, tiles);
    const int count = int(all.size());
    const std::size_t magnets = all.front().magnets.size();
    const bool moves = fields.may_move();
    const Scatter scatter{c.input("strength") / 3, c.input("direction") / 3, moves ? c.input("place") / 3 : 0};
    const auto draws = normal_draws(3 * magnets, int(c.input("machines")), unsigned(c.input("seed")));
    const Swings swings = swings_of(all, scatter, draws);
    const auto alone = [&](const Scatter& one) { return at_share(swings_of(all, one, draws), high).first; };
    std::vector<double> degrees, alike;
    for (int i = 0; i < count; ++i) {
        degrees.push_back(pitch / degree * i / count);
        alike.push_back(all[std::size_t(i)].torque);
    }
    const auto& [worst, row] = at_share(swings, high);
    const double swing = peak_to_peak(alike), limit = c.input("limit");
    const double by_strength = alone({scatter.strength, 0, 0}), by_direction = alone({0, scatter.direction, 0});
    c.answer.figures = {
        {"cogging_peak_to_peak", swing, "N.m"},
        {"cogging_scattered_median", at_share(swings, 0.5).first, "N.m"},
        {"cogging_scattered_high", worst, "N.m"},
        {"cogging_by_strength", by_strength, "N.m"},
        {"cogging_by_direction", by_direction, "N.m"},
        {"cogging_by_place", moves ? std::optional(alone({0, 0, scatter.place})) : std::nullopt, "N.m"}};
    const auto within =
        std::count_if(swings.begin(), swings.end(), [&](const auto& s) { return s.first <= limit; });
    c.answer.figures.push_back(
        {"share_within_limits",
         limit > 0 ? std::optional(double(within) / double(swings.size())) : std::nullopt, "1"});
    const std::vector<double> scattered = waveform(all, scatter, draws[row]);
    c.answer.curves = {{"torque", "N.m", "rotor_angle", "deg", degrees, alike},
                       {"torque_scattered", "N.m", "rotor_angle", "deg", degrees, scattered}};
    Curve shares{"cogging_distribution", "1", "cogging_peak_to_peak", "N.m", {}, {}};
    for (std::size_t k = 0; k < swings.size(); ++k) {
        shares.x.push_back(swings[k].first);
        shares.y.push_back((double(k) + 0.5) / double(swings.size()));
    }
    c.answer.curves.push_back(std::move(shares));
    c.answer.curves.push_back(
        influence("influence_of_1_percent_strength", all, degrees, &MagnetSlope::strength, 0.01));
    c.answer.curves.push_back(
        influence("influence_of_1_degree_direction", all, degrees, &MagnetSlope::direction, degree));
    if (moves)
        c.answer.curves.push_back(
            influence("influence_of_0.1_degree_place", all, degrees, &MagnetSlope::place, 0.1 * degree));
    const auto spectrum = [&](const char* name, const std::vector<double>& torque) {
        return spectrum_curve(name, "N.m", torque, {"mechanical_order", "1", double(c.machine.slots), 1, 20});
    };
    c.answer.curves.push_back(spectrum("torque", alike));
    c.answer.curves.push_back(spectrum("torque_scattered", scattered));
    c.answer.effort.solves = solved;
    c.answer.effort.newton_steps = fields.newton_steps();
    c.answer.sentence =
        fmt::format("Of machines whose {} magnets differ, 19 in 20 cog by {:.3g} mN·m at most from peak to "
                    "peak; with all alike it is "
                    "{:.3g} mN·m.{}",
                    magnets, worst * 1e3, swing * 1e3,
                    moves ? "" : " Steel holds these magnets in their place, so that their place is left out.");
    return {};
}

const RegisterQuestion registered{
    {"magnet-scatter",
     "Choosing",
     "Magnets that differ",
     "How machines cog whose magnets differ in strength, direction and place, to first order in what is off.",
     {{"strength", "Strength", "", "0.02",
       "Share that each magnet's remanence may be off by: three standard deviations.", 0, 0.5},
      {"direction", "Direction", "deg", "1 deg", "Each magnet's own magnetisation: three standard deviations.",
       0, 20},
      {"place", "Place", "deg", "0.1 deg",
       "Each magnet's own place about the shaft: three standard deviations. Only of magnets that no steel "
       "holds.",
       0, 10},
      {"limit", "Limit", "N.m", "0 N.m", "Cogging torque, peak to peak, that may be; 0: none.", 0, 1e9},
      {"points", "Positions", "", "12", "Rotor positions over one cogging period of magnets alike.", 8, 200,
       true},
      {"machines", "Machines", "", "1000", "How many are drawn by lot.", 20, 100000, true},
      {"seed", "Seed", "", "1", "Another one draws others.", 0, 1e9, true}},
     solves,
     run,
     920,
     {need_magnets}}};

} // namespace
} // namespace mavlo
