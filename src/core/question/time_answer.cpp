#include "question/time_answer.h"

#include "figure/strands_in_time.h"
#include "quantity/constants.h"
#include "question/period.h"
#include "question/supply_inputs.h"
#include "question/unknown_losses.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int orders = StrandsInTime::orders; ///< what crosses the strands is compared order by order

using SampleValue = std::function<double(const TransientSample&)>;

double current_of_u(const TransientSample& sample) {
    return sample.current[0];
}

class Teller {
  public:
    Teller(QuestionContext& context, const TimeRun& time)
        : c(context)
        , m_time(time)
        , m_run(time.run)
        , m_bridge(time.supply ? time.supply->bridge() : nullptr)
        , m_figures(window_figures(time.run, m_bridge, time.resistance))
        , m_current(phase_waves(time.run)) {}

    void tell() {
        figures();
        curves();
        spectra();
        sentence();
    }

  private:
    std::vector<std::complex<double>> harmonics(const SampleValue& value) const {
        std::vector<std::complex<double>> all;
        for (int n = 0; n <= orders; ++n) all.push_back(window_harmonic(m_run, n, value));
        return all;
    }

    CopperLoss copper() const {
        return copper_in_time(c.machine, m_current, m_time.resistance, m_figures.copper,
                              m_time.clock.omega / (2 * pi), m_time.strands);
    }

    Balance balance() const {
        const CopperLoss loss = copper();
        Balance b = m_time.losses;
        b.copper_dc = loss.direct;
        b[LossPart::Copper] = loss.alternating;
        b[LossPart::WindingStray] = loss.stray;
        b.set(mechanical_loss(c.machine, m_time.speed));
        b.unknown.add(unknown_losses(c.machine));
        b.unknown.remove(m_time.found);
        b.air_gap = m_figures.torque_mean * m_time.speed;
        b.electrical = m_figures.input_power;
        return b;
    }

    double devices() const { return m_figures.switches + m_figures.diodes; }

    /// Left open where powers that should be the same differ by more than an efficiency bears.
    std::optional<double> told_efficiency(const Balance& b) const {
        const bool steady = m_run.periodic && !m_time.from_start;
        return steady && disagrees(b, devices()) ? std::nullopt : b.efficiency();
    }

    std::optional<double> of_solid(const Balance& b, LossPart part) const {
        return solid_losses_of(c.machine).has(part) ? b.of(part) : std::nullopt;
    }

    void figures() {
        const Balance b = balance();
        const Dq i{m_current[1].real(), m_current[1].imag()};
        const auto of_bridge = [&](double value) { return m_bridge ? std::optional(value) : std::nullopt; };
        const bool has_shell = b.known(LossPart::Shell) > 0, steady = m_run.periodic && !m_time.from_start;
        const bool cage = c.machine.facts().cage;
        const auto known = [](bool is, double value) { return is ? std::optional(value) : std::nullopt; };
        c.answer.figures = {
            {"torque_mean", m_figures.torque_mean, "N.m"},
            {"torque_peak_to_peak", m_figures.torque_peak_to_peak, "N.m"},
            {"current_rms", m_figures.current_rms[0], "A"},
            {"voltage_line_rms", m_figures.line_voltage_rms, "V"},
            {"input_power", m_figures.input_power, "W"},
            {"efficiency", told_efficiency(b), "1"},
            {"current_peak", m_figures.current_peak, "A"},
            {"current_fundamental", std::hypot(i.d, i.q), "A"},
            {"id", i.d, "A"},
            {"iq", i.q, "A"},
            {"dc_current_mean", of_bridge(m_figures.dc_current_mean), "A"},
            {"copper_loss", b.of(LossPart::Copper), "W"},
            {"winding_stray_loss", known(m_time.strands.has_value(), b.known(LossPart::WindingStray)), "W"},
            {"iron_loss_stator", b.of(LossPart::IronStator), "W"},
            {"iron_loss_rotor", b.of(LossPart::IronRotor), "W"},
            {"magnet_loss", b.of(LossPart::Magnets), "W"},
            {"shaft_loss", b.of(LossPart::Shaft), "W"},
            {"shell_loss", known(has_shell, b.known(LossPart::Shell)), "W"},
            {"bar_loss", known(cage, b.known(LossPart::Bars)), "W"},
            {"ring_loss", known(cage, b.known(LossPart::Rings)), "W"},
            {"bar_current_rms", m_time.bar_current, "A"},
            {"solid_loss_stator", of_solid(b, LossPart::SolidStator), "W"},
            {"solid_loss_rotor", of_solid(b, LossPart::SolidRotor), "W"},
            {"switch_loss", of_bridge(devices()), "W"},
            {"mechanical_power", b.air_gap, "W"},
            {"switching_frequency", of_bridge(m_figures.switching_frequency), "Hz"},
            {"periods_to_steady", known(steady, m_run.periods), "1"},
            {"power_unaccounted", known(steady, b.unaccounted(devices())), "1"}};
        c.answer.figures.push_back(end_inductance_figure(c));
        if (is_delta(c.machine))
            c.answer.figures.push_back({"line_current_rms", m_figures.line_current_rms, "A"});
    }

    void add_curve(const std::string& name, const std::string& unit, const SampleValue& value) {
        Curve curve{name, unit, "time", "s", {}, {}};
        const double start = m_run.window.front().t;
        for (const TransientSample& s : m_run.window) {
            curve.x.push_back(s.t - start);
            curve.y.push_back(value(s));
        }
        c.answer.curves.push_back(std::move(curve));
    }

    template <typename OfPhase>
    void add_phases(const std::string& name, const std::string& unit, const OfPhase& value) {
        for (int k = 0; k < 3; ++k)
            add_curve(name + phase_suffix(std::size_t(k)), unit,
                      [&](const TransientSample& s) { return value(s, k); });
    }

    void curves() {
        add_curve("torque", "N.m", [](const TransientSample& s) { return s.torque; });
        add_phases("current_", "A", [](const TransientSample& s, int k) { return s.current[k]; });
        if (is_delta(c.machine))
            add_phases("line_current_", "A", [](const TransientSample& s, int k) { return s.line[k]; });
        add_phases("voltage_", "V", [](const TransientSample& s, int k) { return s.voltage[k]; });
        for (int k = 0; k < 3; ++k) {
            const int next = (k + 1) % 3;
            add_curve("voltage_" + phase_suffix(std::size_t(k)) + phase_suffix(std::size_t(next)), "V",
                      [&](const TransientSample& s) { return s.potential[k] - s.potential[next]; });
        }
        add_phases("flux_linkage_", "Wb", [](const TransientSample& s, int k) { return s.linkage[k]; });
        if (m_bridge) {
            add_curve("dc_current", "A", link_current);
            add_phases("gate_", "1",
                       [](const TransientSample& s, int k) { return double(s.gates[std::size_t(k)]); });
        }
        add_curve("rotor_angle", "deg",
                  [&](const TransientSample& s) { return (m_time.start + m_time.speed * s.t) * 180 / pi; });
    }

    void add_spectrum(const std::string& name, const std::string& unit,
                      const std::vector<std::complex<double>>& waves) {
        Curve curve{name + "_spectrum", unit, "electrical_order", "1", {}, {}};
        for (std::size_t n = 0; n < waves.size(); ++n) {
            curve.x.push_back(double(n));
            curve.y.push_back(std::abs(waves[n]));
        }
        c.answer.curves.push_back(std::move(curve));
    }

    void spectra() {
        add_spectrum("torque", "N.m", harmonics([](const TransientSample& s) { return s.torque; }));
        add_spectrum("current_u", "A", m_current);
        add_spectrum("voltage_uv", "V",
                     harmonics([](const TransientSample& s) { return s.potential[0] - s.potential[1]; }));
    }

    void sentence() {
        const auto efficiency = c.answer.figure("efficiency");
        std::string& out = c.answer.sentence;
        out = fmt::format("On {} at {:.4g} rpm the torque is {:.4g} N·m on average and wavers by {:.3g} N·m; a "
                          "phase carries {:.4g} A rms",
                          m_time.supply_name, m_time.speed * 30 / pi, m_figures.torque_mean,
                          m_figures.torque_peak_to_peak, m_figures.current_rms[0]);
        if (efficiency) out += fmt::format(", efficiency {:.1f} %", 100 * *efficiency);
        out += m_time.from_start ? ". The first periods from no current."
               : m_run.periodic
                   ? fmt::format(". Steady after {} period{}.", m_run.periods, m_run.periods == 1 ? "" : "s")
                   : fmt::format(". No orbit of one period: means over {} periods.", m_run.window_periods);
        if (!m_time.left_out.empty()) out += " " + m_time.left_out;
        const Balance b = balance();
        if (b.efficiency() && !efficiency) out += disagreement_in_words(b, devices());
        tell_unknown_losses(c, m_time.found);
    }

    QuestionContext& c;
    const TimeRun& m_time;
    const SteadyRun& m_run;
    const Bridge* m_bridge;
    WindowFigures m_figures;
    std::vector<std::complex<double>> m_current; ///< of phase U, by order
};

} // namespace

std::vector<std::complex<double>> phase_waves(const SteadyRun& run) {
    std::vector<std::complex<double>> waves;
    for (int n = 0; n <= orders; ++n) waves.push_back(window_harmonic(run, n, current_of_u));
    return waves;
}

CopperLoss copper_in_time(const Machine& machine, const std::vector<std::complex<double>>& waves,
                          double resistance, double direct, double frequency, std::optional<double> strands) {
    std::vector<double> watts;
    for (const auto& wave : waves) watts.push_back(1.5 * resistance * std::norm(wave));
    // Fast ripple has its own skin depth: each order by the slot's leakage field, the magnets' beside them.
    return copper_loss(AcResistance(machine), direct, watts, frequency, strands, false);
}

Dq fundamental_current(const SteadyRun& run) {
    // i_U = d cos(theta) - q sin(theta) = Re((d + j q) e^{j theta}).
    const auto h = window_harmonic(run, 1, current_of_u);
    return {h.real(), h.imag()};
}

void tell_time_run(QuestionContext& context, const TimeRun& run) {
    Teller(context, run).tell();
}

} // namespace mavlo
