// A rotor that lies beside the stator's axis: how it is pulled further aside, and what that does to the torque.

#include "question/eccentric.h"
#include "question/period.h"
#include "question/stroke_inputs.h"
#include "question/supply_inputs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo::question_eccentricity {
namespace {

constexpr const char* dynamic = "dynamic";

bool is_dynamic(const Inputs& inputs) {
    return inputs.word("kind") == dynamic;
}

bool turns_alike(const Machine& machine, const Inputs& inputs) {
    return alike_all_round(machine) && asked_wave(machine, inputs).alike(machine.facts().switched);
}

/// Electrical periods after which all goes on as before: a displacement that turns with the rotor is back after
/// a whole turn where the machine does not repeat so often that its place is no matter.
int periods_of(const Machine& machine, const Inputs& inputs) {
    return is_dynamic(inputs) && !turns_alike(machine, inputs) ? machine.pole_pairs() : 1;
}

/// Positions that tell all of it.
int positions_of(const Machine& machine, const Inputs& inputs) {
    return periods_of(machine, inputs) *
           period_solves(machine, int(inputs.at("points")), turns_alike(machine, inputs));
}

std::vector<Position> positions(const Machine& machine, const Inputs& inputs) {
    const auto one = electrical_period(machine, int(inputs.at("points")), asked_wave(machine, inputs));
    std::vector<Position> all;
    for (int period = 0; period < periods_of(machine, inputs); ++period)
        for (Position p : one) {
            p.angle += 2 * std::numbers::pi / machine.pole_pairs() * period;
            all.push_back(std::move(p));
        }
    all.resize(std::size_t(positions_of(machine, inputs)));
    return all;
}

int slices_of(const Machine& machine) {
    return int(machine.skew.slices().size());
}

/// Whether each slice's rotor is displaced to another place of its own: seen from a slice that is turned ahead
/// a displacement that turns with the shaft lies further back.
bool differ_by_slice(const Machine& machine, const Inputs& inputs) {
    return is_dynamic(inputs) && slices_of(machine) > 1 && !turns_alike(machine, inputs);
}

int displacements_of(const Machine& machine, const Inputs& inputs) {
    return differ_by_slice(machine, inputs) ? slices_of(machine) : 1;
}

int solves(const Machine& machine, const Inputs& inputs) {
    return (1 + displacements_of(machine, inputs)) * positions_of(machine, inputs) * slices_of(machine);
}

/// The same currents with the rotor of every slice where it stands, slice by slice.
std::vector<Position> of_slices(const std::vector<Position>& middle, const std::vector<Slice>& slices) {
    std::vector<Position> all;
    for (const Slice& slice : slices)
        for (Position p : middle) {
            p.angle += slice.turn;
            all.push_back(std::move(p));
        }
    return all;
}

/// Adds one slice of what was solved for all of them.
void add_slice(OffCentre& stack, const OffCentre& all, std::size_t slice, double share) {
    const std::size_t count = stack.torque.size();
    for (std::size_t k = 0; k < count; ++k) {
        stack.torque[k] += share * all.torque[slice * count + k];
        stack.pull[k] = stack.pull[k] + share * all.pull[slice * count + k];
    }
}

double largest(const std::vector<Point>& pull) {
    double most = 0;
    for (const Point& p : pull) most = std::max(most, norm(p));
    return most;
}

class Displaced {
  public:
    Displaced(QuestionContext& context, const OffCentre& centred, const OffCentre& off, double distance,
              const std::vector<double>& directions)
        : c(context)
        , m_centred(centred)
        , m_off(off)
        , m_distance(distance)
        , m_directions(directions) {}

    void tell() {
        const std::vector<double> along = components(m_off.pull, 0),
                                  across = components(m_off.pull, std::numbers::pi / 2);
        const double stiffness = (mean(along) - mean(components(m_centred.pull, 0))) / m_distance;
        const double least = c.machine.gap - m_distance, most = largest(m_off.pull);
        c.answer.figures = {{"pull_mean", mean(along), "N"},
                            {"pull_across_mean", mean(across), "N"},
                            {"rotor_pull_peak", most, "N"},
                            {"rotor_pull_peak_centred", largest(m_centred.pull), "N"},
                            {"pull_stiffness", stiffness, "N/m"},
                            {"eccentricity", m_distance, "m"},
                            {"gap_least", least, "m"},
                            {"torque_mean", mean(m_off.torque), "N.m"},
                            {"torque_mean_centred", mean(m_centred.torque), "N.m"},
                            {"torque_peak_to_peak", peak_to_peak(m_off.torque), "N.m"},
                            {"torque_peak_to_peak_centred", peak_to_peak(m_centred.torque), "N.m"}};
        c.answer.curves = {series("pull_to_narrow_side", "N", along), series("pull_across", "N", across),
                           series("torque", "N.m", m_off.torque),
                           series("torque_centred", "N.m", m_centred.torque)};
        c.answer.sentence = fmt::format(
            "Displaced by {:.3g} mm{} the rotor is pulled to the narrow side with {:.4g} N, {:.4g} N for each "
            "mm "
            "more or less; the torque wavers by {:.4g} N·m, by {:.4g} N·m with the rotor in the middle.{}",
            m_distance * 1e3, is_dynamic(c.inputs) ? ", a displacement that turns with it," : "", mean(along),
            stiffness * 1e-3, peak_to_peak(m_off.torque), peak_to_peak(m_centred.torque),
            c.machine.winding.paths > 1
                ? " Currents round the parallel paths, which weaken the pull, are left out."
                : "");
    }

  private:
    /// At so much from where the rotor is displaced to.
    std::vector<double> components(const std::vector<Point>& vectors, double beside) const {
        std::vector<double> out;
        for (std::size_t k = 0; k < vectors.size(); ++k)
            out.push_back(dot(vectors[k], polar(1, m_directions[k] + beside)));
        return out;
    }

    /// Over all of it, of which what was solved is a part that repeats.
    Curve series(const char* name, const char* unit, const std::vector<double>& values) const {
        Curve curve{name, unit, "rotor_angle", "deg", {}, {}};
        const auto points = std::size_t(c.input("points")),
                   all = points * std::size_t(periods_of(c.machine, c.inputs));
        for (std::size_t k = 0; k < all; ++k) {
            curve.x.push_back(360.0 / c.machine.pole_pairs() * double(k) / double(points));
            curve.y.push_back(values[k % values.size()]);
        }
        return curve;
    }

    QuestionContext& c;
    const OffCentre &m_centred, &m_off;
    double m_distance;
    const std::vector<double>& m_directions; ///< where it is displaced to, of each position, rad
};

Problems run(QuestionContext& c) {
    const double distance = c.input("eccentricity"), direction = c.input("direction");
    if (auto problems = eccentricity_problems(c.machine, distance); !problems.empty()) return problems;
    const auto at = positions(c.machine, c.inputs);
    std::vector<double> directions;
    directions.reserve(at.size());
    for (const Position& p : at) directions.push_back(direction + (is_dynamic(c.inputs) ? p.angle : 0));
    const auto slices = c.machine.skew.slices();
    const bool differ = differ_by_slice(c.machine, c.inputs);
    auto machine = EccentricMachine::of(c, of_slices(at, slices), displacements_of(c.machine, c.inputs),
                                        is_dynamic(c.inputs) ? Eccentricity::Dynamic : Eccentricity::Static);
    if (!machine) return machine.problems();
    OffCentre centred{std::vector<double>(at.size(), 0.0), std::vector<Point>(at.size())}, off = centred;
    std::optional<OffCentre> moved;
    for (std::size_t k = 0; k < slices.size(); ++k) {
        if (differ || !moved) {
            auto found = machine->displaced(polar(distance, direction - (differ ? slices[k].turn : 0)));
            if (!found) return found.problems();
            moved = std::move(*found);
        }
        add_slice(centred, machine->centred(), k, slices[k].share);
        add_slice(off, *moved, k, slices[k].share);
    }
    Displaced(c, centred, off, distance, directions).tell();
    return {};
}

const RegisterQuestion registered{
    {"eccentricity",
     "With current",
     "Rotor off centre",
     "The pull that draws a displaced rotor further aside, and what the displacement does to the torque.",
     {eccentricity_input("Distance of the rotor's axis from the stator's, a length or a share of the gap.",
                         1e-4),
      choice_input(
          "kind", "Kind", {"static", dynamic},
          "Static: the rotor turns about its own axis, which lies beside the stator's. Dynamic: it turns "
          "about the stator's axis, which is not its own, and the narrow side goes round with it."),
      {"direction", "Direction", "deg", "0 deg",
       "Where to, from the middle of the first slot (dynamic: of the first pole). It matters where the machine "
       "does not repeat three times round.",
       -360, 360},
      {"current", "Current (phase, peak)", "A", "= rating.current", "Peak value of the phase current.", 0, 1e6},
      {"advance", "Advance (electrical)", "deg", "= rating.advance", "From +q towards -d.", -360, 360},
      turn_on_input(),
      turn_off_input(),
      {"points", "Positions", "", "120", "Rotor positions over one electrical period.", 12, 2000, true}},
     solves,
     run,
     38,
     {need_round, need_winding, need_no_shell},
     true,
     true}};

} // namespace
} // namespace mavlo::question_eccentricity
