// GapStress in the gap over place and time: the waves that make a machine loud, the pull on a tooth, and the
// pull on the rotor.

#include "figure/gap_stress.h"
#include "quantity/constants.h"
#include "question/period.h"
#include "question/spectrum_curve.h"
#include "question/stroke_inputs.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <fmt/format.h>
#include <mutex>

namespace mavlo::question_gap_forces {
namespace {

using Complex = std::complex<double>;

int solves(const Machine& machine, const Inputs& inputs) {
    return period_solves(machine, int(inputs.at("points")), false) * int(machine.skew.slices().size());
}

/// Amplitudes of the waves sigma = Re sum c_rn e^{j(r alpha - n omega t)}, r from 0 and n of both signs: n > 0
/// goes with the rotor (J.F. Gieras, C. Wang, J.C. Lai, Noise of Polyphase Electric Motors, 2006, ch. 2).
std::vector<std::vector<Complex>> waves(const std::vector<std::vector<double>>& stress, int space, int time) {
    const auto n = double(stress.size());
    std::vector<std::vector<Complex>> out(std::size_t(2 * time + 1),
                                          std::vector<Complex>(std::size_t(space + 1)));
    for (std::size_t k = 0; k < stress.size(); ++k) {
        const auto along = harmonics(stress[k]);
        for (int order = -time; order <= time; ++order) {
            const Complex turn = std::polar(1 / n, 2 * pi * order * double(k) / n);
            const int row = order + time;
            for (int r = 0; r <= space && r < int(along.size()); ++r)
                out[std::size_t(row)][std::size_t(r)] += turn * along[std::size_t(r)];
        }
    }
    // The breathing mode is real: what stands at n and -n is one wave.
    for (int order = 1; order <= time; ++order) {
        Complex &with = out[std::size_t(time) + std::size_t(order)][0],
                &against = out[std::size_t(time) - std::size_t(order)][0];
        with = std::conj(against) + with;
        against = 0;
    }
    return out;
}

class Forces {
  public:
    Forces(QuestionContext& context, std::vector<GapStress> stress, std::vector<double> pull,
           std::vector<double> torque)
        : c(context)
        , m_stress(std::move(stress))
        , m_rotor_pull(std::move(pull))
        , m_torque(std::move(torque))
        , m_frequency(electrical_frequency(c.machine, c.input("speed"))) {}

    void tell() {
        maps();
        tooth();
        pull();
        figures();
    }

  private:
    std::vector<std::vector<double>> part(std::vector<double> GapStress::*which) const {
        std::vector<std::vector<double>> list;
        for (const GapStress& s : m_stress) list.push_back(s.*which);
        return list;
    }

    void maps() {
        const int space = int(c.input("space_orders")), time = int(c.input("time_orders"));
        for (const auto& [name, which] : {std::pair{"stress_radial", &GapStress::radial},
                                          std::pair{"stress_tangential", &GapStress::tangential}}) {
            const auto all = waves(part(which), space, time);
            Map map{name, "Pa", "space_order", "1", "electrical_order", "1", {}, {}, {}};
            for (int r = 0; r <= space; ++r) map.x.push_back(r);
            for (int n = -time; n <= time; ++n) {
                map.y.push_back(n);
                map.z.emplace_back();
                const int row = n + time;
                for (const Complex& wave : all[std::size_t(row)]) map.z.back().push_back(std::abs(wave));
            }
            if (which == &GapStress::radial) largest(map);
            c.answer.maps.push_back(std::move(map));
        }
    }

    /// The strongest radial wave that moves.
    void largest(const Map& map) {
        for (std::size_t j = 0; j < map.y.size(); ++j)
            for (std::size_t i = 0; i < map.x.size(); ++i)
                if (map.y[j] != 0 && map.z[j][i] > m_largest) {
                    m_largest = map.z[j][i];
                    m_space = map.x[i];
                    m_time = map.y[j];
                }
    }

    /// On a tooth over its pitch, towards the gap.
    void tooth() {
        std::vector<double> force;
        for (const GapStress& s : m_stress) force.push_back(tooth_forces(c.machine, s).front());
        m_tooth = peak_to_peak(force);
        add_series("tooth_force_radial", "N", force);
        c.answer.curves.push_back(
            spectrum_curve("tooth_force_radial", "N", force, {"frequency", "Hz", m_frequency}));
    }

    void pull() {
        m_pull = *std::max_element(m_rotor_pull.begin(), m_rotor_pull.end());
        add_series("rotor_pull", "N", m_rotor_pull);
        add_series("torque", "N.m", m_torque);
    }

    void add_series(const std::string& name, const char* unit, const std::vector<double>& values) {
        Curve curve{name, unit, "rotor_angle", "deg", {}, {}};
        for (std::size_t k = 0; k < values.size(); ++k) {
            curve.x.push_back(360.0 / c.machine.pole_pairs() * double(k) / double(values.size()));
            curve.y.push_back(values[k]);
        }
        c.answer.curves.push_back(std::move(curve));
    }

    void figures() {
        c.answer.figures = {{"stress_largest", m_largest, "Pa"},
                            {"space_order_largest", m_space, "1"},
                            {"electrical_order_largest", m_time, "1"},
                            {"frequency_largest", std::abs(m_time) * m_frequency, "Hz"},
                            {"tooth_force_peak_to_peak", m_tooth, "N"},
                            {"rotor_pull_peak", m_pull, "N"},
                            {"torque_mean", mean(m_torque), "N.m"}};
        c.answer.sentence =
            fmt::format("The strongest radial wave that moves has {:.4g} kPa, {:g} periods round the gap and "
                        "{:.5g} Hz; the pull on a tooth wavers by {:.4g} N, and {}.",
                        m_largest / 1e3, m_space, std::abs(m_time) * m_frequency, m_tooth,
                        m_pull > 0 ? fmt::format("the rotor is pulled aside with {:.3g} N at most", m_pull)
                                   : "nothing pulls the rotor aside");
    }

    QuestionContext& c;
    std::vector<GapStress> m_stress;
    std::vector<double> m_rotor_pull, m_torque;
    double m_frequency;
    double m_largest = 0, m_space = 0, m_time = 0, m_tooth = 0, m_pull = 0;
};

void add_share(GapStress& sum, const GapStress& slice, double share) {
    for (const auto which : {&GapStress::radial, &GapStress::tangential}) {
        (sum.*which).resize((slice.*which).size(), 0.0);
        for (std::size_t i = 0; i < (sum.*which).size(); ++i) (sum.*which)[i] += share * (slice.*which)[i];
    }
}

Problems run(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const auto positions =
        electrical_period(c.machine, int(c.input("points")), asked_wave(c.machine, c.inputs));
    // Some forty points between the shortest waves shown, and enough for the slots' edges.
    const int around = places_round(c.machine, std::max(2048, 8 * int(c.input("space_orders"))));
    // Means over the slices of the stack.
    std::vector<GapStress> stress(positions.size());
    std::vector<double> torque(positions.size(), 0.0), pull(positions.size(), 0.0);
    std::vector<Point> pulls(positions.size());
    const bool repeats = c.machine.sector().count > 1; // then nothing pulls the rotor aside
    for (const Slice& slice : c.machine.skew.slices()) {
        auto turned = positions;
        for (Position& p : turned) p.angle += slice.turn;
        const auto results =
            sweep(*model, turned, c.threads, c.watch, [&](std::size_t k, const FieldSolution& field) {
                add_share(stress[k], gap_stress(**model, field, around), slice.share);
                if (!repeats) pulls[k] = pulls[k] + slice.share * rotor_pull(**model, field);
            });
        if (!results) return results.problems();
        for (std::size_t k = 0; k < results->size(); ++k) {
            torque[k] += slice.share * (*results)[k].torque;
            c.answer.effort.newton_steps += (*results)[k].newton_steps;
        }
        c.answer.effort.solves += int(positions.size());
    }
    for (std::size_t k = 0; k < pull.size(); ++k) pull[k] = norm(pulls[k]);
    Forces(c, std::move(stress), std::move(pull), std::move(torque)).tell();
    return {};
}

const RegisterQuestion registered{
    {"gap-forces",
     "With current",
     "Forces in the gap",
     "Radial and tangential stress of the gap's field as waves over place and time; the pull on a tooth.",
     {{"current", "Current (phase, peak)", "A", "= rating.current", "Peak value of the phase current.", 0, 1e6},
      {"advance", "Advance (electrical)", "deg", "= rating.advance", "From +q towards -d.", -360, 360},
      turn_on_input(),
      turn_off_input(),
      {"speed", "Speed", "rpm", "= rating.speed", "Speed of the shaft.", 0, 500000},
      {"points", "Positions", "", "96", "Rotor positions over one electrical period.", 16, 2000, true},
      {"space_orders", "Orders of space", "", "48", "Highest number of periods round the gap.", 4, 500, true},
      {"time_orders", "Orders of time", "", "24", "Highest multiple of the electrical frequency.", 2, 500,
       true}},
     solves,
     run,
     37,
     {need_round, need_winding, need_no_shell},
     true,
     true}};

} // namespace
} // namespace mavlo::question_gap_forces
