#include "question/duty.h"

#include "quantity/constants.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int most_passes = 12;
constexpr double close_enough = 1e-5; ///< of the torque

/// Energies of a duty, J.
class Energies {
  public:
    void add(const Balance& power, double time) {
        for (const LossPart part : all_loss_parts) m_loss[part] += power.known(part) * time;
        m_loss.unknown.add(power.unknown);
        const double shaft = power.known_shaft() * time, terminals = power.terminals() * time;
        m_shaft += shaft;
        (shaft > 0 ? m_out : m_in) += std::abs(shaft);
        (terminals < 0 ? m_out : m_in) += std::abs(terminals);
    }

    /// What comes out at either end over what goes in at either.
    std::optional<double> efficiency() const {
        return m_loss.unknown.empty() && m_in > 0 ? std::optional(m_out / m_in) : std::nullopt;
    }
    std::optional<double> shaft() const {
        return m_loss.unknown.empty() ? std::optional(m_shaft) : std::nullopt;
    }
    const Balance& loss() const { return m_loss; }

  private:
    Balance m_loss{};
    double m_shaft = 0, m_in = 0, m_out = 0;
};

void tell(Answer& answer, const Energies& energies) {
    const Balance& loss = energies.loss();
    const auto with = [&](std::optional<double> own, LossPart more) {
        return own ? std::optional(*own + loss.known(more)) : std::nullopt;
    };
    auto& out = answer.figures;
    out.push_back({"duty_efficiency", energies.efficiency(), "1"});
    out.push_back({"duty_energy_shaft", energies.shaft(), "J"});
    out.push_back({"duty_energy_copper", with(loss.of(LossPart::Copper), LossPart::WindingStray), "J"});
    out.push_back({"duty_energy_iron", with(loss.iron(), LossPart::CarrierIron), "J"});
    out.push_back({"duty_energy_magnet", with(loss.of(LossPart::Magnets), LossPart::CarrierMagnets), "J"});
    out.push_back({"duty_energy_mechanical", loss.mechanical(), "J"});
    if (loss.known(LossPart::Switches) > 0)
        out.push_back({"duty_energy_switches", loss.known(LossPart::Switches), "J"});
    if (const auto efficiency = energies.efficiency())
        answer.sentence +=
            fmt::format(" Over the duty, whose torques are the shaft's, it is {:.2f} %.", 100 * *efficiency);
}

} // namespace

std::vector<QuestionInput> duty_inputs() {
    QuestionInput speeds = auto_list_input("duty_speeds", "Duty: speeds", "rpm",
                                           "Speeds of the duty's points, in turn; auto: no duty.", 0, 500000);
    QuestionInput torques =
        auto_list_input("duty_torques", "Duty: torques", "N.m",
                        "As many torques at the shaft; negative as a generator.", -1e6, 1e6);
    QuestionInput times = auto_list_input("duty_times", "Duty: times", "s", "As many times.", 0, 1e9);
    for (QuestionInput* input : {&speeds, &torques, &times}) input->any_order = true;
    return {speeds, torques, times};
}

std::optional<OperatingPoint> at_shaft_torque(const BestPoint& best, double torque, double speed) {
    double gap = torque;
    auto point = best(gap, speed);
    for (int n = 0; point && speed > 0 && n < most_passes; ++n) {
        const double short_by = torque - point->power.known_shaft() / speed;
        if (std::abs(short_by) <= close_enough * std::abs(torque)) break;
        gap += short_by;
        point = best(gap, speed);
    }
    return point;
}

Problems add_duty(QuestionContext& c, const BestPoint& best) {
    const auto &speeds = c.inputs.list("duty_speeds"), &torques = c.inputs.list("duty_torques"),
               &times = c.inputs.list("duty_times");
    if (speeds.empty() && torques.empty() && times.empty()) return {};
    if (speeds.size() != torques.size() || speeds.size() != times.size())
        return {{"--with duty_speeds",
                 fmt::format("The duty has {} speeds, {} torques and {} times; give as many of each.",
                             speeds.size(), torques.size(), times.size())}};
    Energies energies;
    Curve duty{"duty_point", "N.m", "speed", "rpm", {}, {}};
    for (std::size_t k = 0; k < speeds.size(); ++k) {
        const auto p = at_shaft_torque(best, torques[k], speeds[k]);
        if (!p)
            return {{"--with duty_torques",
                     fmt::format("The duty's point {} ({:.4g} rpm, {:.4g} N·m at the shaft) lies outside the "
                                 "envelope.",
                                 k + 1, speeds[k] / rpm, torques[k])}};
        energies.add(p->power, times[k]);
        duty.x.push_back(speeds[k] / rpm);
        duty.y.push_back(p->torque);
    }
    tell(c.answer, energies);
    c.answer.curves.push_back(std::move(duty));
    return {};
}

} // namespace mavlo
