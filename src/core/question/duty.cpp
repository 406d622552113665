#include "question/duty.h"

#include "quantity/constants.h"

#include <fmt/format.h>

namespace mavlo {
namespace {} // namespace

std::vector<QuestionInput> duty_inputs() {
    QuestionInput speeds = auto_list_input("duty_speeds", "Duty: speeds", "rpm",
                                           "Speeds of the duty's points, in turn; auto: no duty.", 0, 500000);
    QuestionInput torques =
        auto_list_input("duty_torques", "Duty: torques", "N.m", "As many torques.", -1e6, 1e6);
    QuestionInput times = auto_list_input("duty_times", "Duty: times", "s", "As many times.", 0, 1e9);
    for (QuestionInput* input : {&speeds, &torques, &times}) input->any_order = true;
    return {speeds, torques, times};
}

Problems add_duty(QuestionContext& c, const BestPoint& best) {
    const auto &speeds = c.inputs.list("duty_speeds"), &torques = c.inputs.list("duty_torques"),
               &times = c.inputs.list("duty_times");
    if (speeds.empty() && torques.empty() && times.empty()) return {};
    if (speeds.size() != torques.size() || speeds.size() != times.size())
        return {{"--with duty_speeds",
                 fmt::format("The duty has {} speeds, {} torques and {} times; give as many of each.",
                             speeds.size(), torques.size(), times.size())}};
    double output = 0, copper = 0, iron = 0, magnets = 0, mechanical = 0;
    Curve duty{"duty_point", "N.m", "speed", "rpm", {}, {}};
    for (std::size_t k = 0; k < speeds.size(); ++k) {
        const auto p = best(torques[k], speeds[k]);
        if (!p)
            return {{"--with duty_torques",
                     fmt::format("The duty's point {} ({:.4g} rpm, {:.4g} N·m) lies outside the envelope.",
                                 k + 1, speeds[k] / rpm, torques[k])}};
        output += p->power.shaft() * times[k];
        copper += p->power.copper * times[k];
        iron += (p->power.iron_stator + p->power.iron_rotor) * times[k];
        magnets += p->power.magnets * times[k];
        mechanical += p->power.mechanical.total() * times[k];
        duty.x.push_back(speeds[k] / rpm);
        duty.y.push_back(torques[k]);
    }
    const double lost = copper + iron + magnets + mechanical;
    auto& out = c.answer.figures;
    out.push_back(
        {"duty_efficiency", output > 0 ? std::optional(output / (output + lost)) : std::nullopt, "1"});
    out.push_back({"duty_energy_shaft", output, "J"});
    out.push_back({"duty_energy_copper", copper, "J"});
    out.push_back({"duty_energy_iron", iron, "J"});
    out.push_back({"duty_energy_magnet", magnets, "J"});
    out.push_back({"duty_energy_mechanical", mechanical, "J"});
    c.answer.curves.push_back(std::move(duty));
    return {};
}

} // namespace mavlo
