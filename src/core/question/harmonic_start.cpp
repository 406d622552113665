#include "question/harmonic_start.h"

#include "circuit/delta.h"
#include "field/harmonic_solver.h"
#include "figure/park.h"
#include "quantity/constants.h"
#include "question/found_supply.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

bool in_the_rotor(const MachineModel& model, const EddyBody& body) {
    const auto rotor = std::size_t(model.rotor);
    return std::all_of(body.elements.begin(), body.elements.end(), [&](std::size_t e) {
        return e >= model.first_element[rotor] && e < model.first_element[rotor + 1];
    });
}

bool serves(const MachineModel& model, const Conductance& conductance) {
    const Facts& facts = model.machine.facts();
    return facts.induced && !facts.magnets && model.machine.skew.slices().size() == 1 && !conductance.empty() &&
           std::all_of(conductance.bodies.begin(), conductance.bodies.end(),
                       [&](const EddyBody& body) { return in_the_rotor(model, body); });
}

HarmonicFeed balanced_feed(const QuestionContext& c, double omega) {
    HarmonicFeed feed;
    feed.frequency = omega / (2 * pi);
    feed.slip = 1 - c.machine.pole_pairs() * c.input("speed") / omega;
    for (double lag : c.machine.winding.layout.lags) feed.wave.push_back(std::polar(1.0, -lag));
    return feed;
}

/// The field at time 0 of what the feed drives.
std::optional<FieldStart> begun(const QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                                const std::shared_ptr<const Conductance>& conductance,
                                const HarmonicFeed& feed) {
    HarmonicSolver solver(model, conductance, phase_axis(c.machine.winding.layout));
    const auto field = solver.solve(feed);
    if (!field) return std::nullopt; // a run from rest takes longer and says what is wrong
    FieldStart start;
    start.slices.push_back({field->potential.re, field->segments.real()});
    for (std::size_t k = 0; k < 3; ++k)
        start.currents[Eigen::Index(k)] = (field->current * feed.wave[k]).real();
    return start;
}

} // namespace

std::optional<FieldStart> harmonic_start(const QuestionContext& c,
                                         const std::shared_ptr<const MachineModel>& model,
                                         const std::shared_ptr<const Conductance>& conductance,
                                         const SupplySettings& settings) {
    const SupplyKind& kind = *registry<SupplyKind>().find(c.inputs.word("supply"));
    const double voltage = fundamental_voltage(kind, settings, c.machine), omega = settings.clock.omega;
    if (!(voltage > 0) || std::isnan(settings.voltage_angle) || !serves(*model, *conductance))
        return std::nullopt;
    HarmonicFeed feed = balanced_feed(c, omega);
    // v = -V sin(theta + delta)
    feed.voltage = std::polar(voltage, settings.voltage_angle + pi / 2);
    feed.impedance = {given_resistance(c), omega * given_end_inductance(c)};
    auto start = begun(c, model, conductance, feed);
    if (start && is_delta(c.machine)) {
        const Eigen::Vector3d phases = start->currents;
        start->currents = terminals_of_delta(phases).array() + phases.mean();
    }
    return start;
}

std::optional<FieldStart> harmonic_start(const QuestionContext& c,
                                         const std::shared_ptr<const MachineModel>& model,
                                         const std::shared_ptr<const Conductance>& conductance, Complex current,
                                         double omega) {
    if (!serves(*model, *conductance)) return std::nullopt;
    HarmonicFeed feed = balanced_feed(c, omega);
    feed.current = current;
    return begun(c, model, conductance, feed);
}

} // namespace mavlo
