#include "machine/tile.h"

#include <cmath>

namespace mavlo {

std::string to_string(Use use) {
    switch (use) {
    case Use::Air:
        return "air";
    case Use::Iron:
        return "iron";
    case Use::Conductor:
        return "conductor";
    case Use::Magnet:
        return "magnet";
    case Use::Solid:
        return "solid";
    }
    return {};
}

IronLossLaw Substance::core_law() const {
    IronLossLaw law = material.loss_at(temperature);
    if (!solid) return law;
    if (law.law == LossLaw::Power) return {};
    law.classical = law.excess = 0;
    return law;
}

Tile unmirrored(const Tile& half) {
    if (!half.mirrored) return half;
    Tile whole = half;
    whole.mirrored = false;
    const auto image = [](Point p) { return Point{p.x, -p.y}; };
    for (const Edge& edge : half.outline.edges) {
        const int from = whole.outline.add(image(half.outline.points[std::size_t(edge.from)])),
                  to = whole.outline.add(image(half.outline.points[std::size_t(edge.to)]));
        if (from == edge.from && to == edge.to) continue; // on the axis, there already
        Edge copy{from, to, edge.centre};
        if (copy.centre) copy.centre = image(*copy.centre);
        whole.outline.edges.push_back(copy);
    }
    for (Region region : half.regions) {
        region.seed = image(region.seed);
        if (region.magnet) region.magnet->angle = -region.magnet->angle;
        whole.regions.push_back(region);
    }
    for (SizeHint hint : half.hints) whole.hints.push_back({image(hint.at), hint.size});
    return whole;
}

} // namespace mavlo
