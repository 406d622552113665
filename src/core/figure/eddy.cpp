#include "figure/eddy.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <map>

namespace mavlo {
namespace {

const Part& part_of(const MachineModel& model, std::size_t element) {
    return model.part(model.elements[element]);
}

EddyBody magnet_body(const MachineModel& model, std::vector<std::size_t> elements) {
    EddyBody body;
    const Substance& magnet = *model.substance(part_of(model, elements.front()));
    double area = 0;
    for (std::size_t e : elements) {
        area += model.area(model.elements[e]);
        body.sign.push_back(part_of(model, e).magnet_sign);
    }
    if (magnet.resistivity > 0)
        body.conductivity =
            magnet.filling * finite_length_share(magnet.length, body_width(magnet, area)) / magnet.resistivity;
    body.elements = std::move(elements);
    return body;
}

} // namespace

bool is_shell(const Substance& substance) {
    return substance.path == "rotor.shell.material";
}

Stages stages_for(const MachineModel& model, const std::vector<EddyBody>& bodies) {
    const bool solid = std::any_of(bodies.begin(), bodies.end(), [&](const EddyBody& body) {
        return part_of(model, body.elements.front()).use == Use::Solid;
    });
    return solid ? Stages::Two : Stages::One;
}

std::vector<std::vector<std::size_t>> magnet_bodies(const MachineModel& model) {
    std::vector<std::vector<std::size_t>> bodies(std::size_t(model.rotor_mesh().magnets));
    const auto rotor = std::size_t(model.rotor);
    for (std::size_t i = model.first_element[rotor]; i < model.first_element[rotor + 1]; ++i)
        if (const Part& part = part_of(model, i); part.magnet >= 0)
            bodies[std::size_t(part.magnet)].push_back(i);
    return bodies;
}

double body_width(const Substance& magnet, double area) {
    return magnet.thickness > 0 ? area * magnet.filling / magnet.thickness : std::sqrt(area);
}

std::vector<EddyBody> conducting_bodies(const MachineModel& model) {
    std::vector<EddyBody> bodies;
    for (auto& elements : magnet_bodies(model)) {
        EddyBody body = magnet_body(model, std::move(elements));
        if (body.conductivity > 0) bodies.push_back(std::move(body));
    }
    std::map<int, EddyBody> solids; // by their substance
    for (std::size_t i = 0; i < model.elements.size(); ++i) {
        const Part& part = part_of(model, i);
        const Substance* substance = model.substance(part);
        if (part.use != Use::Solid || !substance || substance->resistivity <= 0) continue;
        EddyBody& body = solids[part.substance];
        body.conductivity = 1 / substance->resistivity;
        body.elements.push_back(i);
        body.sign.push_back(1);
        // Sectors of opposite sign cancel in the sum over a ring; and a shell's ends are joined.
        body.closed_ends = model.sector.sign < 0 || is_shell(*substance);
    }
    for (auto& [substance, body] : solids) bodies.push_back(std::move(body));
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

EddyLosses sorted_losses(const MachineModel& model, const std::vector<EddyBody>& bodies,
                         const std::vector<double>& losses) {
    EddyLosses out;
    for (std::size_t k = 0; k < losses.size(); ++k) {
        const Part& part = part_of(model, bodies[k].elements.front());
        (part.use == Use::Magnet            ? out.magnets
         : is_shell(*model.substance(part)) ? out.shell
                                            : out.shaft) += losses[k];
    }
    return out;
}

} // namespace mavlo
