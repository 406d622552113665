#include "question/solid_loss.h"

#include "figure/eddy.h"
#include "quantity/constants.h"
#include "question/supply_inputs.h"
#include "transient/eddy_steady.h"
#include "winding/strand_loss.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int least_steps = 96, usual_periods = 5;
/// Slots of a three-phase machine turn past a pole so many times in a period, at the least.
constexpr double order_of_slots = 6;

bool shaft_reacts(const Machine& machine, double speed) {
    const Substance* shaft = machine.substance("rotor.shaft_resistivity");
    if (!shaft || shaft->resistivity <= 0 || !machine.values.has("rotor.shaft_diameter")) return false;
    const double f = order_of_slots * electrical_frequency(machine, speed),
                 radius = machine.values.number("rotor.shaft_diameter") / 2;
    return f > 0 && skin_depth(shaft->resistivity, f, 1) < radius;
}

int steps_of(int points) {
    return std::max(points, least_steps);
}

EddySteadyOptions options_of(QuestionContext& c, const CurrentWave& wave) {
    const Machine& m = c.machine;
    const double speed = c.input("speed");
    EddySteadyOptions options;
    options.position = [&m, &wave, speed](double t) {
        const double angle = speed * t;
        return Position{angle, wave.at(electrical_angle(m, angle), m.winding.layout.lags)};
    };
    options.period = 2 * pi / (m.pole_pairs() * speed);
    options.steps = steps_of(int(c.input("points")));
    options.stop = stop_of(c);
    return options;
}

} // namespace

void SolidLoss::add(const SolidLoss& other, double share) {
    for (const auto& [part, watts] : other.loss) loss[part] += share * watts;
    found.add(other.found);
    if (words.empty()) words = other.words;
}

std::string skin_in_words(const Machine& machine, double speed) {
    constexpr double flux_density = 1; // T
    const double f = order_of_slots * electrical_frequency(machine, speed);
    double thinnest = 1e300; // m
    for (const Substance& s : machine.substances) {
        if (!s.solid || s.resistivity <= 0 || f <= 0) continue;
        const double mu_r = flux_density / (mu0 * std::max(s.material.curve.at(flux_density).h, 1e-9));
        thinnest = std::min(thinnest, skin_depth(s.resistivity, f, mu_r));
    }
    if (thinnest > 1) return "";
    return fmt::format(
        "Waves of the slots enter the massive steel some {:.2g} mm deep: where the mesh is coarser "
        "than that, its loss is a rough one.",
        thinnest * 1e3);
}

bool has_massive_parts(const Machine& machine, double speed) {
    return !solid_losses_of(machine).empty() || shaft_reacts(machine, speed);
}

int solid_loss_solves(const Machine& machine, double speed, int points) {
    return speed > 0 && has_massive_parts(machine, speed) ? 2 * usual_periods * steps_of(points) : 0;
}

Result<SolidLoss> solid_loss(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                             const CurrentWave& wave) {
    SolidLoss out;
    const double speed = c.input("speed");
    if (!has_massive_parts(c.machine, speed)) return out;
    out.found = solid_losses_of(c.machine);
    for (const LossPart part : eddy_parts)
        if (out.found.has(part)) out.loss[part] = 0;
    if (speed <= 0) return out;
    auto bodies = solid_bodies(*model);
    FieldStepper stepper(model, conductance_of(*model, bodies));
    const auto steady = find_eddy_steady(stepper, options_of(c, wave));
    if (c.watch.stop.stop_requested()) return stopped();
    if (!steady) return steady.problems();
    out.loss = sorted_losses(*model, bodies, steady->loss);
    for (const auto& [part, watts] : out.loss) out.found.add(part);
    c.answer.effort.newton_steps += stepper.newton_steps();
    out.words = fmt::format(
        "Eddy currents in massive parts, with their own field, were followed in time over {} "
        "periods{}; torque and voltages are those of the field without them.",
        steady->periods, steady->settled ? "" : " and had not settled then, so that their loss is a rough one");
    if (const std::string skin = skin_in_words(c.machine, speed); !skin.empty()) out.words += " " + skin;
    return out;
}

} // namespace mavlo
