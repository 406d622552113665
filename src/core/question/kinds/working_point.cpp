// One speed and torque: the currents for it, and everything about them.

#include "quantity/constants.h"
#include "question/circumstances.h"
#include "question/drive_inputs.h"
#include "question/plane_curves.h"
#include "question/supply_inputs.h"
#include "question/unknown_losses.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_working_point {
namespace {

int solves(const Machine& machine, const Inputs& inputs) {
    return drive_solves(machine, inputs);
}

Problems run(QuestionContext& c) {
    const auto drive = make_drive(c, drive_limits(c.machine, c.inputs), aim_of(c.inputs));
    if (!drive) return drive.problems();
    const double speed = c.inputs.at("speed"), asked = c.inputs.at("torque");
    const Rating& rating = c.machine.rating;
    // Where the rating leaves it open, what the rated current gives.
    const double torque =
        std::isnan(asked) ? drive->at(current_vector(rating.current, rating.advance), speed).torque : asked;
    const auto p = drive->best(torque, speed);
    if (!p) {
        const auto most = drive->strongest(speed, torque < 0 ? -1 : 1);
        return {
            {"--with torque",
             most ? fmt::format("{:.4g} N·m cannot be had at {:.4g} rpm; the most there is {:.4g} N·m.", torque,
                                speed / rpm, most->torque)
                  : fmt::format("{:.4g} rpm cannot be reached with this voltage and current.", speed / rpm)}};
    }
    const Substance* magnet = c.machine.magnet();
    const double knee = magnet ? magnet->material.magnet.knee_at(magnet->temperature) : -1e3;
    const auto margin = knee > -1e2 ? std::optional(p->magnet_field - knee) : std::nullopt;
    c.answer.figures = {{"torque", p->torque, "N.m"},
                        {"current", p->amplitude(), "A"},
                        {"advance", std::atan2(-p->current.d, p->current.q) * 180 / pi, "deg"},
                        {"id", p->current.d, "A"},
                        {"iq", p->current.q, "A"},
                        {"voltage", p->voltage, "V"},
                        {"power_factor", p->power_factor, "1"},
                        {"copper_loss", p->power.of(LossPart::Copper), "W"},
                        {"winding_stray_loss",
                         drive->map().knows_strands() ? p->power.of(LossPart::WindingStray) : std::nullopt,
                         "W"},
                        {"iron_loss_stator", p->power.of(LossPart::IronStator), "W"},
                        {"iron_loss_rotor", p->power.of(LossPart::IronRotor), "W"},
                        {"magnet_loss", p->power.of(LossPart::Magnets), "W"},
                        {"mechanical_loss", p->power.mechanical(), "W"},
                        {"total_loss", p->power.total(), "W"},
                        {"shaft_power", p->power.shaft(), "W"},
                        {"efficiency", p->power.efficiency(), "1"},
                        {"demagnetisation_margin", margin, "T"},
                        end_inductance_figure(c)};
    if (torque >= 0) { // a generator's currents are the mirror image
        Curve here = plane_curve("working_point");
        add_point(here, p->current);
        for (Curve curve : {current_limit_curve(*drive), torque_curve(*drive, torque),
                            voltage_limit_curve(*drive, speed), here})
            if (!curve.x.empty()) c.answer.curves.push_back(std::move(curve));
    }
    c.answer.sentence =
        fmt::format("{:.4g} N·m at {:.4g} rpm need {:.4g} A peak at {:.3g}° electrical advance and {:.4g} V; "
                    "{}{:.4g} W are lost.",
                    p->torque, speed / rpm, p->amplitude(), std::atan2(-p->current.d, p->current.q) * 180 / pi,
                    p->voltage, p->power.total() ? "" : "at least ", p->power.known_total());
    if (margin)
        c.answer.sentence += *margin > 0
                                 ? fmt::format(" The magnets stay {:.2g} T above their knee.", *margin)
                                 : " The magnets are driven below their knee: ask about demagnetisation.";
    c.answer.sentence += " From the flux map; a question for torque over a turn with these currents checks it.";
    c.answer.sentence += " " + conditions_in_words(c.machine);
    tell_extrapolated_losses(c, p->extrapolated);
    tell_unknown_losses(c);
    return {};
}

std::vector<QuestionInput> inputs() {
    std::vector<QuestionInput> list{
        {"speed", "Speed", "rpm", "= rating.speed", "Speed of the shaft.", 0, 500000},
        {"torque", "Torque", "N.m", "= rating.torque",
         "Wanted torque of the gap's field; negative as a generator.", -1e6, 1e6},
        aim_input()};
    for (auto& input : drive_inputs()) list.push_back(input);
    return list;
}

const RegisterQuestion registered{
    {"working-point",
     "Whole range",
     "Working point",
     "The currents for one speed and torque, with voltage, losses and the magnets' margin.",
     inputs(),
     solves,
     run,
     75,
     {need_winding, need_no_shell, need_dq_frame},
     false,
     true}};

} // namespace
} // namespace mavlo::question_working_point
