// A rotor that lies beside the stator's axis: how it is pulled further aside, and what that does to the torque.

#include "question/eccentric.h"
#include "question/period.h"
#include "question/stroke_inputs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo::question_eccentricity {
namespace {

/// Positions that tell the whole period.
int positions_of(const Machine& machine, const Inputs& inputs) {
    const bool alike = alike_all_round(machine) && asked_wave(machine, inputs).alike(machine.facts().switched);
    return period_solves(machine, int(inputs.at("points")), alike);
}

int solves(const Machine& machine, const Inputs& inputs) {
    return 2 * positions_of(machine, inputs);
}

double largest(const std::vector<Point>& pull) {
    double most = 0;
    for (const Point& p : pull) most = std::max(most, norm(p));
    return most;
}

class Displaced {
  public:
    Displaced(QuestionContext& context, const OffCentre& centred, const OffCentre& off, double distance,
              double direction)
        : c(context)
        , m_centred(centred)
        , m_off(off)
        , m_distance(distance)
        , m_along(polar(1, direction)) {}

    void tell() {
        const std::vector<double> along = components(m_off.pull, m_along),
                                  across = components(m_off.pull, {-m_along.y, m_along.x});
        const double stiffness = (mean(along) - mean(components(m_centred.pull, m_along))) / m_distance;
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
            "Displaced by {:.3g} mm the rotor is pulled to the narrow side with {:.4g} N, {:.4g} N for each "
            "mm "
            "more or less; the torque wavers by {:.4g} N·m, by {:.4g} N·m with the rotor in the middle.{}",
            m_distance * 1e3, mean(along), stiffness * 1e-3, peak_to_peak(m_off.torque),
            peak_to_peak(m_centred.torque),
            c.machine.winding.paths > 1
                ? " Currents round the parallel paths, which weaken the pull, are left out."
                : "");
    }

  private:
    static std::vector<double> components(const std::vector<Point>& vectors, Point along) {
        std::vector<double> out;
        for (const Point& p : vectors) out.push_back(dot(p, along));
        return out;
    }

    /// Over the whole period, of which what was solved is a part that repeats.
    Curve series(const char* name, const char* unit, const std::vector<double>& values) const {
        Curve curve{name, unit, "rotor_angle", "deg", {}, {}};
        const auto points = std::size_t(c.input("points"));
        for (std::size_t k = 0; k < points; ++k) {
            curve.x.push_back(360.0 / c.machine.pole_pairs() * double(k) / double(points));
            curve.y.push_back(values[k % values.size()]);
        }
        return curve;
    }

    QuestionContext& c;
    const OffCentre &m_centred, &m_off;
    double m_distance;
    Point m_along;
};

Problems run(QuestionContext& c) {
    const double distance = c.input("eccentricity"), direction = c.input("direction");
    if (auto problems = eccentricity_problems(c.machine, distance); !problems.empty()) return problems;
    auto positions = electrical_period(c.machine, int(c.input("points")), asked_wave(c.machine, c.inputs));
    positions.resize(std::size_t(positions_of(c.machine, c.inputs)));
    auto machine = EccentricMachine::of(c, std::move(positions), 1);
    if (!machine) return machine.problems();
    const auto off = machine->displaced(polar(distance, direction));
    if (!off) return off.problems();
    Displaced(c, machine->centred(), *off, distance, direction).tell();
    return {};
}

const RegisterQuestion registered{
    {"eccentricity",
     "With current",
     "Rotor off centre",
     "The pull that draws a displaced rotor further aside, and what the displacement does to the torque.",
     {eccentricity_input("Distance of the rotor's axis from the stator's, a length or a share of the gap.",
                         1e-4),
      {"direction", "Direction", "deg", "0 deg",
       "Where to, from the middle of the first slot. It matters where the machine does not repeat three times "
       "round.",
       -360, 360},
      {"current", "Current (phase, peak)", "A", "= rating.current", "Peak value of the phase current.", 0, 1e6},
      {"advance", "Advance (electrical)", "deg", "= rating.advance", "From +q towards -d.", -360, 360},
      turn_on_input(),
      turn_off_input(),
      {"points", "Positions", "", "120", "Rotor positions over one electrical period.", 12, 2000, true}},
     solves,
     run,
     38,
     {need_winding, need_no_shell},
     true}};

} // namespace
} // namespace mavlo::question_eccentricity
