#include "question/field_watch.h"

#include "figure/eddy.h"
#include "figure/loss.h"
#include "question/period.h"
#include "question/supply_run.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int pieces_points = 48; ///< of a period

bool has_conducting_magnets(const Machine& machine) {
    const Substance* magnet = machine.magnet();
    return magnet && magnet->resistivity > 0;
}

/// The laws of iron loss want a whole period: after the window the rotor must stand before the stator's field
/// as it did. The stator before a round rotor sees its own period only.
void leave_iron_open(const Machine& machine, TimeRun& time) {
    const double turns = time.run.window_periods * machine.pole_pairs() * time.speed / time.clock.omega;
    if (std::abs(turns - std::round(turns)) < 1e-6) return;
    const bool round = machine.facts().shell;
    time.losses.unknown.add(LossPart::IronRotor);
    if (!round) time.losses.unknown.add(LossPart::IronStator);
    time.left_out = joined_sentences(
        time.left_out,
        fmt::format("In {} period{} of the currents the rotor goes on by {:.4g} of its own, so that the iron "
                    "loss of the {} is left open: ask so many periods that both are whole.",
                    time.run.window_periods, time.run.window_periods == 1 ? "" : "s", turns,
                    round ? "rotor" : "machine"));
}

} // namespace

FieldWatch::FieldWatch(const MachineModel& model, const StackStepper& stepper, double omega)
    : m_stepper(stepper)
    , m_model(model)
    , m_omega(omega)
    , m_losses(model, stepper.slices(), omega)
    , m_eddy(stepper.conductance().bodies.size(), 0.0) {}

void FieldWatch::fill(TimeRun& time) const {
    const auto part = time.run.is_part ? m_model.machine.symmetry.part : std::nullopt;
    const IronInTime::Losses iron = m_losses.iron(part);
    time.strands = m_losses.strands(part);
    time.losses[LossPart::IronStator] = iron.stator;
    time.losses[LossPart::IronRotor] = iron.rotor;
    std::vector<double> mean = m_eddy;
    for (double& loss : mean) loss /= m_time;
    for (const auto& [lost_in, watts] : sorted_losses(m_model, m_stepper.conductance().bodies, mean))
        time.losses[lost_in] = watts;
    if (!m_stepper.conductance().rings.empty()) {
        time.losses[LossPart::Rings] = m_rings / m_time;
        time.bar_current = std::sqrt(m_bar_square / m_time);
    }
    time.losses.eddy_in_field = true;
    time.found = solid_losses_of(m_model.machine);
    leave_iron_open(m_model.machine, time);
}

void FieldWatch::look(const FieldStep& step) {
    const double dt = step.to - step.from;
    if (step.begins) {
        m_losses = StackLosses(m_model, m_stepper.slices(), m_omega);
        for (std::size_t k = 0; k < m_losses.slices(); ++k) m_losses.add(k, 0, m_stepper.field(k));
        std::fill(m_eddy.begin(), m_eddy.end(), 0.0);
        m_time = m_rings = m_bar_square = 0;
    }
    for (std::size_t k = 0; k < m_losses.slices(); ++k) m_losses.add(k, dt, step.at.slices[k].field);
    for (std::size_t k = 0; k < m_eddy.size(); ++k) m_eddy[k] += dt * step.at.eddy_loss[k];
    m_rings += dt * step.at.ring_loss;
    if (const EndRings& rings = m_stepper.conductance().rings; !rings.empty())
        m_bar_square +=
            dt * rings.bar_currents(step.at.slices.front().segments).squaredNorm() / double(rings.count());
    m_time += dt;
}

Result<std::vector<EddyBody>> bodies_with(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                                          const CurrentWave& wave) {
    if (!has_conducting_magnets(c.machine)) return conducting_bodies(*model);
    const auto period = sweep_period_with_loci(model, pieces_points, wave, c.threads, {{}, c.watch.stop});
    if (!period) return period.problems();
    c.answer.effort.solves += pieces_solves(c.machine);
    return conducting_bodies(*model, kept_in_pieces(*model, period->loci));
}

int pieces_solves(const Machine& machine) {
    return has_conducting_magnets(machine) ? period_solves(machine, pieces_points) : 0;
}

std::string pieces_in_words(const Machine& machine) {
    if (!has_conducting_magnets(machine) || machine.magnet()->length > 0.999 * machine.stack_length) return "";
    return "Magnets in axial pieces conduct as much less as their loss falls, order by order, in static "
           "fields; the shorter waves of a carrier would keep more.";
}

} // namespace mavlo
