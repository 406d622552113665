// How machines cog whose magnets differ from each other, as made and glued magnets do, and whose rotor is not
// quite in the middle.

#include "figure/magnet_slopes.h"
#include "figure/skew.h"
#include "machine/off_centre.h"
#include "quantity/constants.h"
#include "question/eccentric.h"
#include "question/question.h"
#include "question/spectrum_curve.h"
#include "question/spread.h"
#include "question/swings.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <mutex>
#include <numeric>

namespace mavlo::question_magnet_scatter {
namespace {

constexpr double displacement_solved = 0.2; ///< of the gap; the torque's part of second order is taken from it

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

/// In a short turn, as many as are wanted of each cogging period.
int positions_of(const Machine& m, int points) {
    return m.slots > 0 ? points * m.symmetry.cogging_periods / std::lcm(m.slots, rotor_tiles(m)) : points;
}

bool may_be_off_centre(const Machine& machine, const Inputs& inputs) {
    return inputs.at("eccentricity") > 0 && alike_all_round(machine);
}

int solves(const Machine& machine, const Inputs& inputs) {
    const int positions = positions_of(machine, int(inputs.at("points")));
    return may_be_off_centre(machine, inputs) ? 3 * positions : positions;
}

/// At one position: the torque with all magnets alike, N.m, what each of them does to it, and what the rotor's
/// displacement does (N.m for 1 m2: it is of second order).
struct Influence {
    double torque = 0;
    std::vector<MagnetSlope> magnets;
    double displaced = 0;
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
                Influence here{at.torque, {}, 0};
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
        m_found[std::size_t(i)] = {field->torque, m_slopes(*field, adjoint->front()), 0};
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

/// What the skewed stack shows of a series over the rotor's angle, which is set in its place.
template <typename Value>
void skew_series(std::vector<Influence>& all, double pitch, const SkewedStack& stack, const Value& value) {
    std::vector<double> series;
    for (Influence& at : all) series.push_back(value(at));
    series = skewed(series, pitch, stack);
    for (std::size_t i = 0; i < all.size(); ++i) value(all[i]) = series[i];
}

/// Over a slot's pitch every influence begins anew, so that each goes through the stack by itself.
void skew_influences(std::vector<Influence>& all, double pitch, const SkewedStack& stack) {
    if (stack.none()) return;
    skew_series(all, pitch, stack, [](Influence& at) -> double& { return at.torque; });
    skew_series(all, pitch, stack, [](Influence& at) -> double& { return at.displaced; });
    for (std::size_t k = 0; k < all.front().magnets.size(); ++k)
        for (double MagnetSlope::*slope :
             {&MagnetSlope::strength, &MagnetSlope::direction, &MagnetSlope::place})
            skew_series(all, pitch, stack,
                        [k, slope](Influence& at) -> double& { return at.magnets[k].*slope; });
}

/// Standard deviations of what each magnet has of its own, and of the rotor's displacement along two axes.
struct Scatter {
    double strength = 0, direction = 0, place = 0; ///< share, rad, rad
    double eccentricity = 0;                       ///< m
};

/// Square of the rotor's displacement by these draws: the last two, where they are there, are its own.
double displacement_squared(const Scatter& scatter, std::size_t magnets, const std::vector<double>& draws) {
    if (draws.size() < 3 * magnets + 2) return 0;
    const double x = draws[3 * magnets], y = draws[3 * magnets + 1];
    return scatter.eccentricity * scatter.eccentricity * (x * x + y * y);
}

/// Waveform of a machine whose magnets are off by these draws, three of each: straight in what is off. The
/// rotor's draws follow.
std::vector<double> waveform(const std::vector<Influence>& all, const Scatter& scatter,
                             const std::vector<double>& draws) {
    std::vector<double> torque;
    const double moved = displacement_squared(scatter, all.front().magnets.size(), draws);
    for (const Influence& at : all) {
        double sum = at.torque + moved * at.displaced;
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

Swings swings_of(const std::vector<Influence>& all, const Scatter& scatter,
                 const std::vector<std::vector<double>>& draws) {
    return {draws, [&](const std::vector<double>& row) { return waveform(all, scatter, row); }};
}

/// That which 19 of 20 machines do not pass.
double displacement_high(const Scatter& scatter, std::size_t magnets,
                         const std::vector<std::vector<double>>& draws) {
    std::vector<double> squares;
    for (const auto& row : draws) squares.push_back(displacement_squared(scatter, magnets, row));
    std::sort(squares.begin(), squares.end());
    return std::sqrt(squares[std::size_t(std::llround(Swings::high * double(squares.size() - 1)))]);
}

/// The torque of one magnet that is off by something alone, over a slot's pitch.
Curve influence(const char* name, const std::vector<Influence>& all, const std::vector<double>& degrees,
                double MagnetSlope::*slope, double off) {
    Curve curve{name, "N.m", "rotor_angle", "deg", degrees, {}};
    for (const Influence& at : all) curve.y.push_back(off * at.magnets.front().*slope);
    return curve;
}

/// What a displaced rotor does, which is the same in each short turn: written into the influences. Back is the
/// pull on it, N for 1 m.
Result<double> add_displacement(QuestionContext& c, double turn, int positions, std::vector<Influence>& all) {
    std::vector<Position> at;
    for (int i = 0; i < positions; ++i)
        at.push_back({turn * i / positions, PortValues(std::size_t(c.machine.winding.phases), 0.0)});
    auto machine = EccentricMachine::of(c, std::move(at), 1);
    if (!machine) return machine.problems();
    const double distance = displacement_solved * c.machine.gap;
    const auto off = machine->displaced({distance, 0});
    if (!off) return off.problems();
    double pull = 0;
    for (std::size_t i = 0; i < off->torque.size(); ++i) pull += off->pull[i].x / distance / positions;
    for (std::size_t k = 0; k < all.size(); ++k) {
        const std::size_t i = k % off->torque.size();
        all[k].displaced = (off->torque[i] - machine->centred().torque[i]) / (distance * distance);
    }
    return pull;
}

Problems run(QuestionContext& c) {
    if (c.machine.slots == 0)
        return {{"stator.slot.kind", "A stator without slots does not cog, however its magnets differ."}};
    if (auto problems = eccentricity_problems(c.machine, c.input("eccentricity")); !problems.empty())
        return problems;
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
    std::vector<Influence> all = fields.found(shift, tiles);
    c.answer.effort.solves = solved;
    c.answer.effort.newton_steps = fields.newton_steps();
    const int count = int(all.size());
    const std::size_t magnets = all.front().magnets.size();
    const bool moves = fields.may_move(), off_centre = may_be_off_centre(c.machine, c.inputs);
    std::optional<double> stiffness;
    if (off_centre) {
        const auto pull = add_displacement(c, pitch / shift.turns, solved, all);
        if (!pull) return pull.problems();
        stiffness = *pull;
    }
    skew_influences(all, pitch, c.machine.skew);
    const Scatter scatter{c.input("strength") / 3, c.input("direction") / 3, moves ? c.input("place") / 3 : 0,
                          off_centre ? c.input("eccentricity") / 3 : 0};
    const auto draws =
        normal_draws(3 * magnets + (off_centre ? 2 : 0), int(c.input("machines")), unsigned(c.input("seed")));
    const Swings swings = swings_of(all, scatter, draws);
    const auto alone = [&](const Scatter& one) { return swings_of(all, one, draws).at(Swings::high); };
    std::vector<double> degrees, alike;
    for (int i = 0; i < count; ++i) {
        degrees.push_back(pitch / degree * i / count);
        alike.push_back(all[std::size_t(i)].torque);
    }
    const double worst = swings.at(Swings::high);
    const double swing = peak_to_peak(alike), limit = c.input("limit");
    const double by_strength = alone({scatter.strength, 0, 0}), by_direction = alone({0, scatter.direction, 0});
    c.answer.figures = {
        {"cogging_peak_to_peak", swing, "N.m"},
        {"cogging_scattered_median", swings.at(0.5), "N.m"},
        {"cogging_scattered_high", worst, "N.m"},
        {"cogging_by_strength", by_strength, "N.m"},
        {"cogging_by_direction", by_direction, "N.m"},
        {"cogging_by_place", moves ? std::optional(alone({0, 0, scatter.place})) : std::nullopt, "N.m"},
        {"cogging_by_eccentricity",
         off_centre ? std::optional(alone({0, 0, 0, scatter.eccentricity})) : std::nullopt, "N.m"},
        {"rotor_pull_high",
         off_centre ? std::optional(*stiffness * displacement_high(scatter, magnets, draws)) : std::nullopt,
         "N"}};
    c.answer.figures.push_back(
        {"share_within_limits", limit > 0 ? std::optional(swings.within(limit)) : std::nullopt, "1"});
    const std::vector<double> scattered = waveform(all, scatter, draws[swings.row_at(Swings::high)]);
    c.answer.curves = {{"torque", "N.m", "rotor_angle", "deg", degrees, alike},
                       {"torque_scattered", "N.m", "rotor_angle", "deg", degrees, scattered}};
    c.answer.curves.push_back(swings.distribution());
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
    c.answer.sentence =
        fmt::format("Of machines whose {} magnets differ, 19 in 20 cog by {:.3g} mN·m at most from peak to "
                    "peak; with all alike it is "
                    "{:.3g} mN·m.{}",
                    magnets, worst * 1e3, swing * 1e3,
                    moves ? "" : " Steel holds these magnets in their place, so that their place is left out.");
    if (c.input("eccentricity") > 0 && !off_centre)
        c.answer.sentence +=
            " The rotor's own place is left out: this machine does not repeat three times round, so "
            "that it matters where to the rotor is displaced; ask eccentricity.";
    return {};
}

const RegisterQuestion registered{
    {"magnet-scatter",
     "Choosing",
     "Magnets that differ",
     "How machines cog whose magnets differ in strength, direction and place, to first order in what is off, "
     "and whose rotor is off centre, to second order.",
     {{"strength", "Strength", "", "0.02",
       "Share that each magnet's remanence may be off by: three standard deviations.", 0, 0.5},
      {"direction", "Direction", "deg", "1 deg", "Each magnet's own magnetisation: three standard deviations.",
       0, 20},
      {"place", "Place", "deg", "0.1 deg",
       "Each magnet's own place about the shaft: three standard deviations. Only of magnets that no steel "
       "holds.",
       0, 10},
      eccentricity_input(
          "Of the rotor's axis from the stator's, along each of two axes, a length or a share of the gap: "
          "three standard deviations; 0: none.",
          0),
      {"limit", "Limit", "N.m", "0", "Cogging torque, peak to peak, that may be; 0: none.", 0, 1e9},
      {"points", "Positions", "", "12", "Rotor positions over one cogging period of magnets alike.", 8, 200,
       true},
      {"machines", "Machines", "", "1000", "How many are drawn by lot.", 20, 100000, true},
      {"seed", "Seed", "", "1", "Another one draws others.", 0, 1e9, true}},
     solves,
     run,
     920,
     {need_round, need_magnets},
     true,
     true}};

} // namespace
} // namespace mavlo::question_magnet_scatter
