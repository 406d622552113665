#include "figure/eddy.h"

#include "field/joined_elements.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <iterator>
#include <optional>

namespace mavlo {
namespace {

const Part& part_of(const MachineModel& model, std::size_t element) {
    return model.part(model.elements[element]);
}

EddyBody magnet_body(const MachineModel& model, std::vector<std::size_t> elements, std::optional<double> kept) {
    EddyBody body;
    const Substance& magnet = *model.substance(part_of(model, elements.front()));
    double area = 0;
    const double share = model.share(part_of(model, elements.front()));
    for (std::size_t e : elements) {
        area += model.area(model.elements[e]);
        body.sign.push_back(part_of(model, e).magnet_sign);
    }
    if (magnet.resistivity > 0)
        body.conductivity =
            magnet.filling / magnet.resistivity *
            (kept ? *kept : finite_length_share(magnet.length, body_width(magnet, area / share)));
    body.elements = std::move(elements);
    return body;
}

} // namespace

namespace {

bool is_bar(const Substance& substance) {
    return substance.path == "rotor.bar.material";
}

/// Of the middle of a body's first elements, rad, from the sector's beginning on.
double angle_of_body(const MachineModel& model, const EddyBody& body) {
    const Point at = model.points[std::size_t(model.elements[body.elements.front()].first)].at;
    const double from = model.machine.section.rotor().tile.turn - model.machine.section.rotor().tile.pitch / 2,
                 angle = angle_of(at) - from;
    return angle - 2 * pi * std::floor(angle / (2 * pi));
}

} // namespace

EndRings end_rings(const MachineModel& model, const std::vector<EddyBody>& bodies) {
    EndRings rings;
    if (!model.machine.rings) return rings;
    std::vector<std::pair<double, std::size_t>> bars; // by their angle
    std::size_t net = 0;
    for (const EddyBody& body : bodies) {
        const Substance* substance = model.substance(part_of(model, body.elements.front()));
        if (substance && is_bar(*substance)) bars.emplace_back(angle_of_body(model, body), net);
        if (!body.closed_ends) ++net;
    }
    std::sort(bars.begin(), bars.end());
    for (const auto& [angle, bar] : bars) rings.bars.push_back(bar);
    rings.sign = model.machine.sector().sign;
    rings.length = model.depth;
    rings.resistance = model.machine.rings->resistance;
    rings.inductance = model.machine.rings->inductance;
    rings.bar_ends = model.machine.rings->bar_ends;
    return rings;
}

Conductance conductance_of(const MachineModel& model, std::vector<EddyBody> bodies) {
    EndRings rings = end_rings(model, bodies);
    return make_conductance(model, std::move(bodies), std::move(rings));
}

bool is_shell(const Substance& substance) {
    return substance.path == "rotor.shell.material";
}

Stages stages_for(const MachineModel& model, const std::vector<EddyBody>& bodies) {
    const bool solid = std::any_of(bodies.begin(), bodies.end(), [&](const EddyBody& body) {
        return part_of(model, body.elements.front()).use != Use::Magnet;
    });
    return solid ? Stages::Two : Stages::One;
}

std::vector<std::vector<std::size_t>> magnet_bodies(const MachineModel& model) {
    std::vector<std::vector<std::size_t>> bodies(std::size_t(model.magnets()));
    for (std::size_t i = 0; i < model.elements.size(); ++i)
        if (const Part& part = part_of(model, i); part.magnet >= 0)
            bodies[std::size_t(part.magnet)].push_back(i);
    return bodies;
}

double body_width(const Substance& magnet, double area) {
    return magnet.thickness > 0 ? area * magnet.filling / magnet.thickness : std::sqrt(area);
}

std::vector<EddyBody> solid_bodies(const MachineModel& model) {
    std::map<int, std::vector<std::size_t>> solids; // by their substance
    for (std::size_t i = 0; i < model.elements.size(); ++i) {
        const Part& part = part_of(model, i);
        const Substance* substance = model.substance(part);
        const bool massive = part.use == Use::Solid || (part.use == Use::Iron && substance && substance->solid);
        if (massive && substance && substance->resistivity > 0) solids[part.substance].push_back(i);
    }
    std::vector<EddyBody> bodies;
    for (const auto& [number, elements] : solids) {
        const Substance& substance = model.substances[std::size_t(number)];
        for (JoinedElements& piece : joined_elements(model, elements))
            bodies.push_back(
                {std::move(piece.elements), std::move(piece.sign), 1 / substance.resistivity,
                 // Sectors of opposite sign cancel in the sum over a ring; a shell's ends are joined.
                 piece.reverses || is_shell(substance)});
    }
    return bodies;
}

std::vector<EddyBody> conducting_bodies(const MachineModel& model, const std::vector<double>& kept) {
    std::vector<EddyBody> bodies;
    auto magnets = magnet_bodies(model);
    for (std::size_t k = 0; k < magnets.size(); ++k) {
        EddyBody body =
            magnet_body(model, std::move(magnets[k]), kept.empty() ? std::nullopt : std::optional(kept[k]));
        if (body.conductivity > 0) bodies.push_back(std::move(body));
    }
    auto solids = solid_bodies(model);
    bodies.insert(bodies.end(), std::make_move_iterator(solids.begin()), std::make_move_iterator(solids.end()));
    return bodies;
}

double finite_length_share(double length, double width) {
    assert(length > 0 && width > 0);
    // The currents close the shorter way round whichever side is called the width.
    const double ratio = width / length;
    double sum = 0;
    for (int n = 1; n < 200; n += 2) sum += std::tanh(n * pi / (2 * ratio)) / std::pow(n, 5);
    return 1 - 192 / std::pow(pi, 5) * ratio * sum;
}

std::map<LossPart, double> sorted_losses(const MachineModel& model, const std::vector<EddyBody>& bodies,
                                         const std::vector<double>& losses) {
    std::map<LossPart, double> out;
    for (std::size_t k = 0; k < losses.size(); ++k) {
        const Part& part = part_of(model, bodies[k].elements.front());
        const LossPart what = part.use == Use::Magnet            ? LossPart::Magnets
                              : is_shell(*model.substance(part)) ? LossPart::Shell
                              : is_bar(*model.substance(part))   ? LossPart::Bars
                              : part.use == Use::Solid           ? LossPart::Shaft
                              : model.is_rotor(part.body)        ? LossPart::SolidRotor
                                                                 : LossPart::SolidStator;
        out[what] += losses[k];
    }
    return out;
}

} // namespace mavlo
